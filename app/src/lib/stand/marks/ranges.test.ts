import { describe, expect, it } from 'vitest';
import { shareRange } from './ranges.ts';

describe('ends of a ramp', () => {
  const values = Array.from({ length: 101 }, (_, i) => i - 20);

  it('leave out as many at either end', () => {
    expect(shareRange(values, 1)).toEqual({ low: -20, high: 80 });
    expect(shareRange(values, 0.9)).toEqual({ low: -15, high: 75 });
  });

  it('lie as far on both sides of 0 where values are signed', () => {
    expect(shareRange(values, 1, 'signed')).toEqual({ low: -80, high: 80 });
    const { low, high } = shareRange(values, 0.5, 'signed');
    expect(-low).toBe(high);
    expect(values.filter((x) => Math.abs(x) <= high).length / values.length).toBeCloseTo(0.5, 1);
  });

  it('are 0 where there are no values', () => expect(shareRange([], 1)).toEqual({ low: 0, high: 0 }));
});
