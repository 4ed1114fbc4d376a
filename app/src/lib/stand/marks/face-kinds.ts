import { findAll } from '@ulvrin/core';
import { patternMaterial, type Pattern } from './mark-shapes.ts';
import type { CageOverlay } from './overlay.ts';

/** Faces of one kind, filled with a pattern. */
const faceKind = (id: string, what: 'triangles' | 'n-gons', help: string, colour: 'triangle' | 'ngon', pattern: Pattern): CageOverlay => ({
  id,
  label: what,
  help,
  initial: true,
  colour,
  count: (cage) => findAll(cage, what).faces.length,
  draw(drawing) {
    const faces = new Set(findAll(drawing.cage, what).faces);
    return faces.size > 0 ? [drawing.faceFill(faces, patternMaterial(drawing.colours[colour], pattern, 0.85))] : [];
  }
});

export const triangles = faceKind('triangles', 'triangles', 'Triangles of the cage', 'triangle', 'dots');
export const ngons = faceKind('ngons', 'n-gons', 'Faces with five corners or more', 'ngon', 'hatch');
