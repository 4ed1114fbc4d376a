import { MirrorPartners, type Cage } from '@ulvrin/core';
import type { Paint } from './overlay.ts';

type Errors = NonNullable<ReturnType<MirrorPartners['errors']>>;

/** Found once a cage: cages are never changed once they are in a job. */
const known = new WeakMap<Cage, Errors>();

function errorsOf(cage: Cage): Errors | undefined {
  const found = known.get(cage) ?? new MirrorPartners(cage).errors();
  if (found) known.set(cage, found);
  return found;
}

/** How far vertices are from having a partner in a mirror. */
export const symmetryError: Paint = {
  id: 'symmetry-error',
  label: 'symmetry',
  name: 'Off symmetry',
  help: 'How far the corners of a face are from having partners in the mirror X, Y or Z = 0 that fits best',
  ramp: 'even',
  unit: 'mm',
  values(cage) {
    const errors = errorsOf(cage);
    if (!errors || cage.faceCount === 0) return undefined;
    const { byVertex, most } = errors;
    const values = Float64Array.from(cage.faces(), (f) => cage.faceVertices(f).reduce((worst, v) => Math.max(worst, byVertex[v]), 0));
    return { by: 'face', values, low: 0, high: most || 1 };
  },
  why: () => undefined
};
