import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { amount } from '../../testing/amount.ts';
import { cutPolygon, MOST_CORNERS, type PolygonLoop } from './cut-polygon.ts';

type Place = [number, number];

/** Corners on a circle, numbered from `first` on; a hole runs clockwise. */
function ring(first: number, many: number, radius: number, [x, y]: Place, hole: boolean): { loop: PolygonLoop; places: [number, Place][] } {
  const corners = Array.from({ length: many }, (_, i) => first + i);
  const places = corners.map((v, i): [number, Place] => {
    const turn = ((hole ? -1 : 1) * 2 * Math.PI * i) / many;
    return [v, [x + radius * Math.cos(turn), y + radius * Math.sin(turn)]];
  });
  return { loop: { corners, line: corners }, places };
}
const areaOf = (face: readonly Place[]): number =>
  face.reduce((sum, [x, y], i) => sum + 0.5 * (x * face[(i + 1) % face.length][1] - face[(i + 1) % face.length][0] * y), 0);

function cut(rings: ReturnType<typeof ring>[]) {
  const places = new Map(rings.flatMap((r) => r.places));
  const faces = cutPolygon(
    rings.map(({ loop }) => loop),
    (v) => places.get(v)!
  )!;
  return {
    faces,
    areas: faces.map((face) => areaOf(face.map((v) => places.get(v)!))),
    whole: rings.reduce((sum, r) => sum + areaOf(r.places.map(([, p]) => p)), 0)
  };
}

describe('a polygon cut from corner to corner', () => {
  it('is quads alone where its corners are even in number, with one triangle where they are odd', () => {
    const hexagon = cut([ring(0, 6, 10, [0, 0], false)]);
    expect(hexagon.faces.map((f) => f.length)).toEqual([4, 4]);
    const nine = cut([ring(0, 9, 10, [0, 0], false)]);
    expect(nine.faces.map((f) => f.length).sort()).toEqual([3, 4, 4, 4]);
  });

  it('with a square hole in a square is four quads round it', () => {
    const { faces, areas } = cut([ring(0, 4, 10, [0, 0], false), ring(10, 4, 3, [0, 0], true)]);
    expect(faces.map((f) => f.length)).toEqual([4, 4, 4, 4]);
    for (const area of areas) expect(area).toBeCloseTo((200 - 18) / 4, 9);
  });

  it('with any holes that lie apart is faces that cover it once, none turned over, each side of it in one of them', () => {
    const spots: Place[] = [
      [-4, -4],
      [4, -4],
      [0, 4.5]
    ];
    fc.assert(
      fc.property(
        fc.integer({ min: 4, max: 12 }),
        fc.array(fc.record({ corners: fc.integer({ min: 3, max: 6 }), radius: fc.double({ min: 0.5, max: 2, noNaN: true }) }), { maxLength: 3 }),
        (outer, holes) => {
          const rings = [
            ring(0, outer, 12, [0, 0], false),
            ...holes.map(({ corners, radius }, i) => ring(100 * (i + 1), corners, radius, spots[i], true))
          ];
          const { faces, areas, whole } = cut(rings);
          expect(areas.reduce((sum, a) => sum + a, 0)).toBeCloseTo(whole, 6);
          expect(Math.min(...areas)).toBeGreaterThan(0);
          expect(faces.every((f) => f.length === 3 || f.length === 4)).toBe(true);
          const sides = faces.flatMap((f) => f.map((v, i) => `${v} ${f[(i + 1) % f.length]}`));
          expect(new Set(sides).size).toBe(sides.length);
          for (const { loop } of rings)
            loop.corners.forEach((v, i) => expect(sides).toContain(`${v} ${loop.corners[(i + 1) % loop.corners.length]}`));
        }
      ),
      { numRuns: amount(40, 1000) }
    );
  });

  it('is left where it has too many corners, or too few', () => {
    const places = new Map(ring(0, MOST_CORNERS + 1, 10, [0, 0], false).places);
    const corners = [...places.keys()];
    expect(cutPolygon([{ corners, line: corners }], (v) => places.get(v)!)).toBeUndefined();
    expect(cutPolygon([{ corners: [0, 1], line: [0, 1] }], (v) => places.get(v)!)).toBeUndefined();
  });
});
