import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Cholesky, NotPositiveDefinite } from './cholesky.ts';
import { nestedDissection } from './nested-dissection.ts';
import { randomNumbers } from './random.ts';
import { SymmetricBuilder } from './symmetric-matrix.ts';

/** The matrix of a grid's springs with some long ones, tied to the ground. */
function springs(n: number, seed: number) {
  const random = randomNumbers(seed);
  const size = n * n;
  const dense = Array.from({ length: size }, () => new Float64Array(size));
  const builder = new SymmetricBuilder(size, 8 * size);
  const spring = (i: number, j: number, k: number) => {
    for (const [a, b, x] of [
      [i, i, k],
      [j, j, k],
      [Math.max(i, j), Math.min(i, j), -k]
    ]) {
      builder.add(a, b, x);
      dense[a][b] += x;
      if (a !== b) dense[b][a] += x;
    }
  };
  for (let i = 0; i < size; i++) {
    if (i % n) spring(i, i - 1, 0.1 + random());
    if (i >= n) spring(i, i - n, 0.1 + random());
    const far = Math.floor(random() * size);
    if (i % 7 === 0 && far !== i) spring(i, far, random());
    builder.add(i, i, 0.05);
    dense[i][i] += 0.05;
  }
  return { matrix: builder.done(), dense, size };
}

describe('sparse Cholesky', () => {
  it('solves what it was given, in any order of unknowns', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 14 }), fc.nat(1000), fc.nat(6), (n, seed, tail) => {
        const { matrix, dense, size } = springs(n, seed);
        const random = randomNumbers(seed + 1);
        const wanted = Float64Array.from({ length: size }, () => random() - 0.5);
        const right = Float64Array.from(dense, (row) => row.reduce((sum, a, j) => sum + a * wanted[j], 0));
        const order = nestedDissection(matrix, Math.min(tail, size - 1));
        expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: size }, (_, i) => i));
        const x = new Cholesky(matrix, order).solve(right);
        for (let i = 0; i < size; i++) expect(x[i]).toBeCloseTo(wanted[i], 8);
      }),
      { numRuns: 40 }
    );
  });

  it('solves where all unknowns depend on each other, as those that come last do', () => {
    const size = 90;
    const random = randomNumbers(5);
    const builder = new SymmetricBuilder(size, size * size);
    const dense = Array.from({ length: size }, () => new Float64Array(size));
    for (let i = 0; i < size; i++)
      for (let j = 0; j <= i; j++) {
        const value = i === j ? size : random();
        builder.add(i, j, value);
        dense[i][j] = dense[j][i] = value;
      }
    const wanted = Float64Array.from({ length: size }, () => random() - 0.5);
    const matrix = builder.done();
    const x = new Cholesky(matrix, nestedDissection(matrix, 30)).solve(
      Float64Array.from(dense, (row) => row.reduce((sum, a, j) => sum + a * wanted[j], 0))
    );
    for (let i = 0; i < size; i++) expect(x[i]).toBeCloseTo(wanted[i], 10);
  });

  it('keeps the last unknowns last, and solves for the others when these are given', () => {
    const { matrix, dense, size } = springs(8, 3);
    const tail = 5;
    const factor = new Cholesky(matrix, nestedDissection(matrix, tail));
    const y = factor.forward(new Float64Array(size));
    y.set([1, -2, 3, 0.5, 0], size - tail);
    const x = factor.backward(y, size - tail);
    expect([...x.subarray(size - tail)]).toEqual([1, -2, 3, 0.5, 0]);
    for (let i = 0; i < size - tail; i++) expect(dense[i].reduce((sum, a, j) => sum + a * x[j], 0)).toBeCloseTo(0, 9);
    const others = [2, 3, 4, 5, 6].map((k) => y.map((value) => k * value));
    factor.backwardEach(others, size - tail).forEach((each, n) => each.forEach((value, i) => expect(value).toBeCloseTo((n + 2) * x[i], 9)));
  });

  it('says when a matrix has no factor', () => {
    const builder = new SymmetricBuilder(2, 4);
    builder.add(0, 0, 1);
    builder.add(1, 0, 2);
    builder.add(1, 1, 1);
    const matrix = builder.done();
    expect(() => new Cholesky(matrix, nestedDissection(matrix))).toThrow(NotPositiveDefinite);
  });
});
