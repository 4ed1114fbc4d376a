import type { Paint } from './overlay.ts';

/** How far the smooth surface lies off the reference. */
export const deviation: Paint = {
  id: 'deviation',
  label: 'deviation',
  name: 'Deviation',
  help: 'How far the smooth surface is off the reference',
  shares: ({ found }) => found?.smooth,
  legend({ found, problem }, reference) {
    if (!found)
      return problem ?? (reference ? 'measuring how far the smooth surface is off' : 'no reference to measure the deviation from: bring one in');
    const { most } = found.smooth;
    if (most === 0) return 'smooth surface lies on the reference';
    const lines = [0.25, 0.5, 0.75].map((share) => (share * most).toFixed(3)).join(', ');
    return `smooth surface off the reference, lines at ${lines} mm; most ${most.toFixed(3)} mm`;
  }
};
