import { type Hole } from '../../fill/hole.ts';
import { type Cage } from '../../mesh/cage.ts';
import { selectEdges, verticesOf, type Selection } from '../../select/selection.ts';

export const edgesOfHoles = (...holes: Hole[]): Selection => selectEdges(holes.flatMap((hole) => hole.halves.map((h) => h >> 1)));

/**
 * Of things with borders those whose borders are picked: by an edge, or where no picked edge lies on a border by a vertex.
 * @returns nothing where nothing at all is picked
 */
export function pickedByBorder<T>(cage: Cage, selection: Selection, things: readonly T[], bordersOf: (thing: T) => Hole[]): T[] | undefined {
  const picked = new Set(verticesOf(cage, selection));
  if (picked.size === 0) return undefined;
  const edges = new Set(selection.edges);
  const byEdges = things.filter((thing) => bordersOf(thing).some(({ halves }) => halves.some((h) => edges.has(h >> 1))));
  return byEdges.length > 0 ? byEdges : things.filter((thing) => bordersOf(thing).some(({ vertices }) => vertices.some((v) => picked.has(v))));
}
