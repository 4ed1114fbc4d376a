import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { unfold } from './unfold.ts';

describe('unfolding', () => {
  it('brings triangles right wherever their corners have been mapped to, those of the border staying', () => {
    const side = 4;
    const inner = (i: number, j: number) => i > 0 && j > 0 && i < side && j < side;
    const squares = Array.from({ length: side * side }, (_, s) => [Math.floor(s / side), s % side]);
    const triangles = squares.flatMap(([i, j]) => [
      [i, j, i + 1, j, i + 1, j + 1],
      [i, j, i + 1, j + 1, i, j + 1]
    ]);
    const place = fc.double({ min: 0, max: side, noNaN: true });
    fc.assert(
      fc.property(fc.noBias(fc.array(place, { minLength: 18, maxLength: 18 })), (places) => {
        const at = (i: number, j: number) => (inner(i, j) ? [0, 1].map((k) => places[2 * (3 * (i - 1) + j - 1) + k]) : [i, j]);
        const number = (i: number, j: number, k: number) => (inner(i, j) ? 2 * (3 * (i - 1) + j - 1) + k : -1);
        const terms: number[][] = [];
        const [startU, startV] = [Int32Array.from({ length: triangles.length + 1 }), Int32Array.from(triangles, () => 0)];
        const edges: number[] = [];
        const inverse: number[] = [];
        triangles.forEach(([a, b, c, d, e, f], t) => {
          const det = (c - a) * (f - b) - (e - a) * (d - b);
          inverse.push((f - b) / det, -(e - a) / det, -(d - b) / det, (c - a) / det);
          for (const k of [0, 1]) {
            if (k === 1) startV[t] = terms.length;
            edges.push(at(c, d)[k] - at(a, b)[k], at(e, f)[k] - at(a, b)[k]);
            terms.push([number(a, b, k), -1, -1], [number(c, d, k), 1, 0], [number(e, f, k), 0, 1]);
          }
          startU[t + 1] = terms.length;
        });
        // corners of the border are unknowns that nothing depends on
        const part = (k: number) => Float64Array.from(terms, (term) => (term[0] < 0 ? 0 : term[k]));
        const { least } = unfold({
          area: Float64Array.from(triangles, () => 0.5),
          inverse: Float64Array.from(inverse),
          edges: Float64Array.from(edges),
          startU,
          startV,
          unknown: Int32Array.from(terms, ([k]) => Math.max(k, 0)),
          onFirst: part(1),
          onSecond: part(2),
          count: 18
        });
        expect(least).toBeGreaterThan(0);
      }),
      { seed: 1 }
    );
  });
});
