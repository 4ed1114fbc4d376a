import { type Cage } from '../mesh/cage.ts';
import { movedVertices } from '../mesh/difference.ts';
import { NONE } from '../mesh/half-edges.ts';
import { mergeVertices } from '../mesh/merge-vertices.ts';
import { PointGrid } from '../numeric/point-grid.ts';
import { takenOnce, type Pair } from '../numeric/taken-once.ts';

/**
 * Welds border vertices that were moved onto border vertices that stayed, within a distance; the nearest first, each once. Those that share an edge
 * stay two.
 * @param now changed
 * @param within mm
 * @returns how many welded
 */
export function joinMet(before: Cage, now: Cage, within: number): number {
  const moved = new Set(movedVertices(before, now));
  const open = new PointGrid(within || Number.MIN_VALUE);
  const isOpen = (v: number) => now.vertexEdge[v] !== NONE && now.isBorderVertex(v);
  for (const v of now.vertices()) if (!moved.has(v) && isOpen(v)) open.put(v, ...now.position(v));
  const pairs: Pair[] = [];
  for (const from of moved) {
    if (!isOpen(from)) continue;
    const [x, y, z] = now.position(from);
    open.visitNear(x, y, z, (to) => {
      const by = Math.hypot(...now.position(to).map((c, k) => c - [x, y, z][k]));
      if (by <= within && now.findHalfEdge(from, to) === NONE) pairs.push({ from, to, by });
    });
  }
  const met = takenOnce(pairs);
  const had = now.vertexCount;
  if (met.length > 0)
    mergeVertices(
      now,
      met.map(({ from, to }) => ({ vertices: [to, from], at: now.position(to) }))
    );
  return had - now.vertexCount;
}
