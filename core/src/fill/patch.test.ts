import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Triple } from '../numeric/vectors.ts';
import { Patch } from './patch.ts';

/** A regular polygon with so many edges a side, filled; places, and where each corner is. */
function filled(counts: number[]): { patch: Patch; corners: Set<number> } {
  const k = counts.length;
  const corner = (i: number): Triple => [Math.cos((2 * Math.PI * i) / k), Math.sin((2 * Math.PI * i) / k), 0];
  const border: Triple[] = [];
  const starts = counts.map((count, i) => {
    const start = border.length;
    for (let j = 0; j < count; j++) border.push(corner(i).map((x, axis) => x + ((corner(i + 1)[axis] - x) * j) / count) as Triple);
    return start;
  });
  const patch = new Patch(border, [0, 0, 1]);
  patch.lay(counts.map((count, i) => Array.from({ length: count + 1 }, (_, j) => (starts[i] + j) % border.length)));
  return { patch, corners: new Set(starts) };
}

/** Vertices where not four quads meet inside, two along a side, one at a corner. */
function poles({ patch, corners }: ReturnType<typeof filled>): number {
  const quads = patch.places.map(() => 0);
  for (const p of patch.quads.flat()) quads[p]++;
  return quads.filter((n, p) => n !== (corners.has(p) ? 1 : p < patch.rim ? 2 : 4)).length;
}

describe('patch', () => {
  it('lays quads alone between two to eight sides of any counts whose sum is even, as one disc along the whole border', () => {
    const counts = fc.integer({ min: 2, max: 8 }).chain((k) => fc.array(fc.integer({ min: 1, max: k > 6 ? 6 : 12 }), { minLength: k, maxLength: k }));
    fc.assert(
      fc.property(counts, (wanted) => {
        const sum = wanted.reduce((a, b) => a + b, 0);
        const even = sum % 2 === 0 ? wanted : [wanted[0] + 1, ...wanted.slice(1)];
        if (sum < 3) return;
        const { patch } = filled(even);
        const directed = new Set<string>();
        for (const quad of patch.quads) {
          expect(new Set(quad).size).toBe(4);
          quad.forEach((p, i) => {
            const name = `${p} ${quad[(i + 1) % 4]}`;
            if (directed.has(name)) throw new Error(`two quads on one side of ${name}`);
            directed.add(name);
          });
        }
        for (const name of directed) {
          const [p, q] = name.split(' ').map(Number);
          const onBorder = p < patch.rim && q === (p + 1) % patch.rim;
          if (!onBorder && !directed.has(`${q} ${p}`)) throw new Error(`a gap beside ${name}`);
        }
        for (let p = 0; p < patch.rim; p++) expect(directed.has(`${p} ${(p + 1) % patch.rim}`)).toBe(true);
        const edges = (directed.size + patch.rim) / 2;
        expect(new Set(patch.quads.flat()).size - edges + patch.quads.length).toBe(1);
      }),
      { numRuns: 400 }
    );
  });

  it('has no pole where opposite sides agree, one with three or five sides that balance, and at most four between four sides', () => {
    expect(poles(filled([7, 4, 7, 4]))).toBe(0);
    expect(poles(filled([6, 6, 6]))).toBe(1);
    expect(poles(filled([5, 4, 3]))).toBe(1);
    expect(poles(filled([4, 4, 4, 4, 4]))).toBe(1);
    expect(poles(filled([6, 6, 6, 6, 6, 6]))).toBe(2);
    // rows that turn a corner, rows that turn back, both
    expect(poles(filled([8, 7, 6, 5]))).toBe(2);
    expect(poles(filled([12, 5, 4, 5]))).toBe(4);
    fc.assert(
      fc.property(fc.tuple(...Array.from({ length: 4 }, () => fc.integer({ min: 1, max: 20 }))), ([a, b, c, d]) => {
        expect(poles(filled([a, b, c, d + ((a + b + c + d) % 2)]))).toBeLessThanOrEqual(4);
      })
    );
  });
});
