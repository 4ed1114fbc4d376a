import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { lookingAlong, surfacePoint } from '../../reference/triangle-bvh.ts';
import { Subdivision } from '../../subdivide/subdivision.ts';
import { placeNormals } from './place-normals.ts';
import { missedPoints, smoothTree } from './reach-tips.ts';
import { type LaidPart } from '../input/surface.ts';

/** A smooth surface and the input that lie no farther apart than this share of the input's diagonal are near enough. */
const CLOSE = 0.0025;

/** How far the smooth surface of quads and the input lie apart, mm. */
export interface Closeness {
  /** of the smooth surface's places (of each vertex, edge and face) from the input */
  mean: number;
  most: number;
  /** the place of the input that lies farthest off the smooth surface, where one is not near enough */
  missed?: { at: Triple; off: number };
  /** places of both surfaces that lie farther apart than is near enough; of the smooth one also those that lie near another side of the input alone */
  apart: Triple[];
  /** the largest distance of these over what is near enough: 1 or less is well */
  share: number;
}

/** What quads are laid over: its vertices, x, y, z each, the tree of its triangles, and their unit normals. */
interface Input extends Pick<LaidPart, 'bvh' | 'normals'> {
  dense: { positions: Float64Array };
}

/**
 * @param diagonal of the input's bounds, mm
 * @param subdivision of the quads, one level and its limit
 */
export function closenessOf(
  mesh: PolygonMesh,
  { dense, bvh, normals }: Input,
  diagonal: number,
  subdivision = new Subdivision(mesh, { levels: 1, limit: true })
): Closeness {
  const near = CLOSE * diagonal;
  const places = subdivision.evaluate(mesh.positions);
  const missed = missedPoints(smoothTree(subdivision, places), dense.positions, near);
  const apart: Triple[] = missed.map(({ at }) => at);
  const looks = placeNormals(subdivision.last, places);
  const found = surfacePoint();
  let [sum, most, farthest] = [0, 0, missed.at(0)?.off ?? 0];
  for (let s = 0; s < places.length / 3; s++) {
    const at: Triple = [places[3 * s], places[3 * s + 1], places[3 * s + 2]];
    let off = Math.sqrt(bvh.closest(...at, found, Infinity, undefined, found.triangle).distance2);
    sum += off;
    most = Math.max(most, off);
    // the wall of a toe may have come near that of the next one
    const own = lookingAlong(normals, looks.subarray(3 * s, 3 * s + 3), 0);
    if (!own(found.triangle)) {
      const nearest = found.triangle;
      if (bvh.closest(...at, found, Infinity, own).triangle >= 0) off = Math.sqrt(found.distance2);
      else found.triangle = nearest;
    }
    if (off > near) apart.push(at);
    farthest = Math.max(farthest, off);
  }
  return { mean: (3 * sum) / places.length, most, missed: missed.at(0), apart, share: farthest / near };
}
