import { findAll } from '@ulvrin/core';
import type { CageOverlay } from './overlay.ts';

/** Border edges, dashed. */
export const borders: CageOverlay = {
  id: 'borders',
  label: 'borders',
  help: 'Edges with a face on one side only',
  initial: true,
  colour: 'border',
  count: (cage) => findAll(cage, 'borders').edges.length,
  draw(drawing) {
    const { edges } = findAll(drawing.cage, 'borders');
    const mean = edges.reduce((sum, e) => sum + drawing.cage.edgeLength(e), 0) / (edges.length || 1);
    return [drawing.lines(edges, drawing.colours.border, 3, { dashed: true, dash: mean / 3 })];
  }
};
