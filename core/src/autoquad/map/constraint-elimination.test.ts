import { describe, expect, it } from 'vitest';
import { Eliminator, addTo } from './constraint-elimination.ts';

describe('elimination of linear forms', () => {
  it('expresses what it can by the rest, and notices contradictions', () => {
    const solver = new Eliminator(() => 0);
    const difference = (a: number, b: number) => addTo(addTo(new Map(), new Map([[a, 1]]), 1), new Map([[b, 1]]), -1);
    expect(solver.require(difference(0, 1))).toBe(true);
    expect(solver.require(difference(1, 2))).toBe(true);
    const [zero, one, two] = [0, 1, 2].map((k) => [...solver.expand(new Map([[k, 1]]))]);
    expect(zero).toEqual(one);
    expect(one).toEqual(two);
  });
});
