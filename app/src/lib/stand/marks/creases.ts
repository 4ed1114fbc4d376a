import type { CageOverlay } from './overlay.ts';

/** Bands along creases, the wider the sharper, and diamonds on corners. */
export const creases: CageOverlay = {
  id: 'creases',
  label: 'creases',
  help: 'Sharp edges, the wider the sharper, and corners',
  initial: true,
  colour: 'crease',
  count: (cage) => [...cage.edges()].filter((e) => cage.value('crease', e) > 0).length,
  draw(drawing) {
    const { cage, colours } = drawing;
    const byWidth = new Map<number, number[]>();
    for (const e of cage.edges()) {
      const sharpness = cage.value('crease', e);
      if (sharpness <= 0) continue;
      const width = 2 + Math.ceil(sharpness / 2);
      const same = byWidth.get(width);
      if (same) same.push(e);
      else byWidth.set(width, [e]);
    }
    const corners = [...cage.vertices()].filter((v) => cage.value('corner', v) > 0);
    const bands = [...byWidth].map(([width, edges]) => drawing.lines(edges, colours.crease, width));
    return corners.length > 0 ? [...bands, drawing.glyphs(corners, 4, colours.crease, 14)] : bands;
  }
};
