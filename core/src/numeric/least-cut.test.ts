import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { leastCut } from './least-cut.ts';

/** The least cost by trying every face along the line from the last corner to the first, with no table. */
function leastByTrying(corners: readonly number[], faceCost: (f: readonly number[]) => number, cutCost: (i: number, j: number) => number): number {
  if (corners.length < 3) return 0;
  let least = Infinity;
  const [first, last] = [corners[0], corners[corners.length - 1]];
  const tried = (inner: readonly number[]) => {
    const ends = [0, ...inner, corners.length - 1];
    let sum = faceCost([first, ...inner.map((c) => corners[c]), last]);
    for (let e = 0; e + 1 < ends.length; e++) {
      if (ends[e + 1] - ends[e] === 1) continue;
      sum += cutCost(corners[ends[e]], corners[ends[e + 1]]) + leastByTrying(corners.slice(ends[e], ends[e + 1] + 1), faceCost, cutCost);
    }
    least = Math.min(least, sum);
  };
  for (let k = 1; k + 1 < corners.length; k++) {
    if (corners.length % 2 === 1) tried([k]);
    for (let l = k + 1; l + 1 < corners.length; l++) tried([k, l]);
  }
  return least;
}

describe('the cheapest cut of a polygon', () => {
  it('costs what the best of all ways does, and covers the polygon', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 9 }), fc.array(fc.integer({ min: 0, max: 50 }), { minLength: 81, maxLength: 81 }), (n, costs) => {
        const faceCost = (face: readonly number[]) => face.reduce((sum, c, i) => sum + costs[(7 * c + 13 * i + face.length) % 81], 0);
        const cutCost = (i: number, j: number) => (costs[(i * 9 + j) % 81] > 45 ? Infinity : costs[(i * 9 + j) % 81]);
        const faces = leastCut(n, faceCost, cutCost);
        const least = leastByTrying(
          Array.from({ length: n }, (_, i) => i),
          faceCost,
          cutCost
        );
        if (!faces) return expect(least).toBe(Infinity);
        // every line inside is one of two faces, every side of one
        const lines = new Map<string, number>();
        for (const face of faces)
          face.forEach((c, i) => {
            const d = face[(i + 1) % face.length];
            const key = `${Math.min(c, d)} ${Math.max(c, d)}`;
            lines.set(key, (lines.get(key) ?? 0) + 1);
          });
        let cost = faces.reduce((sum, face) => sum + faceCost(face), 0);
        for (const [key, times] of lines) {
          const [i, j] = key.split(' ').map(Number);
          const isSide = j - i === 1 || (i === 0 && j === n - 1);
          expect(times).toBe(isSide ? 1 : 2);
          if (!isSide) cost += cutCost(i, j);
        }
        expect([...lines.keys()].length).toBeGreaterThanOrEqual(n);
        expect(cost).toBe(least);
        expect(faces.reduce((sum, { length }) => sum + length - 2, 0)).toBe(n - 2);
      })
    );
  });

  it('is none where no face is allowed, or there are too few corners', () => {
    expect(
      leastCut(
        6,
        () => Infinity,
        () => 0
      )
    ).toBeUndefined();
    expect(
      leastCut(
        6,
        () => 0,
        () => Infinity
      )
    ).toBeUndefined();
    expect(
      leastCut(
        4,
        () => 0,
        () => Infinity
      )
    ).toEqual([[0, 1, 2, 3]]);
    expect(
      leastCut(
        2,
        () => 0,
        () => 0
      )
    ).toBeUndefined();
  });
});
