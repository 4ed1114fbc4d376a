import type { CageOverlay } from './overlay.ts';

/** Every edge of the shown level, thin: how dense the surface is, and where. */
export const density: CageOverlay = {
  id: 'density',
  label: 'subdivided edges',
  colour: 'wire',
  help: 'Every edge of the smooth surface at its level',
  draw: ({ smooth }) => (smooth ? [smooth.everyEdge()] : [])
};
