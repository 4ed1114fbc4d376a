import { isBetweenRegions, type Cage } from '@ulvrin/core';
import type { CageOverlay } from './overlay.ts';

/** Edges between faces of different regions. */
const between = (cage: Cage): number[] => (cage.layers.has('region') ? [...cage.edges()].filter((e) => isBetweenRegions(cage, e)) : []);

/** Outlines of regions, dotted. */
export const regionEdges: CageOverlay = {
  id: 'region-edges',
  label: 'outlines of regions',
  help: 'Edges between faces of different regions',
  initial: true,
  colour: 'region',
  count: (cage) => between(cage).length,
  draw(drawing) {
    const edges = between(drawing.cage);
    const mean = edges.reduce((sum, e) => sum + drawing.cage.edgeLength(e), 0) / (edges.length || 1);
    return [drawing.lines(edges, drawing.colours.region, 2.5, { dashed: true, dash: mean / 8 })];
  }
};
