import { EigenvalueDecomposition, Matrix, solve } from 'ml-matrix';
import { bestFitCircle } from '../numeric/best-fit.ts';
import { add, cross, dot, length, mean, scaled, subtract, type Triple, unit } from '../numeric/vectors.ts';

/** Surfaces that engineers' parts are made of. */
export type Primitive =
  | { kind: 'plane'; normal: Triple; level: number }
  | { kind: 'cylinder'; at: Triple; axis: Triple; radius: number }
  | { kind: 'cone'; apex: Triple; axis: Triple; /** of the angle between axis and side */ cosine: number; sine: number }
  | { kind: 'sphere'; centre: Triple; radius: number }
  | { kind: 'torus'; centre: Triple; axis: Triple; ring: number; radius: number };

/** Steps that a torus is fitted in, and how far its first guess and its last may be off points that reach as far as 1. */
const [STEPS, NEAR, FITS] = [12, 0.3, 1e-3];

/** Measures a place against a primitive: writes the unit normal of the primitive nearest to it, and returns how far off it lies along that, mm. */
export type Probe = (x: number, y: number, z: number, normal: Float64Array) => number;

/** A probe of a primitive: it makes nothing new, so that millions of places can be measured. */
export function probeOf(shape: Primitive): Probe {
  const put = (normal: Float64Array, x: number, y: number, z: number): number => {
    const long = Math.sqrt(x * x + y * y + z * z) || 1;
    normal[0] = x / long;
    normal[1] = y / long;
    normal[2] = z / long;
    return long;
  };
  switch (shape.kind) {
    case 'plane': {
      const [a, b, c] = shape.normal;
      return (x, y, z, normal) => (put(normal, a, b, c), a * x + b * y + c * z - shape.level);
    }
    case 'sphere': {
      const [a, b, c] = shape.centre;
      return (x, y, z, normal) => put(normal, x - a, y - b, z - c) - shape.radius;
    }
    case 'cylinder': {
      const [[a, b, c], [u, v, w]] = [shape.at, shape.axis];
      return (x, y, z, normal) => {
        const high = (x - a) * u + (y - b) * v + (z - c) * w;
        return put(normal, x - a - high * u, y - b - high * v, z - c - high * w) - shape.radius;
      };
    }
    case 'cone': {
      const [[a, b, c], [u, v, w]] = [shape.apex, shape.axis];
      const { sine, cosine } = shape;
      return (x, y, z, normal) => {
        const high = (x - a) * u + (y - b) * v + (z - c) * w;
        const out = put(normal, x - a - high * u, y - b - high * v, z - c - high * w);
        put(normal, cosine * normal[0] - sine * u, cosine * normal[1] - sine * v, cosine * normal[2] - sine * w);
        return out * cosine - high * sine;
      };
    }
    case 'torus': {
      const [[a, b, c], [u, v, w]] = [shape.centre, shape.axis];
      return (x, y, z, normal) => {
        const high = (x - a) * u + (y - b) * v + (z - c) * w;
        put(normal, x - a - high * u, y - b - high * v, z - c - high * w);
        const { ring } = shape;
        return put(normal, x - a - ring * normal[0], y - b - ring * normal[1], z - c - ring * normal[2]) - shape.radius;
      };
    }
  }
}

const scratch = new Float64Array(3);

/** How far a place lies off a primitive, mm; below 0 inside. */
export const offPrimitive = (shape: Primitive, [x, y, z]: Triple): number => probeOf(shape)(x, y, z, scratch);

const across = (d: Triple, axis: Triple): Triple => subtract(d, scaled(axis, dot(d, axis)));

/** The radius that a primitive is known by, mm: of a cone there is none. */
export const radiusOf = (shape: Primitive): number | undefined => ('radius' in shape ? shape.radius : undefined);

export const planeThrough = (p: Triple, normal: Triple): Primitive => ({ kind: 'plane', normal, level: dot(normal, p) });

