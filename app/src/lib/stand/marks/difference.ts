import { boundsOf, offByPoint, type Cage, type Part } from '@ulvrin/core';
import { sentPart } from '$lib/job/sent.ts';
import type { Paint } from './overlay.ts';

/** Share of the part's extent below which a difference has no strong colour: what is less is how finely it is measured. */
const SHOWS = 1e-4;

/** Of each part what was measured last: a part is made anew with whatever changes in it, as what it is compared with is. */
const known = new WeakMap<Part, { cage: Cage; other: Part; off: Float64Array }>();

function offOf(cage: Cage, part: Part, other: Part): Float64Array {
  const found = known.get(part);
  if (found?.cage === cage && found.other === other) return found.off;
  const { off } = offByPoint(sentPart({ ...part, cage }), sentPart(other));
  known.set(part, { cage, other, off });
  return off;
}

/** How far what is compared lies off: another state, another part, or what a destination got. */
export const difference: Paint = {
  id: 'difference',
  label: 'difference',
  name: 'Difference',
  help: 'How far what the part is compared with lies off its smooth surface',
  ramp: 'even',
  unit: 'mm',
  values(cage, { compared }, part) {
    if (!part || !compared?.cage || cage.faceCount === 0) return undefined;
    const values = offOf(cage, part, compared);
    const most = values.reduce((worst, d) => Math.max(worst, d), 0);
    return values.length > 0
      ? { by: 'point', values, low: 0, high: Math.max(most, SHOWS * boundsOf(cage.toPolygons().positions).diagonal) }
      : undefined;
  },
  why: ({ compared }) =>
    compared?.cage ? undefined : 'There is nothing to compare with: choose two versions under panes, or see what arrives somewhere in Deliver.'
};
