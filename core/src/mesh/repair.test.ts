import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyCage } from '../../testing/random-meshes.ts';
import { box, listFaces, listPoints, quadSphere } from '../shapes/start-shapes.ts';
import { assertValid } from './assert-valid.ts';
import { Cage } from './cage.ts';
import { faceCount, polygonMesh, vertexCount, type PolygonMesh } from './polygon-mesh.ts';
import { describeRepair } from './repair-report.ts';
import { repairPolygons } from './repair.ts';
import { enclosedVolume, islands } from './topology.ts';

/** Repairs, and checks that a cage can hold the result. */
function repaired(mesh: PolygonMesh, weld = true) {
  const { mesh: clean, report } = repairPolygons(mesh, { weld });
  const cage = Cage.fromPolygons(clean);
  assertValid(cage);
  return { cage, report, said: describeRepair(report).join(' ') };
}

describe('repairing polygons of unknown origin', () => {
  it('leaves a clean mesh as it is and says nothing', () => {
    const mesh = quadSphere(5, 4);
    const { cage, said } = repaired(mesh);
    expect(said).toBe('');
    expect([...cage.toPolygons().positions]).toEqual([...mesh.positions]);
  });

  it('welds a soup of separate quads into one closed shell', () => {
    const cube = box({ x: 2, y: 2, z: 2 }, { x: 2, y: 2, z: 2 });
    const points = listPoints(cube);
    const soup = polygonMesh(
      listFaces(cube).flatMap((f) => f.map((v) => points[v])),
      listFaces(cube).map((_, i) => [0, 1, 2, 3].map((k) => 4 * i + k))
    );
    const { cage, report } = repaired(soup);
    expect([cage.vertexCount, islands(cage).count]).toEqual([26, 1]);
    expect(report.weldedVertices).toBe(96 - 26);
    expect(repaired(soup, false).cage.vertexCount).toBe(96);
  });

  it('turns faces at random back, outward', () => {
    fc.assert(
      fc.property(fc.array(fc.boolean(), { minLength: 24, maxLength: 24 }), (turned) => {
        const cube = box({ x: 2, y: 2, z: 2 }, { x: 2, y: 2, z: 2 });
        const mesh = polygonMesh(
          listPoints(cube),
          listFaces(cube).map((f, i) => (turned[i] ? [...f].reverse() : f))
        );
        expect(enclosedVolume(repaired(mesh).cage)).toBeCloseTo(8, 10);
      }),
      { numRuns: 50 }
    );
  });

  it('splits an edge that has five faces, and says where', () => {
    const points = [[0, 0, 0], [0, 0, 1], ...Array.from({ length: 5 }, (_, i) => [Math.cos(i), Math.sin(i), 0.5])];
    const { cage, report, said } = repaired(
      polygonMesh(
        points,
        [2, 3, 4, 5, 6].map((v) => [0, 1, v])
      )
    );
    expect(cage.faceCount).toBe(5);
    expect(report.splitEdges.count).toBe(1);
    expect(said).toBe('Split 1 edge with more than two faces (at vertex 1).');
  });

  it('splits a vertex in which two shells touch', () => {
    const cube = box({ x: 1, y: 1, z: 1 }, { x: 1, y: 1, z: 1 });
    const other = listPoints(cube).map((p) => p.map((x) => x + 1));
    const mesh = polygonMesh([...listPoints(cube), ...other], [...listFaces(cube), ...listFaces(cube).map((f) => f.map((v) => v + 8))]);
    const { cage, said } = repaired(mesh);
    expect([cage.vertexCount, islands(cage).count]).toEqual([16, 2]);
    expect(said).toContain('Split 1 vertex in which parts of the surface only touched');
  });

  it('cuts a Moebius strip once across', () => {
    const points = Array.from({ length: 12 }, (_, i) => {
      const a = (Math.PI * Math.floor(i / 2)) / 3;
      const r = 5 + (i % 2 ? 1 : -1) * Math.cos(a / 2);
      return [r * Math.cos(a), (i % 2 ? 1 : -1) * Math.sin(a / 2), r * Math.sin(a)];
    });
    const faces = Array.from({ length: 6 }, (_, i) => (i < 5 ? [2 * i, 2 * i + 1, 2 * i + 3, 2 * i + 2] : [10, 11, 0, 1]));
    const { cage, report, said } = repaired(polygonMesh(points, faces));
    expect(report.oneSidedCuts).toBe(1);
    expect(said).toContain('Moebius');
    expect(cage.faceCount).toBe(6);
  });

  it('drops faces without three corners and faces that are there twice, keeps the rest', () => {
    const mesh = polygonMesh(
      [
        [0, 0, 0],
        [1, 0, 0],
        [1, 1, 0],
        [0, 1, 0],
        [5, 5, 5]
      ],
      [
        [0, 1, 2, 3],
        [2, 3, 0, 1],
        [0, 1, 1],
        [2, 2, 2]
      ]
    );
    const { cage, report } = repaired(mesh);
    expect([cage.faceCount, report.duplicateFaces.count, report.droppedFaces.count, report.looseVertices]).toEqual([1, 1, 2, 1]);
  });

  it('makes a cage of anything, without moving a point or losing a face', () => {
    const soup = fc.record({
      points: fc.array(fc.tuple(fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 2 })), {
        minLength: 4,
        maxLength: 14
      }),
      faces: fc.array(fc.uniqueArray(fc.nat(13), { minLength: 3, maxLength: 5 }), { minLength: 1, maxLength: 25 })
    });
    fc.assert(
      fc.property(soup, fc.boolean(), ({ points, faces }, weld) => {
        const mesh = polygonMesh(
          points,
          faces.map((f) => [...new Set(f.map((v) => v % points.length))]).filter((f) => f.length > 2)
        );
        if (faceCount(mesh) === 0) return;
        const { cage, report } = repaired(mesh, weld);
        expect(cage.faceCount).toBe(faceCount(mesh) - report.droppedFaces.count - report.duplicateFaces.count);
        const places = new Set(points.map((p) => p.join(' ')));
        for (const v of cage.vertices()) expect(places.has(cage.position(v).join(' '))).toBe(true);
      }),
      { numRuns: 200 }
    );
  });

  it('accepts whatever a cage gives back', () => {
    fc.assert(
      fc.property(anyCage, (cage) => {
        const polygons = cage.toPolygons();
        const { mesh } = repairPolygons(polygons, { weld: false, outward: false });
        expect([vertexCount(mesh), faceCount(mesh)]).toEqual([[...cage.vertices()].filter((v) => cage.vertexEdge[v] >= 0).length, cage.faceCount]);
      }),
      { numRuns: 60 }
    );
  });
});