/** The cylinder through points, its axis along a direction. @returns nothing where they lie on a line */
export function cylinderAlong(points: readonly Triple[], axis: Triple): Primitive | undefined {
  const u = unit(cross(axis, Math.abs(axis[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0]));
  const v = cross(axis, u);
  const circle = bestFitCircle(points.map((p): [number, number] => [dot(p, u), dot(p, v)]));
  return circle && { kind: 'cylinder', at: add(scaled(u, circle.x), scaled(v, circle.y)), axis, radius: circle.radius };
}

/** The sphere through points, least squares (Kasa 1976). @returns nothing where they lie in one plane */
export function sphereThrough(points: readonly Triple[]): Primitive | undefined {
  if (points.length < 4) return undefined;
  const middle = mean(points);
  const rows = points.map((p) => subtract(p, middle));
  const x = solved(
    rows.map((d) => [2 * d[0], 2 * d[1], 2 * d[2], 1]),
    rows.map((d) => dot(d, d))
  );
  if (!x) return undefined;
  const square = x[3] + x[0] ** 2 + x[1] ** 2 + x[2] ** 2;
  return square > 0 ? { kind: 'sphere', centre: add(middle, [x[0], x[1], x[2]]), radius: Math.sqrt(square) } : undefined;
}

/**
 * The cone about the apex and the axis of three planes, each given by a point of it and its normal, as wide as points of it are.
 * @returns nothing where the planes meet in a line, or nowhere
 */
export function coneTouching(planes: readonly { at: Triple; normal: Triple }[], points: readonly Triple[]): Primitive | undefined {
  const [a, b, c] = planes.map(({ normal }) => normal);
  const apex = solved(
    [a, b, c].map((n) => [...n]),
    planes.map(({ at, normal }) => dot(at, normal))
  );
  const way = cross(subtract(b, a), subtract(c, b));
  if (!apex || !(length(way) > 1e-9)) return undefined;
  let axis = unit(way);
  const at: Triple = [apex[0], apex[1], apex[2]];
  // from the apex into the cone
  if (dot(axis, subtract(planes[0].at, at)) < 0) axis = scaled(axis, -1);
  let [out, high] = [0, 0];
  for (const p of points) {
    const d = subtract(p, at);
    out += length(across(d, axis));
    high += dot(d, axis);
  }
  const long = Math.hypot(out, high);
  return long > 0 ? { kind: 'cone', apex: at, axis, sine: out / long, cosine: high / long } : undefined;
}

/**
 * The torus through points with normals: its axis is met by all normals (least squares over line complexes: Pottmann, Randrup 1998), the rest is
 * fitted in steps (Gauss, Newton).
 */
export function torusThrough(points: readonly Triple[], normals: readonly Triple[]): Primitive | undefined {
  if (points.length < 8) return undefined;
  const middle = mean(points);
  const size = Math.max(...points.map((p) => length(subtract(p, middle)))) || 1;
  const local = points.map((p) => scaled(subtract(p, middle), 1 / size));
  const moments = Matrix.zeros(6, 6);
  local.forEach((p, i) => {
    const line = [...cross(p, normals[i]), ...normals[i]];
    for (let r = 0; r < 6; r++) for (let c = 0; c < 6; c++) moments.set(r, c, moments.get(r, c) + line[r] * line[c]);
  });
  const { eigenvectorMatrix } = new EigenvalueDecomposition(moments, { assumeSymmetric: true });
  let [best, least] = [undefined as Torus | undefined, FITS];
  for (const column of [0, 1, 2]) {
    const x = eigenvectorMatrix.getColumn(column);
    const way: Triple = [x[0], x[1], x[2]];
    if (length(way) < 1e-6) continue;
    const axis = unit(way);
    const moment: Triple = scaled([x[3], x[4], x[5]], 1 / length(way));
    const start = startOf(local, axis, cross(axis, moment));
    const fitted = start && farthestOff(local, start) < NEAR ? refined(local, start) : undefined;
    const off = fitted ? farthestOff(local, fitted) : Infinity;
    if (off < least) [best, least] = [fitted, off];
  }
  return (
    best && { kind: 'torus', centre: add(middle, scaled(best.centre, size)), axis: best.axis, ring: size * best.ring, radius: size * best.radius }
  );
}

/** A torus fitted again to more points than it was found by. */
export function refittedTorus(shape: Extract<Primitive, { kind: 'torus' }>, points: readonly Triple[]): Primitive | undefined {
  if (points.length < 8) return undefined;
  const size = shape.ring + shape.radius;
  const local = points.map((p) => scaled(subtract(p, shape.centre), 1 / size));
  const fitted = refined(local, { centre: [0, 0, 0], axis: shape.axis, ring: shape.ring / size, radius: shape.radius / size });
  return (
    fitted && {
      kind: 'torus',
      centre: add(shape.centre, scaled(fitted.centre, size)),
      axis: fitted.axis,
      ring: size * fitted.ring,
      radius: size * fitted.radius
    }
  );
}

interface Torus {
  centre: Triple;
  axis: Triple;
  ring: number;
  radius: number;
}

const farthestOff = (points: readonly Triple[], torus: Torus): number =>
  points.reduce((most, p) => Math.max(most, Math.abs(offPrimitive({ kind: 'torus', ...torus }, p))), 0);

/** A first torus of an axis: in the half plane of each point its circle is fitted. */
function startOf(points: readonly Triple[], axis: Triple, onAxis: Triple): Torus | undefined {
  const flat = points.map((p): [number, number] => {
    const d = subtract(p, onAxis);
    const high = dot(d, axis);
    return [length(subtract(d, scaled(axis, high))), high];
  });
  const circle = bestFitCircle(flat);
  if (!circle || !(circle.radius > 1e-6) || circle.radius > 50) return undefined;
  return { centre: add(onAxis, scaled(axis, circle.y)), axis, ring: circle.x, radius: circle.radius };
}

/** A torus after some steps of least squares; nothing where they do not settle. */
function refined(points: readonly Triple[], start: Torus): Torus | undefined {
  let now = start;
  const offs = (torus: Torus) => {
    const probe = probeOf({ kind: 'torus', ...torus });
    return points.map(([x, y, z]) => probe(x, y, z, scratch));
  };
  const moved = ({ centre, axis, ring, radius }: Torus, d: readonly number[]): Torus => {
    const u = unit(cross(axis, Math.abs(axis[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0]));
    const v = cross(axis, u);
    return {
      centre: add(centre, [d[0], d[1], d[2]]),
      axis: unit(add(axis, add(scaled(u, d[3]), scaled(v, d[4])))),
      ring: ring + d[5],
      radius: radius + d[6]
    };
  };
  const step = 1e-6;
  for (let time = 0; time < STEPS; time++) {
    const at = offs(now);
    const columns = Array.from({ length: 7 }, (_, k) => {
      const there = offs(
        moved(
          now,
          Array.from({ length: 7 }, (__, i) => (i === k ? step : 0))
        )
      );
      return there.map((x, i) => (x - at[i]) / step);
    });
    const change = solved(
      points.map((_, i) => columns.map((column) => column[i])),
      at.map((x) => -x),
      1e-9
    );
    if (!change || change.some((x) => !Number.isFinite(x))) return undefined;
    now = moved(now, change);
    if (Math.max(...change.map(Math.abs)) < 1e-10) break;
  }
  return now.radius > 0 && Number.isFinite(now.ring) ? { ...now, ring: Math.abs(now.ring) } : undefined;
}

/** Least squares by the normal equations. @param damping that keeps what is not determined where it is */
function solved(rows: readonly (readonly number[])[], right: readonly number[], damping = 0): number[] | undefined {
  const many = rows[0].length;
  const left = Matrix.zeros(many, many);
  const to = Matrix.zeros(many, 1);
  rows.forEach((row, i) => {
    for (let r = 0; r < many; r++) {
      to.set(r, 0, to.get(r, 0) + row[r] * right[i]);
      for (let c = 0; c < many; c++) left.set(r, c, left.get(r, c) + row[r] * row[c]);
    }
  });
  for (let r = 0; r < many; r++) left.set(r, r, left.get(r, r) + damping);
  try {
    const x = solve(left, to).getColumn(0);
    return x.every(Number.isFinite) ? x : undefined;
  } catch {
    // singular: the points do not determine it
    return undefined;
  }
}
