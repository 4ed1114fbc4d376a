import { edgesBeyond } from '../../fill/bridge.ts';
import { Cage } from '../../mesh/cage.ts';
import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { borderLoops } from '../../mesh/topology.ts';
import { mean, type Triple, length, subtract } from '../../numeric/vectors.ts';
import { TriangleBvh, surfacePoint } from '../../reference/triangle-bvh.ts';
import { type Guide } from '../base/options.ts';
import { type OwnBorder, apart } from './join-along.ts';

/** A seam's count is asked for all round the new quads where they would have as many within this share. */
const NEAR_COUNT = 0.3;
/** An edge lies on the surface's border where its middle is no farther off than this share of the open edges' length. */
const ON_BORDER = 0.15;

/** Tells edges on the surface's own border from those where bare surface ends. */
export function ownBorderOf(border: TriangleBvh | undefined, gap: number): OwnBorder {
  const found = surfacePoint();
  return (cage, h) => {
    if (!border) return false;
    border.closest(...mean([cage.position(cage.origin[h]), cage.position(cage.target(h))]), found);
    return found.distance2 < (ON_BORDER * gap) ** 2;
  };
}

/** Closed borders of a piece that were cut along the cage's open edges. */
export function contoursOf(piece: PolygonMesh, isOwn: OwnBorder): Triple[][] {
  const cage = Cage.fromPolygons(piece);
  return borderLoops(cage)
    .filter((halves) => !halves.some((h) => isOwn(cage, h)))
    .map((halves) => halves.map((h) => cage.position(cage.origin[h])));
}

/** Closed guides along cut borders that ask for the counts of the open edges beside them, where those nearly come of themselves. */
export function seamGuides(contours: Triple[][], kept: Cage, gap: number, size: number): Guide[] {
  const rims = borderLoops(kept).map((halves) => ({ halves, places: halves.map((h) => kept.position(kept.origin[h])) }));
  return contours.flatMap((points): Guide[] => {
    const rim = rims.reduce((best, other) => (apart(points, other.places) < apart(points, best.places) ? other : best));
    const count = edgesBeyond(kept, { halves: rim.halves, closed: true });
    if (apart(points, rim.places) > 3 * gap || Math.abs(lengthRound(points) / size / count - 1) > NEAR_COUNT) return [];
    return [{ points, influence: 0, closed: true, count, silent: true }];
  });
}

export const lengthRound = (points: readonly Triple[]): number =>
  points.reduce((sum, p, i) => sum + length(subtract(points[(i + 1) % points.length], p)), 0);
