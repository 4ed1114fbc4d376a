import { cornersAtVertices } from '../mesh/polygon-mesh.ts';
import { between, dot, mean, type Triple } from '../numeric/vectors.ts';
import { lookingAlong, surfacePoint } from '../reference/triangle-bvh.ts';
import { type Reference } from '../reference/reference.ts';

/** Where something lies on a reference. */
export interface Anchor {
  triangle: number;
  at: Triple;
}

/** Edges that one step crosses at most. */
const MOST_CROSSED = 20_000;
/** Share of an edge that is nothing. */
const NOTHING = 1e-12;
/** Share of the way to the middle of a triangle by which a place is moved into it. */
const INSIDE = 1e-3;
/** Cosine of the angle beyond which a point of the reference looks another way: it belongs to another side. */
const LOOKS_AWAY = 0.2;

const known = new WeakMap<Reference, SurfaceWalk>();

/**
 * Steps over a reference from triangle to triangle: what is moved so stays on its side, however thin the part or near the next one. Straight ways go
 * on straight over edges (Polthier, Schmies 1998); at a border they end.
 */
export class SurfaceWalk {
  /** by corner of a triangle, the triangle across the edge that begins there, or -1 */
  private readonly across: Int32Array;
  private readonly found = surfacePoint();

  private constructor(readonly reference: Reference) {
    this.across = neighbours(reference.triangles, reference.mesh.positions.length / 3);
  }

  /** The walk over a reference; what it needs is found once. */
  static over(reference: Reference): SurfaceWalk {
    const present = known.get(reference);
    if (present) return present;
    const made = new SurfaceWalk(reference);
    known.set(reference, made);
    return made;
  }

  /** The nearest place of the reference, of those that look along a normal where one is given. @returns nothing where none does */
  nearest(p: Triple, normal?: Triple): Anchor | undefined {
    const { bvh, normals } = this.reference;
    const { triangle, x, y, z } = bvh.closest(...p, this.found, Infinity, normal && lookingAlong(normals, normal, LOOKS_AWAY));
    return triangle < 0 ? undefined : { triangle, at: [x, y, z] };
  }

  /** Unit normal of the reference at a place. */
  normalAt({ triangle }: Anchor): Triple {
    const { normals } = this.reference;
    return [normals[3 * triangle], normals[3 * triangle + 1], normals[3 * triangle + 2]];
  }

  /**
   * Goes on over the surface.
   * @param step mm; what of it stands on the surface at the start is left out
   * @returns where it ends, and the direction it goes on in there, as long as the step
   */
  step(from: Anchor, step: Triple): Anchor & { way: Triple } {
    const { triangles, normals, mesh } = this.reference;
    const p = mesh.positions;
    let { triangle: t } = from;
    const at: Triple = [...from.at];
    const d: Triple = flattened(step, normals, t);
    const whole = Math.hypot(...d);
    let left = whole;
    let came = -1;
    for (let crossed = 0; crossed < MOST_CROSSED && left > NOTHING * whole; crossed++) {
      const long = Math.hypot(...d);
      if (!(long > 0)) break;
      for (let k = 0; k < 3; k++) d[k] *= left / long;
      const [nx, ny, nz] = [normals[3 * t], normals[3 * t + 1], normals[3 * t + 2]];
      let [share, edge] = [1, -1];
      for (let c = 0; c < 3; c++) {
        if (3 * t + c === came) continue;
        const [a, b] = [3 * triangles[3 * t + c], 3 * triangles[3 * t + ((c + 1) % 3)]];
        const [ex, ey, ez] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
        // into the triangle, at right angles to the edge
        const [mx, my, mz] = [ny * ez - nz * ey, nz * ex - nx * ez, nx * ey - ny * ex];
        const rate = d[0] * mx + d[1] * my + d[2] * mz;
        if (rate >= 0) continue;
        const room = (at[0] - p[a]) * mx + (at[1] - p[a + 1]) * my + (at[2] - p[a + 2]) * mz;
        const until = Math.max(0, room) / -rate;
        if (until < share) [share, edge] = [until, 3 * t + c];
      }
      for (let k = 0; k < 3; k++) at[k] += share * d[k];
      left *= 1 - share;
      if (edge < 0) break;
      const next = this.across[edge];
      if (next < 0) break;
      came = this.unfold(d, edge, next);
      t = next;
    }
    return { triangle: t, at: onTriangle(at, p, triangles, t), way: scaledTo(d, whole) };
  }

