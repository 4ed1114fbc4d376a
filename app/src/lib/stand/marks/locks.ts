import { locksOf, type LockKind } from '@ulvrin/core';
import type { CageOverlay } from './overlay.ts';

/** Sides of the shape that marks a lock; 0 is a disc. */
const SIDES: Record<LockKind, number> = { still: 0, straight: 3, flat: 4, round: 8 };

/** Locked vertices, each with the shape of its lock. */
export const locks: CageOverlay = {
  id: 'locks',
  label: 'locks',
  help: 'Vertices kept still (disc), straight (triangle), flat (square) or round (octagon)',
  initial: true,
  colour: 'lock',
  count: (cage) => locksOf(cage).reduce((sum, { vertices }) => sum + vertices.length, 0),
  draw: (canvas) => locksOf(canvas.cage).map(({ kind, vertices }) => canvas.glyphs(vertices, SIDES[kind], canvas.colours.lock, 12))
};
