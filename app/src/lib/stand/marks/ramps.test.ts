import { describe, expect, it } from 'vitest';
import { rampColour, rampGradient, type Ramp } from './ramps.ts';

/** Lightness as the eye has it (CIE 1976), of linear red, green and blue. */
const lightness = ([r, g, b]: number[]) => 116 * Math.cbrt(0.2126 * r + 0.7152 * g + 0.0722 * b) - 16;
const along = (ramp: Ramp) => Array.from({ length: 41 }, (_, i) => lightness(rampColour(ramp, i / 40)));

describe('ramps', () => {
  it('grow darker in even steps, so that they read without colour as well', () => {
    const values = along('even');
    const steps = values.slice(1).map((v, i) => values[i] - v);
    expect(Math.min(...steps)).toBeGreaterThan(0.6);
    expect(Math.max(...steps) / Math.min(...steps)).toBeLessThan(2.5);
  });

  it('are lightest at 0 where values have a sign, and alike on both sides of it', () => {
    const values = along('signed');
    expect(values.indexOf(Math.max(...values))).toBe(20);
    for (let i = 0; i < 20; i++) expect(values[i + 1]).toBeGreaterThan(values[i]);
    for (let i = 0; i < 20; i++) expect(Math.abs(values[i] - values[40 - i])).toBeLessThan(9);
  });

  it('take what lies outside, and nonsense, as their ends', () => {
    expect(rampColour('signed', 7)).toEqual(rampColour('signed', 1));
    expect(rampColour('signed', NaN)).toEqual(rampColour('signed', 0));
    expect(rampGradient('even')).toMatch(/^linear-gradient\(to right, #[0-9a-f]{6}(, #[0-9a-f]{6}){12}\)$/);
  });
});
