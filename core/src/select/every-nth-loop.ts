import { type Cage } from '../mesh/cage.ts';
import { edgeLoop, ringThrough } from './loops.ts';

export interface ThinOutSettings {
  /** one of so many stays */
  every: number;
  /** loops by which the numbering is shifted from the picked edge's */
  phase: number;
  /** loops at the ends of a tube or strip (at a border, or round a cap) stay, but are counted */
  keepRims: boolean;
  /** where a loop that would stay lies closer to a kept rim than the others to each other, it goes */
  evenAtRims?: boolean;
}

/**
 * Keeps one of every N loops: of the loops that cross the rings of the picked edges, all are returned but every N-th,
 * counted from the picked edge. Their edges are what dissolving thins the part out by.
 * @param edges one edge of each tube or strip, lying along the loops that are to be counted across: its ring is numbered
 */
export function thinnedOut(cage: Cage, edges: number[], settings: ThinOutSettings): number[] {
  const { taken, kept } = numberedLoops(cage, edges, settings);
  // a loop that runs round twice is kept for one of its turns
  for (const e of kept) taken.delete(e);
  return [...taken];
}

/** Every N-th loop, counted as thinning out counts them: the loops that would stay. */
export const everyNthLoop = (cage: Cage, edges: number[], settings: ThinOutSettings): number[] => [...numberedLoops(cage, edges, settings).kept];

function numberedLoops(
  cage: Cage,
  edges: number[],
  { every, phase, keepRims, evenAtRims }: ThinOutSettings
): { taken: Set<number>; kept: Set<number> } {
  const taken = new Set<number>();
  const kept = new Set<number>();
  const numbered = new Set<number>();
  // loops are met once in every ring that crosses them
  const known = new Map<number, number[]>();
  const loopOf = (e: number): number[] => {
    const present = known.get(e);
    if (present) return present;
    const loop = edgeLoop(cage, e).edges;
    for (const k of loop) known.set(k, loop);
    return loop;
  };
  for (const e of edges) {
    if (numbered.has(e)) continue;
    const { halves, closed } = ringThrough(cage, 2 * e);
    const at = halves.findIndex((h) => h >> 1 === e);
    const last = halves.length - 1;
    const stays = (i: number) => (((i - at - phase) % every) + every) % every === 0;
    halves.forEach((h, i) => {
      numbered.add(h >> 1);
      const rim = keepRims && !closed && (i === 0 || i === last);
      // the way along the ring to a rim that stays out of turn
      const offset = keepRims && evenAtRims && !closed && ((!stays(0) && i > 0 && i < every) || (!stays(last) && i < last && last - i < every));
      const loop = rim ? [h >> 1] : loopOf(h >> 1);
      for (const k of loop) (rim || (stays(i) && !offset) ? kept : taken).add(k);
    });
  }
  return { taken, kept };
}
