import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { placeAlong, waysAlong } from '../numeric/curve.ts';
import { PointGrid } from '../numeric/point-grid.ts';
import { cross, length, scaled, subtract, type Triple, unit } from '../numeric/vectors.ts';
import { type Act, type Place, there } from './acts.ts';
import { type Anchor, type SurfaceWalk } from './surface-walk.ts';

/** A strip of quads along a stroke. */
export interface BandSettings {
  /** quads along; 0: as many as make them about square */
  along: number;
  across: number;
  /** mm */
  width: number;
  /** it comes back to where it began */
  closed: boolean;
}

/** Times that directions across are evened out along the stroke: an unsteady hand does not twist it. */
const STEADIED = 3;
/** Near misses are told up to so many weld distances. */
const MISSED = 2.5;

/** Why a stroke makes no band; nothing where it does. @param stroke places on the reference */
export function bandProblem(stroke: readonly Triple[], { width }: BandSettings): string | undefined {
  if (stroke.length < 2) return 'A band needs a stroke: drag over the reference.';
  const long = waysAlong(stroke).at(-1)!;
  return long < 0.1 * width ? `The stroke is ${long.toFixed(2)} mm long: too short for a band ${width} mm wide.` : undefined;
}

/**
 * A strip of quads along a stroke on a reference: the stroke is parted evenly, directions across are those of normal and stroke, and both sides are
 * walked to over the surface.
 * @param stroke places on the reference, two or more
 * @returns rows of places across, one after the other, and the faces as an act
 */
export function bandAlong(
  walk: SurfaceWalk,
  stroke: readonly Triple[],
  { along, across, width, closed }: BandSettings
): { act: Extract<Act, { do: 'faces' }>; rows: number } {
  const way = closed ? [...stroke, stroke[0]] : stroke;
  const reached = waysAlong(way);
  const long = reached.at(-1)!;
  const many = along > 0 ? along : Math.max(closed ? 3 : 1, Math.round((long * across) / width));
  const rows = closed ? many : many + 1;
  let last: Triple | undefined;
  const middle = Array.from({ length: rows }, (_, i): Anchor => {
    const p = placeAlong(way, reached, (i * long) / many);
    // the next one lies on the same side
    const anchor = walk.nearest(p, last) ?? walk.nearest(p)!;
    last = walk.normalAt(anchor);
    return anchor;
  });
  const sides = directionsAcross(walk, middle, closed);
  const places: Place[] = middle.flatMap((anchor, i) =>
    Array.from({ length: across + 1 }, (_, j) => walk.step(anchor, scaled(sides[i], (j / across - 0.5) * width)).at)
  );
  const at = (i: number, j: number) => (i % rows) * (across + 1) + j;
  const faces = Array.from({ length: many }, (_, i) =>
    Array.from({ length: across }, (_, j) => [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)])
  ).flat();
  return { act: { do: 'faces', places, faces }, rows };
}

/** Unit directions across a row of places, along the surface and to the left. */
function directionsAcross(walk: SurfaceWalk, row: readonly Anchor[], closed: boolean): Triple[] {
  const many = row.length;
  const next = (i: number, by: number) => (closed ? (i + by + many) % many : Math.min(many - 1, Math.max(0, i + by)));
  const normals = row.map((anchor) => walk.normalAt(anchor));
  let sides = row.map((_, i) => unit(cross(normals[i], subtract(row[next(i, 1)].at, row[next(i, -1)].at))));
  for (let time = 0; time < STEADIED; time++)
    sides = sides.map((own, i) => {
      const [a, b] = [sides[next(i, -1)], sides[next(i, 1)]];
      const sum: Triple = [0, 1, 2].map((k) => own[k] + 0.5 * (a[k] + b[k])) as Triple;
      const off = sum[0] * normals[i][0] + sum[1] * normals[i][1] + sum[2] * normals[i][2];
      return unit([sum[0] - off * normals[i][0], sum[1] - off * normals[i][1], sum[2] - off * normals[i][2]]);
    });
  return sides;
}

/** What a new strip meets: its places, with those within the weld distance of a border vertex put there. */
export interface Welded {
  places: Place[];
  welds: number;
  /** places that just miss one, and by how many mm */
  misses: { at: Triple; by: number }[];
}

/** Welds what lies on the outline of new faces to border vertices of a cage within a distance; every vertex is taken once. */
export function weldedTo(cage: Cage, { places, faces }: Extract<Act, { do: 'faces' }>, weld: number): Welded {
  const open = new PointGrid(MISSED * weld || Number.MIN_VALUE);
  for (const v of cage.vertices()) if (cage.vertexEdge[v] === NONE || cage.isBorderVertex(v)) open.put(v, ...cage.position(v));
  const pairs: { i: number; v: number; by: number }[] = [];
  for (const i of outlineOf(faces)) {
    const [x, y, z] = places[i];
    open.visitNear(x, y, z, (v) => {
      const by = length(subtract(cage.position(v), [x, y, z]));
      if (by < MISSED * weld) pairs.push({ i, v, by });
    });
  }
  pairs.sort((a, b) => a.by - b.by);
  const taken = new Set<number>();
  const met = new Set<number>();
  const put = [...places];
  const misses: Welded['misses'] = [];
  for (const { i, v, by } of pairs) {
    if (taken.has(v) || met.has(i)) continue;
    met.add(i);
    taken.add(v);
    const [x, y, z] = places[i];
    if (by > weld) misses.push({ at: [x, y, z], by });
    else put[i] = there(cage.position(v));
  }
  return { places: put, welds: met.size - misses.length, misses };
}

/** Numbers of the corners on the outline of some faces. */
function outlineOf(faces: readonly number[][]): Set<number> {
  const sides = new Map<string, [number, number]>();
  for (const corners of faces)
    corners.forEach((a, i) => {
      const b = corners[(i + 1) % corners.length];
      if (!sides.delete(`${b} ${a}`)) sides.set(`${a} ${b}`, [a, b]);
    });
  return new Set([...sides.values()].flat());
}
