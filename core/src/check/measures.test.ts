import { describe, expect, it } from 'vitest';
import { Cage } from '../mesh/cage.ts';
import { polygonMesh } from '../mesh/polygon-mesh.ts';
import { box, cylinder, plane, quadSphere, singleVertex } from '../shapes/start-shapes.ts';
import { cornerAngles, deviation, histogram, measure, skewFaces, unevenEdges } from './measures.ts';

describe('measures', () => {
  it('of a box: even edges, right angles, eight poles', () => {
    const m = measure(Cage.fromPolygons(box({ x: 4, y: 4, z: 4 }, { x: 2, y: 2, z: 2 })));
    expect(m).toMatchObject({ quads: 24, triangles: 0, ngons: 0, borders: 0, islands: 1, spacing: 0, poles: [{ valence: 3, count: 8 }] });
    expect([m.edgeLength.least, m.edgeLength.most]).toEqual([2, 2]);
    expect([m.corners.least, m.corners.most, m.corners.meanOff90].map((x) => Math.round(x))).toEqual([90, 90, 0]);
  });

  it('count borders, islands, triangles and n-gons', () => {
    expect(measure(Cage.fromPolygons(cylinder(2, 4, 7, 2, true)))).toMatchObject({ quads: 14, ngons: 2, borders: 0 });
    expect(measure(Cage.fromPolygons(cylinder(2, 4, 7, 2, false)))).toMatchObject({ borders: 2 });
    const two = polygonMesh(
      [
        [0, 0, 0],
        [1, 0, 0],
        [0, 1, 0],
        [5, 0, 0],
        [6, 0, 0],
        [5, 1, 0]
      ],
      [
        [0, 1, 2],
        [3, 4, 5]
      ]
    );
    expect(measure(Cage.fromPolygons(two))).toMatchObject({ triangles: 2, islands: 2, borders: 2 });
  });

  it('of a cage without faces are zero and finite', () => {
    const m = measure(Cage.fromPolygons(singleVertex()));
    expect([m.faces, m.spacing, m.edgeLength.mean, m.corners.least]).toEqual([0, 0, 0, 0]);
  });

  it('name the edges and faces that are far off', () => {
    const cage = Cage.fromPolygons(plane(10, 10, 10, 10));
    expect([unevenEdges(cage), skewFaces(cage)]).toEqual([[], []]);
    const v = [...cage.vertices()].find((k) => !cage.isBorderVertex(k))!;
    cage.positions[3 * v] += 0.7;
    expect(unevenEdges(cage).length).toBeGreaterThan(0);
    expect(skewFaces(cage).every((f) => cage.faceVertices(f).includes(v))).toBe(true);
    expect(cornerAngles(cage, 99).map(Math.round)).toEqual([90, 90, 90, 90]);
  });

  it('take what rounding alone puts off a reference as lying on it', () => {
    const off = (...distances: number[]) =>
      deviation({ signedDistances: () => Float64Array.from(distances) }, Float64Array.from([40, 0, 0, 0, 40, 0]));
    expect(off(3e-14, 0)).toMatchObject({ mean: 0, most: 0 });
    expect(off(3e-9, 0)).toMatchObject({ mean: 1.5e-9, most: 3e-9 });
    expect(off(-3e-9, 0)).toMatchObject({ mean: 1.5e-9, most: 3e-9, signed: Float64Array.of(-3e-9, 0) });
  });

  it('histograms put every value into a bin', () => {
    const { counts, from, width } = histogram([1, 2, 2, 3, 9], 4);
    expect([counts, from, width]).toEqual([[3, 1, 0, 1], 1, 2]);
    expect(histogram([]).counts).toEqual([]);
    expect(histogram([5, 5, 5]).counts.reduce((a, b) => a + b)).toBe(3);
    expect(measure(Cage.fromPolygons(quadSphere(1, 8))).spacing).toBeLessThan(0.15);
  });
});
