import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { WholeRounding } from './integer-rounding.ts';
import { type WholeSum, type WholeWishes, valueOfSum } from './whole-sums.ts';

describe('rounding to whole numbers', () => {
  const none: WholeWishes = { sized: [], nothing: [], lengths: [], apart: [], sides: [] };

  it('makes sums nothing exactly, whatever their coefficients, gives one its size before, and stays near the means', () => {
    const count = 7;
    // independent unknowns: L is the unit matrix, and y the means
    const rounding = new WholeRounding(
      Float64Array.from({ length: count * count }, (_, i) => (i % (count + 1) === 0 ? 1 : 0)),
      count
    );
    const means = fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: count, maxLength: count });
    const sum = fc
      .array(fc.integer({ min: -2, max: 2 }), { minLength: count, maxLength: count })
      .map((list): WholeSum => list.flatMap((c, k): [number, number][] => (c === 0 ? [] : [[k, c]])));
    fc.assert(
      fc.property(means, fc.array(sum, { maxLength: 4 }), (y, sums) => {
        rounding.ask({ ...none, nothing: sums });
        const x = rounding.round(Float64Array.from(y), { within: 100 });
        expect([...x].every(Number.isInteger)).toBe(true);
        for (const s of sums) expect(Math.abs(valueOfSum(s, x))).toBe(0);
        expect(Math.max(...x.map((value, k) => Math.abs(value - y[k])))).toBeLessThan(8);
      })
    );
    fc.assert(
      fc.property(means, sum, fc.integer({ min: 0, max: 9 }), (y, s, size) => {
        fc.pre(s.some(([, c]) => Math.abs(c) === 1));
        rounding.ask({ ...none, sized: [{ sum: s, size }] });
        const x = rounding.round(Float64Array.from(y), { within: 100 });
        expect(Math.abs(valueOfSum(s, x))).toBe(size);
      })
    );
  });

  it('rounds lengths before what they are made of, and parts pairs that come out as nothing', () => {
    const unit = new WholeRounding(
      Float64Array.from({ length: 16 }, (_, i) => (i % 5 === 0 ? 1 : 0)),
      4
    );
    const round: WholeSum = [0, 1, 2, 3].map((k) => [k, 1] as const);
    const y = [1.4, 1.41, 1.42, 1.43];
    expect(valueOfSum(round, unit.round(Float64Array.from(y)))).toBe(4);
    unit.ask({ ...none, lengths: [round] });
    expect(valueOfSum(round, unit.round(Float64Array.from(y)))).toBe(6);
    const [u, v]: WholeSum[] = [[[0, 1]], [[1, 1]]];
    unit.ask({ ...none, apart: [[u, v]] });
    const near = Float64Array.of(0.2, -0.4, 1, 1);
    expect([...unit.round(near)].map(Math.abs)).toEqual([0, 0, 1, 1]);
    expect([...unit.round(near, { parted: true })].map((x) => x + 0)).toEqual([0, -1, 1, 1]);
    // what is next to the nearest: the second unknown is the cheapest to move, then the first
    expect([1, 2].map((next) => [...unit.round(near, { next })].slice(0, 2).map((x) => x + 0))).toEqual([
      [0, -1],
      [1, 0]
    ]);
    // and keeps sums from below 1 where that costs little
    unit.ask({ ...none, sides: [[[0, 1]], [[1, -1]], [[2, -1]]] });
    expect([...unit.round(Float64Array.of(-0.6, -0.6, 2.6, 1))]).toEqual([1, -1, 3, 1]);
  });

  it('leaves a sum open with which others would explode, and tells which', () => {
    // x0 - x1 - x2 / 1000 is 1 all but exactly, and nothing else is held much
    const row = [1, -1, -0.001];
    const precision = row.map((a, i) => row.map((b, j) => 1e6 * a * b + (i === j ? 1e-3 : 0)));
    const lower = lowerOf(precision);
    const means = [1, 0, 0];
    // L^-1 times the right-hand side is the transposed L times the means
    const y = Float64Array.from(means, (_, k) => means.reduce((sum, mean, i) => sum + lower[3 * i + k] * mean, 0));
    const rounding = new WholeRounding(lower, 3);
    rounding.ask({ ...none, nothing: [[[0, 1]], [[1, 1]]] });
    const x = rounding.round(y, { within: 100 });
    expect(Math.max(...x.map(Math.abs))).toBeLessThan(20);
    expect(rounding.leftOpen).toHaveLength(1);
    // asked anew, all of them are tried again; one of them alone does no harm
    rounding.ask({ ...none, nothing: [[[1, 1]]] });
    expect(rounding.leftOpen).toEqual([]);
    expect(Math.abs(rounding.round(y, { within: 100 })[1])).toBe(0);
    expect(rounding.leftOpen).toEqual([]);
  });

  it('comes as near as can be where unknowns depend on each other much, as those of a long cut do', () => {
    const stiffness = fc.double({ min: 0.02, max: 1, noNaN: true });
    const any = (most: number) => fc.double({ min: -most, max: most, noNaN: true });
    fc.assert(
      fc.property(stiffness, stiffness, any(50), any(9), any(9), (a, b, shared, y, z) => {
        const off = (p: number, q: number) => (a * p + shared * q - y) ** 2 + (b * q - z) ** 2;
        const rounding = new WholeRounding(Float64Array.of(a, 0, shared, b), 2);
        const [p, q] = rounding.round(Float64Array.of(y, z));
        let least = Infinity;
        for (let k = Math.floor(z / b) - 60; k <= z / b + 60; k++) least = Math.min(least, off(Math.round((y - shared * k) / a), k));
        expect(off(p, q)).toBeLessThanOrEqual(1.02 * least + 1e-9);
      })
    );
  });
});

/** Factor L of a positive definite matrix L Lt, row by row. */
function lowerOf(matrix: readonly (readonly number[])[]): Float64Array {
  const size = matrix.length;
  const lower = new Float64Array(size * size);
  for (let i = 0; i < size; i++)
    for (let j = 0; j <= i; j++) {
      let left = matrix[i][j];
      for (let k = 0; k < j; k++) left -= lower[size * i + k] * lower[size * j + k];
      lower[size * i + j] = i === j ? Math.sqrt(left) : left / lower[size * j + j];
    }
  return lower;
}
