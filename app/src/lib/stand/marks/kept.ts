import { keptEdges } from '@ulvrin/core';
import type { CageOverlay } from './overlay.ts';

/** Edges that stay where they are, dashed over whatever else lies along them. */
export const kept: CageOverlay = {
  id: 'kept',
  label: 'kept edges',
  help: 'Edges that stay where they are, whatever is held or evened out',
  initial: true,
  colour: 'kept',
  count: (cage) => keptEdges(cage).length,
  draw(drawing) {
    const edges = keptEdges(drawing.cage);
    if (edges.length === 0) return [];
    const mean = edges.reduce((sum, e) => sum + drawing.cage.edgeLength(e), 0) / edges.length;
    return [drawing.lines(edges, drawing.colours.kept, 4, { dashed: true, dash: mean / 5 })];
  }
};
