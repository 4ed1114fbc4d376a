import { isPole } from '@ulvrin/core';
import type { CageOverlay } from './overlay.ts';

/** Edges from which on poles are drawn alike. */
const MANY = 7;

/** Poles, each as a shape with as many sides as it has edges. */
export const poles: CageOverlay = {
  id: 'poles',
  label: 'poles',
  help: 'Vertices with other than four edges, marked by their number',
  colour: 'pole',
  count: (cage) => [...cage.vertices()].filter((v) => isPole(cage, v)).length,
  draw(drawing) {
    const { cage } = drawing;
    const byValence = new Map<number, number[]>();
    for (const v of cage.vertices()) {
      if (!isPole(cage, v)) continue;
      const valence = Math.min(MANY, cage.valence(v));
      byValence.set(valence, [...(byValence.get(valence) ?? []), v]);
    }
    return [...byValence].map(([valence, vertices]) => drawing.glyphs(vertices, Math.max(3, valence), drawing.colours.pole, 13));
  }
};
