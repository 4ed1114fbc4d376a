import { describe, expect, it } from 'vitest';
import { goDown } from './lbfgs.ts';

describe('going down a function', () => {
  it('follows a bent valley to its lowest place', () => {
    const z = Float64Array.of(-1.2, 1);
    const value = goDown(
      ([x, y], gradient) => {
        gradient[0] = -400 * x * (y - x * x) - 2 * (1 - x);
        gradient[1] = 200 * (y - x * x);
        return 100 * (y - x * x) ** 2 + (1 - x) ** 2;
      },
      z,
      100
    );
    expect(value).toBeLessThan(1e-12);
    expect(z[0]).toBeCloseTo(1, 5);
    expect(z[1]).toBeCloseTo(1, 5);
  });

  it('stays where the function is defined, and never goes up', () => {
    const seen: number[] = [];
    const f = ([x]: Float64Array, gradient: Float64Array) => {
      gradient[0] = 1 - 1 / x;
      return x > 0 ? x - Math.log(x) : Infinity;
    };
    const z = Float64Array.of(40);
    for (let step = 0; step < 12; step++) seen.push(goDown(f, z, 1));
    expect(seen.every((value, i) => i === 0 || value <= seen[i - 1])).toBe(true);
    expect(goDown(f, z, 40)).toBeCloseTo(1, 9);
  });
});
