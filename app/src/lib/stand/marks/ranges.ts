import type { Ramp } from './ramps.ts';

/**
 * Ends of a ramp that take in some share of the values: as many are left out at either end, or, where the ramp is about 0, the largest.
 * @param share 0 to 1
 */
export function shareRange(values: ArrayLike<number>, share: number, ramp: Ramp = 'even'): { low: number; high: number } {
  const sorted = Float64Array.from(values, (x) => (ramp === 'signed' ? Math.abs(x) : x)).sort();
  const at = (part: number) => sorted[Math.round(part * (sorted.length - 1))] ?? 0;
  if (ramp === 'signed') return { low: -at(share), high: at(share) };
  return { low: at((1 - share) / 2), high: at((1 + share) / 2) };
}
