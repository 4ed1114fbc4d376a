import { deviation } from '../check/measures.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { type Triple } from '../numeric/vectors.ts';
import { type TriangleBvh } from '../reference/triangle-bvh.ts';
import { Subdivision } from '../subdivide/subdivision.ts';
import { missedPoints, smoothTree } from './reach-tips.ts';

/** A smooth surface and the input that lie no farther apart than this share of the input's diagonal are near enough. */
const CLOSE = 0.0025;

/** How far the smooth surface of quads and the input lie apart, mm. */
export interface Closeness {
  /** of the smooth surface's places (of each vertex, edge and face) from the input */
  mean: number;
  most: number;
  /** the place of the input that lies farthest off the smooth surface, where one is not near enough */
  missed?: { at: Triple; off: number };
  /** places of both surfaces that lie farther apart than is near enough */
  apart: Triple[];
  /** the larger distance of both ways over what is near enough: 1 or less is well */
  share: number;
}

/** What quads are laid over: its vertices, x, y, z each, their tree, and the diagonal of its bounds, mm. */
interface Input {
  dense: { positions: Float64Array };
  bvh: TriangleBvh;
  diagonal: number;
}

/** @param subdivision of the quads, one level and its limit */
export function closenessOf(
  mesh: PolygonMesh,
  { dense, bvh, diagonal }: Input,
  subdivision = new Subdivision(mesh, { levels: 1, limit: true })
): Closeness {
  const near = CLOSE * diagonal;
  const places = subdivision.evaluate(mesh.positions);
  const { mean, most, distance } = deviation(bvh, places);
  const missed = missedPoints(smoothTree(subdivision, places), dense.positions, near);
  const apart: Triple[] = missed.map(({ at }) => at);
  distance.forEach((d, s) => {
    if (d > near) apart.push([places[3 * s], places[3 * s + 1], places[3 * s + 2]]);
  });
  return { mean, most, missed: missed.at(0), apart, share: Math.max(most, missed.at(0)?.off ?? 0) / near };
}
