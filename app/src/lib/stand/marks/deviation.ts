import type { Paint } from './overlay.ts';

/** How far the smooth surface lies off the reference: outside of it, or inside. */
export const deviation: Paint = {
  id: 'deviation',
  label: 'deviation',
  name: 'Deviation',
  help: 'How far the smooth surface is off the reference, outside or inside',
  ramp: 'signed',
  unit: 'mm',
  values: (_cage, { found }) => found && { by: 'point', values: found.smooth.signed, low: -found.smooth.most, high: found.smooth.most },
  why({ found, problem }, reference) {
    if (found) return undefined;
    return problem ?? (reference ? 'Measuring the deviation ...' : 'There is no reference to measure the deviation from: bring one in.');
  }
};
