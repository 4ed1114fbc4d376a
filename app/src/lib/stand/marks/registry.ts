import { borders } from './borders.ts';
import { colours, regions } from './carried-paints.ts';
import { creases } from './creases.ts';
import { gaussCurvature, meanCurvature } from './curvatures.ts';
import { density } from './density.ts';
import { deviation } from './deviation.ts';
import { difference } from './difference.ts';
import { corners, quadDensity, spacing } from './face-paints.ts';
import { ngons, triangles } from './face-kinds.ts';
import { kept } from './kept.ts';
import { locks } from './locks.ts';
import { mask } from './mask.ts';
import { symmetryError } from './symmetry.ts';
import { sides } from './sides.ts';
import type { CageOverlay, Paint } from './overlay.ts';
import { poles } from './poles.ts';
import { polePatches, strips } from './flow-paints.ts';
import { reflection, stayingReflection } from './reflection.ts';
import { regionEdges } from './region-edges.ts';

/** Marks on cages, in the order of their switches. */
export const cageOverlays: readonly CageOverlay[] = [triangles, ngons, poles, borders, creases, kept, regionEdges, mask, locks, sides, density];
/** Colours over surfaces, of which one is on at a time. */
export const paints: readonly Paint[] = [
  deviation,
  difference,
  quadDensity,
  spacing,
  corners,
  reflection,
  stayingReflection,
  meanCurvature,
  gaussCurvature,
  symmetryError,
  strips,
  polePatches,
  regions,
  colours
];

/** All that can be switched on and off. */
export const overlays: readonly (CageOverlay | Paint)[] = [...cageOverlays, ...paints];

/** The paint that is on: what an open operation paints is shown while it does. @param shows id of the operation's paint */
export const paintOn = (on: Readonly<Record<string, boolean>>, shows?: string): Paint | undefined =>
  paints.find(({ id }) => (shows ? id === shows : on[id]));

/** The switches with one paint on, or none, and the marks as they are. */
export const withPaint = (on: Readonly<Record<string, boolean>>, paint: string): Record<string, boolean> => ({
  ...on,
  ...Object.fromEntries(paints.map(({ id }) => [id, id === paint]))
});

/** Which are on at first, by id. */
export const startOverlays = (): Record<string, boolean> => Object.fromEntries(overlays.map(({ id, initial }) => [id, initial ?? false]));
