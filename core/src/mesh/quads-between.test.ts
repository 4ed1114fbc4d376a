import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { areaVector, length, type Triple } from '../numeric/vectors.ts';
import { cheapestLinks } from './loop-links.ts';
import { quadBand } from './quad-band.ts';
import { quadrangulate } from './quadrangulate.ts';

const UP: Triple = [0, 0, 1];
/** Corners round a point, counter-clockwise seen from above, at distances of their own. */
const round = (reach: readonly number[], turn = 0): Triple[] =>
  reach.map((r, i) => {
    const angle = (2 * Math.PI * (i + turn)) / reach.length;
    return [r * Math.cos(angle), r * Math.sin(angle), 0];
  });
const areaOf = (corners: readonly Triple[]): number => 0.5 * areaVector(corners)[2];

describe('a polygon split into quads', () => {
  it('is covered once, side by side, by half as many as it has corners, less one', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 6 }),
        fc.array(fc.double({ min: 0.8, max: 1.25, noNaN: true }), { minLength: 12, maxLength: 12 }),
        (half, reach) => {
          const corners = round(reach.slice(0, 2 * half));
          const quads = quadrangulate(corners, UP)!;
          expect(quads.length).toBe(half - 1);
          const sides = new Map<string, number>();
          for (const quad of quads)
            quad.forEach((a, k) => {
              const name = [a, quad[(k + 1) % 4]].sort((x, y) => x - y).join();
              sides.set(name, (sides.get(name) ?? 0) + 1);
            });
          for (const [name, times] of sides) {
            const [a, b] = name.split(',').map(Number);
            const isSide = b - a === 1 || (a === 0 && b === corners.length - 1);
            expect(times).toBe(isSide ? 1 : 2);
          }
          const sum = quads.reduce((total, quad) => total + areaOf(quad.map((c) => corners[c])), 0);
          expect(sum).toBeCloseTo(areaOf(corners), 9);
        }
      )
    );
  });

  it('takes the square ones where there is a choice', () => {
    // two squares side by side
    const corners: Triple[] = [
      [0, 0, 0],
      [1, 0, 0],
      [2, 0, 0],
      [2, 1, 0],
      [1, 1, 0],
      [0, 1, 0]
    ];
    const quads = quadrangulate(corners, UP)!.map((quad) => [...quad].sort().join());
    expect(quads.sort()).toEqual(['0,1,4,5', '1,2,3,4']);
  });

  it('keeps off lines that may not be drawn, and is nothing where none is left or the count is odd', () => {
    const corners = round([1, 1, 1, 1, 1, 1]);
    const quads = quadrangulate(corners, UP, (i, j) => !(i === 0 && j === 3))!;
    expect(
      quads.every((quad) => !quad.some((a, k) => a === 0 && quad[(k + 1) % 4] === 3) && !quad.some((a, k) => a === 3 && quad[(k + 1) % 4] === 0))
    ).toBe(true);
    expect(quadrangulate(corners, UP, () => false)).toBeUndefined();
    expect(quadrangulate(round([1, 1, 1, 1, 1]), UP)).toBeUndefined();
  });
});

describe('a band between two loops', () => {
  const count = fc.integer({ min: 3, max: 14 });

  it('covers the ring between them, each edge of either taken once, with one triangle where the counts together are odd', () => {
    fc.assert(
      fc.property(count, count, fc.double({ min: 0, max: 1, noNaN: true }), (m, n, turn) => {
        const [outer, inner] = [round(Array<number>(m).fill(2)), round(Array<number>(n).fill(1), turn)];
        const faces = quadBand(outer, inner, UP, true)!;
        const corners = faces.map(({ outer: o, inner: i }) => [...o.map((k) => outer[k]), ...i.map((k) => inner[k])]);
        expect(corners.filter((face) => face.length === 3).length).toBe((m + n) % 2);
        expect(corners.every((face) => face.length === 3 || face.length === 4)).toBe(true);
        const edgesOf = (side: 'outer' | 'inner', size: number) =>
          faces.flatMap((face) =>
            face[side].slice(1).map((k, i) => (side === 'outer' ? [face[side][i], k] : [k, face[side][i]]).map((c) => c % size).join())
          );
        expect(edgesOf('outer', m).sort()).toEqual(outer.map((_, k) => `${k},${(k + 1) % m}`).sort());
        expect(edgesOf('inner', n).sort()).toEqual(inner.map((_, k) => `${k},${(k + 1) % n}`).sort());
        expect(corners.reduce((sum, face) => sum + areaOf(face), 0)).toBeCloseTo(areaOf(outer) - areaOf(inner), 9);
      }),
      { numRuns: 150 }
    );
    expect(quadBand(round([2, 2, 2, 2, 2]), round([1, 1, 1, 1]), UP)).toBeUndefined();
  });

  it('joins loops of one count corner to corner, however they are turned', () => {
    for (const turn of [0, 3, 5]) {
      const outer = round(Array<number>(8).fill(2));
      const inner = [...round(Array<number>(8).fill(1)).slice(turn), ...round(Array<number>(8).fill(1)).slice(0, turn)];
      for (const { outer: o, inner: i } of quadBand(outer, inner, UP)!) {
        expect([o.length, i.length]).toEqual([2, 2]);
        expect(length([outer[o[0]][0] - 2 * inner[i[1]][0], outer[o[0]][1] - 2 * inner[i[1]][1], 0])).toBeLessThan(1e-9);
      }
    }
  });
});

describe('links between loops', () => {
  it('cost least among all rows of links', () => {
    const costs = fc.array(fc.nat(20), { minLength: 60, maxLength: 60 });
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 1, max: 4 }), costs, (m, n, list) => {
        const cost = ([i, j]: [number, number], [a, b]: [number, number]) => list[(i * 17 + j * 5 + a * 3 + b) % 60];
        const steps: [step: [number, number], triangles: number][] = [
          [[1, 1], 0],
          [[2, 0], 0],
          [[0, 2], 0],
          [[1, 0], 1],
          [[0, 1], 1]
        ];
        const least = (i: number, j: number, triangles: number): number => {
          if (i > m || j > n || triangles < 0) return Infinity;
          if (i === m && j === n) return triangles === 0 ? 0 : Infinity;
          return Math.min(...steps.map(([step, taken]) => cost([i, j], step) + least(i + step[0], j + step[1], triangles - taken)));
        };
        const found = cheapestLinks(m, n, cost);
        expect(found.cost).toBe(least(0, 0, (m + n) % 2));
        expect(found.taken.reduce((sum, step, k) => sum + cost(found.links[k], step), 0)).toBe(found.cost);
        expect([found.links[0], found.links.at(-1)]).toEqual([
          [0, 0],
          [m, n]
        ]);
      })
    );
  });
});
