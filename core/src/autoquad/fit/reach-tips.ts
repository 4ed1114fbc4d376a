import { Cage } from '../../mesh/cage.ts';
import { triangulate } from '../../mesh/triangulate.ts';
import { uniformMesh } from '../../mesh/polygon-mesh.ts';
import { length, subtract, type Triple } from '../../numeric/vectors.ts';
import { surfacePoint, TriangleBvh } from '../../reference/triangle-bvh.ts';
import { type Subdivision } from '../../subdivide/subdivision.ts';
import { type QuadList } from '../base/quad-list.ts';

/** Points of the surface that are looked at. */
const MOST_POINTS = 60_000;
/** Points farther from the quads than this share of a quad's edge are reached for. */
const MISSED = 0.3;
/** The same against their smooth surface, when that has been fitted. */
const SMOOTH_MISSED = 0.2;
/** A point lies on a line that is no farther off, as a share of a quad's edge. */
const ON_LINE = 1e-4;
const ROUNDS = 3;

/**
 * Tips and deep ends that quads pass by are reached: the vertex nearest to the point that is missed most goes there, and so on
 * for points elsewhere; points on the border are gone to by border vertices, and others by free ones. Changes the list.
 * @param surface vertices of the surface, x, y, z each
 * @param size of a quad's edge
 * @param border the surface's border lines
 * @returns vertices that went to tips
 */
export function reachTips(list: QuadList, surface: Float64Array, size: number, border?: TriangleBvh): Set<number> {
  const { positions, quads, hold } = list;
  const cage = Cage.fromPolygons(uniformMesh(positions, quads, 4));
  const found = surfacePoint();
  const place = (v: number): Triple => [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
  const all = new Set<number>();
  const near = new Int32Array(surface.length / 3).fill(-1);
  for (let round = 0; round < ROUNDS; round++) {
    const mesh = uniformMesh(positions, quads, 4);
    const { triangles } = triangulate(mesh);
    const bvh = new TriangleBvh(positions, triangles);
    const moved = new Set<number>();
    for (const { at, triangle } of missedPoints(bvh, surface, MISSED * size, near)) {
      const corners = [0, 1, 2].map((k) => triangles[3 * triangle + k]);
      // a neighbour has gone there already
      if (corners.some((v) => moved.has(v) || cage.spokes(v).some((h) => moved.has(cage.target(h))))) continue;
      const onBorder = border !== undefined && border.closest(...at, found).distance2 < (ON_LINE * size) ** 2;
      const movable = corners.filter((v) => (onBorder ? cage.isBorderVertex(v) && hold[v] < 2 : !cage.isBorderVertex(v) && hold[v] === 0));
      const far = (v: number) => length(subtract(place(v), at));
      const v = movable.reduce((a, b) => (far(b) < far(a) ? b : a), movable[0]);
      if (v === undefined || far(v) > size) continue;
      positions.set(at, 3 * v);
      moved.add(v);
      all.add(v);
    }
    if (moved.size === 0) break;
  }
  return all;
}

/**
 * Tips and deep ends that the smooth surface of quads passes by.
 * @param smooth of the quads, one level and its limit
 * @param positions of the quads' vertices
 * @param surface vertices of the surface, x, y, z each
 * @param size of a quad's edge
 * @param near as `missedPoints` has it
 * @returns by point of `smooth` where it is to go
 */
export function missedBySmooth(
  smooth: Subdivision,
  positions: Float64Array,
  surface: Float64Array,
  size: number,
  near?: Int32Array
): Map<number, Triple> {
  const points = smooth.evaluate(positions);
  const tree = smoothTree(smooth, points);
  const goals = new Map<number, Triple>();
  for (const { at, triangle } of missedPoints(tree, surface, SMOOTH_MISSED * size, near)) {
    const far = (s: number) => Math.hypot(points[3 * s] - at[0], points[3 * s + 1] - at[1], points[3 * s + 2] - at[2]);
    const nearest = [0, 1, 2].map((k) => tree.triangles[3 * triangle + k]).reduce((a, b) => (far(b) < far(a) ? b : a));
    if (!goals.has(nearest)) goals.set(nearest, at);
  }
  return goals;
}

/** A tree of the last level of quads. @param points its vertices, x, y, z each */
export function smoothTree({ last: { faceStart, faceVertices } }: Subdivision, points: Float64Array): TriangleBvh {
  return new TriangleBvh(points, triangulate({ positions: points, faceStart, faceVertices }).triangles);
}

/**
 * Points of a surface that are farther from triangles than a distance, the farthest first, with the triangle nearest to each.
 * @param near by point a triangle that it was near to before, or -1; changed to those that they are near to now
 */
export function missedPoints(
  bvh: TriangleBvh,
  surface: Float64Array,
  distance: number,
  near: Int32Array = new Int32Array(surface.length / 3).fill(-1)
): { at: Triple; off: number; triangle: number }[] {
  const step = Math.max(1, Math.floor(surface.length / 3 / MOST_POINTS));
  const found = surfacePoint();
  const missed: { at: Triple; off: number; triangle: number }[] = [];
  let last = -1;
  for (let v = 0; v < surface.length / 3; v += step) {
    const at: Triple = [surface[3 * v], surface[3 * v + 1], surface[3 * v + 2]];
    if (near[v] >= 0 && bvh.distance2To(near[v], ...at) < distance ** 2) continue;
    // the next vertex is often near the last: then nothing need be looked for
    near[v] = last;
    if (last >= 0 && bvh.distance2To(last, ...at) < distance ** 2) continue;
    const off = Math.sqrt(bvh.closest(...at, found).distance2);
    near[v] = last = found.triangle;
    if (off > distance) missed.push({ at, off, triangle: found.triangle });
  }
  return missed.sort((a, b) => b.off - a.off);
}
