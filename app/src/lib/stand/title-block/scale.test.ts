import { describe, expect, it } from 'vitest';
import { scaleBar, shortLength } from './scale.ts';

describe('the scale bar', () => {
  it('is a round length as long as fits, whatever the zoom', () => {
    for (const scale of [3e-7, 0.004, 0.1, 0.9, 40, 7e4]) {
      const { mm, pixels } = scaleBar(scale, 80);
      expect(pixels).toBeLessThanOrEqual(80.001);
      expect(pixels).toBeGreaterThan(31.9);
      expect(pixels * scale).toBeCloseTo(mm, 9 - Math.log10(mm));
      expect(['1', '2', '5']).toContain(mm.toExponential(6)[0]);
    }
  });

  it('tells lengths in the unit they are short in', () => {
    expect([0.00002, 0.05, 0.5, 10, 2000, 5e6].map(shortLength)).toEqual(['0.02 µm', '50 µm', '0.5 mm', '10 mm', '2 m', '5,000 m']);
  });
});
