import { holesOf, type Hole } from '../../fill/hole.ts';
import { NONE, type Cage } from '../../mesh/cage.ts';
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

/** The borders what is picked touches; with nothing picked the only one there is. */
export function holesMeant(cage: Cage, selection: Selection): Hole[] {
  const holes = holesOf(cage);
  return pickedByBorder(cage, selection, holes, (hole) => [hole]) ?? (holes.length === 1 ? holes : []);
}

/** Open chains of picked border edges, as half-edges along the border. */
export function chainsPicked(cage: Cage, { edges }: Selection): number[][] {
  const picked = new Set(edges.flatMap((e) => [2 * e, 2 * e + 1]).filter((h) => cage.face[h] === NONE));
  const chains: number[][] = [];
  for (const hole of holesOf(cage)) {
    const own = hole.halves.map((h) => picked.has(h));
    if (own.every((x) => x) || !own.some((x) => x)) continue;
    const n = own.length;
    for (let i = 0; i < n; i++) {
      if (!own[i] || own[(i + n - 1) % n]) continue;
      const chain: number[] = [];
      for (let k = i; own[k % n]; k++) chain.push(hole.halves[k % n]);
      chains.push(chain);
    }
  }
  return chains;
}