  /**
   * The closed line in which the plane through a place cuts the surface there.
   * @param normal of the plane
   * @returns places on the edges it crosses, in order; nothing where it runs into a border
   */
  section(from: Anchor, normal: Triple): Triple[] | undefined {
    const { triangles, mesh } = this.reference;
    const p = mesh.positions;
    // a little inside its triangle: a plane through a vertex may leave the triangle to one side
    const corner = (c: number): Triple => [0, 1, 2].map((k) => p[3 * triangles[3 * from.triangle + c] + k]) as Triple;
    const middle = mean([corner(0), corner(1), corner(2)]);
    const level = dot(normal, between(from.at, middle, INSIDE));
    const height = (v: number) => normal[0] * p[3 * v] + normal[1] * p[3 * v + 1] + normal[2] * p[3 * v + 2] - level;
    // a vertex in the plane counts as above it, so that the line passes edges alone
    const crosses = (c: number) => height(triangles[c]) >= 0 && height(triangles[nextCorner(c)]) < 0;
    const outOf = (t: number) => [3 * t, 3 * t + 1, 3 * t + 2].find(crosses);
    const first = outOf(from.triangle);
    if (first === undefined) return undefined;
    const line: Triple[] = [];
    for (let c = first; line.length < MOST_CROSSED;) {
      const [v, w] = [triangles[c], triangles[nextCorner(c)]];
      const share = height(v) / (height(v) - height(w));
      line.push([0, 1, 2].map((k) => p[3 * v + k] + share * (p[3 * w + k] - p[3 * v + k])) as Triple);
      const next = this.across[c];
      const out = next < 0 ? undefined : outOf(next);
      if (out === undefined) return undefined;
      if (out === first) return line;
      c = out;
    }
    return undefined;
  }

  /** Turns a direction from one triangle into the next about the edge between them. @returns the corner of the next where that edge begins */
  private unfold(d: Triple, edge: number, next: number): number {
    const { triangles, normals, mesh } = this.reference;
    const p = mesh.positions;
    const [a, b] = [triangles[edge], triangles[nextCorner(edge)]];
    let e: Triple = [p[3 * b] - p[3 * a], p[3 * b + 1] - p[3 * a + 1], p[3 * b + 2] - p[3 * a + 2]];
    e = scaledTo(e, 1);
    const along = d[0] * e[0] + d[1] * e[1] + d[2] * e[2];
    const off = Math.sqrt(Math.max(0, d[0] ** 2 + d[1] ** 2 + d[2] ** 2 - along ** 2));
    const [x, y, z] = [normals[3 * next], normals[3 * next + 1], normals[3 * next + 2]];
    // the next triangle has the edge the other way round: into it is to the right
    const into: Triple = [e[1] * z - e[2] * y, e[2] * x - e[0] * z, e[0] * y - e[1] * x];
    for (let k = 0; k < 3; k++) d[k] = along * e[k] + off * into[k];
    for (let c = 3 * next; c < 3 * next + 3; c++) if (triangles[c] === b) return c;
    return -1;
  }
}

/** The corner after one, in its triangle. */
const nextCorner = (c: number): number => (c % 3 === 2 ? c - 2 : c + 1);

/** What of a vector lies along a triangle. */
function flattened(v: Triple, normals: Float64Array, t: number): Triple {
  const off = v[0] * normals[3 * t] + v[1] * normals[3 * t + 1] + v[2] * normals[3 * t + 2];
  return [v[0] - off * normals[3 * t], v[1] - off * normals[3 * t + 1], v[2] - off * normals[3 * t + 2]];
}

function scaledTo(v: Triple, length: number): Triple {
  const own = Math.hypot(...v);
  const share = own > 0 ? length / own : 0;
  return [v[0] * share, v[1] * share, v[2] * share];
}

/** A place brought onto the plane of its triangle: what rounding has taken it off by over many edges. */
function onTriangle(at: Triple, p: Float64Array, triangles: Uint32Array, t: number): Triple {
  const [a, b, c] = [0, 1, 2].map((k) => 3 * triangles[3 * t + k]);
  const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
  const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
  const n: Triple = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const square = n[0] ** 2 + n[1] ** 2 + n[2] ** 2;
  if (!(square > 0)) return at;
  const off = ((at[0] - p[a]) * n[0] + (at[1] - p[a + 1]) * n[1] + (at[2] - p[a + 2]) * n[2]) / square;
  return [at[0] - off * n[0], at[1] - off * n[1], at[2] - off * n[2]];
}

/** By corner the triangle across the edge that begins there; -1 at borders, and where triangles are turned against each other. */
function neighbours(triangles: Uint32Array, vertices: number): Int32Array {
  const { start, corner } = cornersAtVertices(triangles, vertices);
  const across = new Int32Array(triangles.length).fill(-1);
  for (let c = 0; c < triangles.length; c++) {
    const [a, b] = [triangles[c], triangles[nextCorner(c)]];
    // of edges that leave b, the one to a
    for (let i = start[b]; i < start[b + 1]; i++)
      if (triangles[nextCorner(corner[i])] === a) {
        across[c] = Math.floor(corner[i] / 3);
        break;
      }
  }
  return across;
}
