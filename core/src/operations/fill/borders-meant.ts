import { holesOf, type Hole } from '../../fill/hole.ts';
import { gapsOf, type Gap } from '../../fill/nested.ts';
import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { areaVector, cross, length, subtract, type Triple } from '../../numeric/vectors.ts';
import { selectEdges, selectVertices, verticesOf, type Selection } from '../../select/selection.ts';
import { type Refusal } from '../operation.ts';

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

/**
 * Borders of a cage that an operation is given, and the gaps between them. They are found once: at every pick each key of the
 * rack asks for them. Cages that are given are not changed, only copies of them are.
 */
export function bordersOf(cage: Cage): { holes: Hole[]; gaps: Gap[] } {
  let borders = found.get(cage);
  if (!borders) {
    const holes = holesOf(cage);
    found.set(cage, (borders = { holes, gaps: gapsOf(cage, holes) }));
  }
  return borders;
}
const found = new WeakMap<Cage, { holes: Hole[]; gaps: Gap[] }>();

/** The borders what is picked touches; with nothing picked the only one there is. */
export function holesMeant(cage: Cage, selection: Selection): Hole[] {
  const { holes } = bordersOf(cage);
  return pickedByBorder(cage, selection, holes, (hole) => [hole]) ?? (holes.length === 1 ? holes : []);
}

/** Open chains of picked border edges, as half-edges along the border. */
export function chainsPicked(cage: Cage, { edges }: Selection): number[][] {
  const picked = new Set(edges.flatMap((e) => [2 * e, 2 * e + 1]).filter((h) => cage.face[h] === NONE));
  const chains: number[][] = [];
  for (const hole of bordersOf(cage).holes) {
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

/** Places closer than this share of a border's length are one. */
const ONE_PLACE = 1e-7;
/** A border that encloses less than this share of the square of its length is folded flat; a circle encloses 0.08. */
const FLAT_AREA = 5e-4;

/** Why a border cannot be filled: it touches itself, or lies folded flat. */
export function unfit(hole: Hole): Refusal | undefined {
  const { places, vertices, length: whole } = hole;
  const cell = (p: readonly number[]) => p.map((x) => Math.round(x / (ONE_PLACE * whole))).join(' ');
  const at = new Map<string, number>();
  for (const [i, p] of places.entries()) {
    const other = at.get(cell(p));
    if (other !== undefined)
      return {
        found: `The border of ${vertices.length} edges touches itself: two of its vertices lie at ${p.map((x) => x.toFixed(2)).join(', ')} mm.`,
        where: selectVertices([vertices[other], vertices[i]]),
        instead: 'Weld the two (Weld borders), which makes two borders of it, or move them apart.'
      };
    at.set(cell(p), i);
  }
  const along = subtract(farthest(places), places[0]);
  const isLine = places.every((p) => length(cross(subtract(p, places[0]), along)) <= FLAT_AREA * whole * whole);
  if (isLine && length(areaVector(places)) / 2 <= FLAT_AREA * whole * whole)
    return {
      found: `The border of ${vertices.length} edges lies folded flat: it encloses no area.`,
      where: edgesOfHoles(hole),
      instead: 'Close it with Zip, or with Weld borders within its width.'
    };
  return undefined;
}

const farthest = (places: readonly Triple[]): Triple =>
  places.reduce((best, p) => (length(subtract(p, places[0])) > length(subtract(best, places[0])) ? p : best));
