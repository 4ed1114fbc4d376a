import { cornerAngles, faceArea, type Cage } from '@ulvrin/core';
import type { Paint, PaintValues } from './overlay.ts';
import { shareRange } from './ranges.ts';

/** Share of the values that a range leaves out at its ends together: one odd face must not make all others look alike. */
const LEFT_OUT = 0.04;

/** A paint of a number by face, measured once a cage: cages are never changed once they are in a job. */
const byFace = (own: Pick<Paint, 'id' | 'label' | 'name' | 'help' | 'unit'>, valueOf: (cage: Cage, f: number) => number): Paint => {
  const known = new WeakMap<Cage, PaintValues | undefined>();
  return {
    ...own,
    ramp: 'even',
    values(cage) {
      if (!known.has(cage)) known.set(cage, rangeOf(Float64Array.from(cage.faces(), (f) => valueOf(cage, f))));
      return known.get(cage);
    },
    why: () => undefined
  };
};

function rangeOf(values: Float64Array): PaintValues | undefined {
  if (values.length === 0) return undefined;
  return { by: 'face', values, ...shareRange(values, 1 - LEFT_OUT) };
}

/** How densely the cage covers its surface. */
export const quadDensity = byFace(
  { id: 'quad-density', label: 'density', name: 'Density', help: 'Faces of the cage per square centimetre', unit: 'per cm²' },
  (cage, f) => 100 / Math.max(faceArea(cage, f), 1e-12)
);

/** How much the sides of a face differ. */
export const spacing = byFace(
  { id: 'spacing', label: 'spacing', name: 'Spacing', help: 'The longest edge of a face divided by its shortest', unit: 'times' },
  (cage, f) => {
    const lengths = cage.loopOf(cage.faceEdge[f]).map((h) => cage.edgeLength(h >> 1));
    return Math.max(...lengths) / Math.max(Math.min(...lengths), 1e-12);
  }
);

/** How far the corners of a face are from square ones. */
export const corners = byFace(
  { id: 'corners', label: 'corner angle', name: 'Corner angle', help: 'How far the worst corner of a face is from a right angle', unit: '°' },
  (cage, f) => Math.max(...cornerAngles(cage, f).map((angle) => Math.abs(angle - 90)))
);
