import { maskedVertices } from '@ulvrin/core';
import type { CageOverlay } from './overlay.ts';

/** What is masked: shaded by how much. It is drawn with what is picked, as it changes while it is painted (`StandMarks.markMask`). */
export const mask: CageOverlay = {
  id: 'mask',
  label: 'mask',
  help: 'Vertices that stay where others are moved, the darker the more',
  initial: true,
  colour: 'mask',
  count: (cage) => maskedVertices(cage).length,
  draw: () => []
};
