import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fromPlane, planeAcross } from '../numeric/best-fit.ts';
import { areaVector, dot, length, scaled, type Triple } from '../numeric/vectors.ts';
import { polygonMesh } from './polygon-mesh.ts';
import { triangulate } from './triangulate.ts';

/** A polygon round a point in any plane, its corners at different distances: it may bend inward, and does not cross itself. */
const anyPolygon = fc
  .record({
    reach: fc.array(fc.double({ min: 0.3, max: 3, noNaN: true }), { minLength: 3, maxLength: 14 }),
    towards: fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -1, max: 1, noNaN: true }))).filter((d) => length(d) > 0.1)
  })
  .map(({ reach, towards }) => {
    const across = planeAcross([1, -2, 0.5], towards as Triple);
    const at = (r: number, i: number): Triple => [r * Math.cos((2 * Math.PI * i) / reach.length), r * Math.sin((2 * Math.PI * i) / reach.length), 0];
    return { corners: reach.map((r, i) => fromPlane(across, at(r, i))), normal: across.normal };
  });

const trianglesOf = (corners: readonly Triple[]) => {
  const { triangles, faceOf } = triangulate(polygonMesh(corners, [corners.map((_, i) => i)]));
  const places = [...triangles].map((v) => corners[v]);
  return { faceOf, areas: Array.from(faceOf, (_, t) => scaled(areaVector(places.slice(3 * t, 3 * t + 3)), 0.5)) };
};

describe('triangles of a face', () => {
  it('cover a polygon in any plane, bent inward too, once and from its own side', () => {
    fc.assert(
      fc.property(anyPolygon, ({ corners, normal }) => {
        const { areas } = trianglesOf(corners);
        const whole = 0.5 * length(areaVector(corners));
        expect(areas.length).toBe(corners.length - 2);
        // none the wrong way round: areas would add up to more
        for (const area of areas) expect(dot(area, normal)).toBeGreaterThan(-1e-9);
        expect(areas.reduce((sum, area) => sum + length(area), 0)).toBeCloseTo(whole, 9);
      })
    );
  });

  it('cut an arrowhead from the corner that bends inward, whichever comes first', () => {
    const arrow: Triple[] = [
      [0, 0, 0],
      [4, 0, 0],
      [1, 0, -1],
      [0, 0, -4]
    ];
    for (let first = 0; first < 4; first++) {
      const { areas } = trianglesOf(arrow.map((_, i) => arrow[(i + first) % 4]));
      expect(areas.map((area) => Math.sign(area[1]))).toEqual([1, 1]);
      expect(areas[0][1] + areas[1][1]).toBeCloseTo(4);
    }
  });

  it('are as many for a face without area, so that it can still be picked', () => {
    const line = Array.from({ length: 7 }, (_, i): Triple => [Math.min(i, 6 - i), 0, 0]);
    expect([...trianglesOf(line).faceOf]).toEqual([0, 0, 0, 0, 0]);
  });

  it('know their face among those of other sizes', () => {
    const ring = (n: number, x: number): Triple[] =>
      Array.from({ length: n }, (_, i) => [x + Math.cos((2 * Math.PI * i) / n), 0, Math.sin((2 * Math.PI * i) / n)]);
    const sizes = [4, 3, 9, 5];
    const faces = sizes.map((n, f) => ring(n, 3 * f));
    const start = sizes.map((_, f) => sizes.slice(0, f).reduce((a, b) => a + b, 0));
    const corners = faces.flat();
    const mesh = polygonMesh(
      corners,
      faces.map((face, f) => face.map((_, i) => start[f] + i))
    );
    const { triangles, faceOf } = triangulate(mesh);
    expect([...faceOf]).toEqual([0, 0, 1, 2, 2, 2, 2, 2, 2, 2, 3, 3, 3]);
    faceOf.forEach((f, t) => {
      for (const v of triangles.subarray(3 * t, 3 * t + 3)) expect(v >= start[f] && v < start[f] + sizes[f]).toBe(true);
    });
    const areas = sizes.map(() => 0);
    faceOf.forEach((f, t) => (areas[f] += length(areaVector([...triangles.subarray(3 * t, 3 * t + 3)].map((v) => corners[v])))));
    areas.forEach((area, f) => expect(area).toBeCloseTo(length(areaVector(faces[f])), 9));
  });
});
