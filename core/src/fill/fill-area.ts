import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { areaVector, between, length, subtract, unit, type Triple } from '../numeric/vectors.ts';
import { type Reference } from '../reference/reference.ts';
import { cornerAngle, runIn } from './hole.ts';
import { layOutline, quadsIn } from './outline.ts';
import { PatchQuality } from './patch-quality.ts';
import { Patch } from './patch.ts';
import { putPatch } from './put-patch.ts';
import { settlePatch } from './settle-patch.ts';

/** An open area between laid quads: chains of border vertices in order round it; where one ends and the next begins elsewhere, a straight side is laid. */
export interface OpenArea {
  chains: number[][];
  /** vertices that are corners; found by their angles where none is given */
  corners: ReadonlySet<number>;
  /** edges of each straight side; 0 lets the spacing decide */
  sides: number;
}

/**
 * Fills an open area with quads, which take the counts of what is round it. Changes the cage.
 * @returns the new faces; nothing where the count is odd and no side is free to make it even
 */
export function fillArea(cage: Cage, { chains, corners, sides }: OpenArea, swell: number, reference?: Reference): number[] | undefined {
  const border = closedBorder(cage, chains, sides);
  if (border.length % 2 !== 0 || border.length < 4) return undefined;
  const places = border.map((v) => cage.position(v));
  const normal = areaVector(places);
  const patch = new Patch(places, normal);
  const quadsAt = border.map((v, i) => (corners.size > 0 ? (corners.has(v) ? 1 : 2) : quadsIn(cornerAngle(places, i, unit(normal)))));
  layOutline(patch, { points: [...border.keys()], quadsAt });
  const runs = border.map((v) => runIn(cage, v));
  settlePatch(patch, runs, swell);
  new PatchQuality(patch).improve();
  if (reference) for (let p = patch.rim; p < patch.places.length; p++) patch.places[p] = reference.closestPoint(patch.places[p]);
  const first = cage
    .spokes(border[0])
    .map((h) => cage.face[h])
    .find((f) => f !== NONE);
  return putPatch(cage, border, patch, first).faces;
}

/** Vertices all round: those of the chains, and new ones along straight sides between them. The last of those makes the count even. */
function closedBorder(cage: Cage, chains: number[][], sides: number): number[] {
  const steps = chains.flatMap((chain) => chain.slice(1).map((v, i) => length(subtract(cage.position(v), cage.position(chain[i])))));
  const spacing = steps.reduce((a, b) => a + b, 0) / (steps.length || 1);
  const gaps = chains.map((chain, i) => ({ from: chain[chain.length - 1], to: chains[(i + 1) % chains.length][0] }));
  const open = gaps.filter(({ from, to }) => from !== to);
  const counts = new Map(
    open.map((gap) => [gap, sides || Math.max(1, Math.round(length(subtract(cage.position(gap.from), cage.position(gap.to))) / spacing))])
  );
  const total = steps.length + [...counts.values()].reduce((a, b) => a + b, 0);
  if (total % 2 !== 0 && open.length > 0 && sides === 0) counts.set(open[open.length - 1], counts.get(open[open.length - 1])! + 1);
  return chains.flatMap((chain, i) => {
    const count = counts.get(gaps[i]);
    if (count === undefined) return chain.slice(0, -1);
    const [p, q] = [cage.position(gaps[i].from), cage.position(gaps[i].to)];
    const inner = Array.from({ length: count - 1 }, (_, k) => cage.addVertex(...(between(p, q, (k + 1) / count) as Triple)));
    return [...chain, ...inner];
  });
}
