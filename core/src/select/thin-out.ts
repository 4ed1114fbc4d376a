import { type Cage } from '../mesh/cage.ts';
import { edgeLoop, ringThrough } from './loops.ts';

/**
 * Keeps one of every N loops: of the loops that cross the rings of the picked edges, all are returned but every N-th,
 * counted from the picked edge. Their edges are what dissolving thins the part out by.
 * @param edges one edge of each tube or strip, lying along the loops that are to be counted across: its ring is numbered
 * @param keepBorders loops that run along a border stay, but are counted
 */
export function thinnedOut(cage: Cage, edges: number[], settings: { every: number; phase: number; keepBorders: boolean }): number[] {
  const { every, phase, keepBorders } = settings;
  const taken = new Set<number>();
  const numbered = new Set<number>();
  for (const e of edges) {
    if (numbered.has(e)) continue;
    const { halves } = ringThrough(cage, 2 * e);
    const at = halves.findIndex((h) => h >> 1 === e);
    halves.forEach((h, i) => {
      numbered.add(h >> 1);
      const place = (((i - at - phase) % every) + every) % every;
      if (place === 0) return;
      for (const k of edgeLoop(cage, h >> 1).edges) if (!(keepBorders && cage.isBorderEdge(k))) taken.add(k);
    });
  }
  return [...taken];
}
