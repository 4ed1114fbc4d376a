import { dot, length, mean, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { surfacePoint, type SurfacePoint, type TriangleBvh } from '../../reference/triangle-bvh.ts';

/** A way follows a line where its middle is off by no more than this share of its length: as much as a tight bend is. */
const OFF = 0.2;
/** Cosine of the angle between the two, at least. */
const ALONG = 0.8;

/**
 * Whether the straight way from one place to another follows one of some lines.
 * @param lines an edge a triangle, see `linesOf`
 * @param found takes up the place on them that is nearest to the middle of the way
 */
export function followsLine(lines: TriangleBvh, from: Triple, to: Triple, found: SurfacePoint): boolean {
  const way = subtract(to, from);
  lines.closest(...mean([from, to]), found);
  const [a, b] = [0, 1].map((k) => 3 * lines.triangles[3 * found.triangle + k]).map((i) => [...lines.positions.subarray(i, i + 3)]);
  return Math.sqrt(found.distance2) <= OFF * length(way) && Math.abs(dot(unit(subtract(b, a)), unit(way))) >= ALONG;
}

/** Whether a place is no farther off some lines than so many mm. */
export const liesOn = (lines: TriangleBvh, [x, y, z]: Triple, within: number): boolean =>
  lines.closest(x, y, z, surfacePoint(), within ** 2).triangle >= 0;
