import { describe, expect, it } from 'vitest';
import { working } from '../../../testing/working-meshes.ts';
import { polygonMesh, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { denseTorus, longLimbed, noisyScan } from '../../shapes/sample-surfaces.ts';
import { box, plane } from '../../shapes/start-shapes.ts';
import { type Mirror } from '../base/mirror.ts';
import { type Symmetry } from '../base/options.ts';
import { WorkingMesh } from '../base/working-mesh.ts';
import { matches } from '../quads/mend.ts';
import { MirroredPlaces } from './mirrored-places.ts';
import { halved, mirrored, mirrorsOf, partsWell } from './symmetry.ts';

describe('mirrors', () => {
  const planesOf = (mesh: PolygonMesh, wanted: Symmetry = 'auto', tolerance = 0.05) => {
    const dense = working(mesh);
    return mirrorsOf(dense.mesh, dense.bvh, tolerance, wanted);
  };

  it('are found where there are any, along the axes or askew, and taken as asked for', () => {
    expect(
      planesOf(denseTorus(80, 30))
        .map(({ normal }) => normal.map(Math.abs).indexOf(1))
        .sort()
    ).toEqual([0, 1, 2]);
    expect(planesOf(longLimbed(1.5)).map(({ normal, offset }) => [...normal, offset])).toEqual([[1, 0, 0, 0]]);
    expect(planesOf(noisyScan(1.4))).toEqual([]);
    expect(planesOf(denseTorus(80, 30), 'none')).toEqual([]);
    const [asked] = planesOf(noisyScan(1.4), 'z');
    expect([asked.normal, asked.error > 0.05]).toEqual([[0, 0, 1], true]);
    // a box turned about Y by 0.4
    const turned = box({ x: 30, y: 20, z: 10 }, { x: 3, y: 2, z: 1 });
    for (let i = 0; i < turned.positions.length; i += 3) {
      const [x, z] = [turned.positions[i], turned.positions[i + 2]];
      turned.positions[i] = x * Math.cos(0.4) + z * Math.sin(0.4);
      turned.positions[i + 2] = z * Math.cos(0.4) - x * Math.sin(0.4);
    }
    expect(planesOf(turned)).toHaveLength(3);
  });

  it('are none where corners alone lie on the surface when they are mirrored', () => {
    // a bar along X with a narrow square hole through it that lies off its middle along Z: the hole's corners lie in the bar's ends
    const ring = (x: number, y: number, z: number, at: number) => [
      [x, -y, at - z],
      [x, -y, at + z],
      [x, y, at + z],
      [x, y, at - z]
    ];
    const points = [-30, 30].flatMap((x) => [...ring(x, 10, 15, 0), ...ring(x, 0.5, 0.5, 6)]);
    const round = [0, 1, 2, 3].map((i) => [i, (i + 1) % 4]);
    const faces = round.flatMap(([i, j]) => [
      [i, j, 8 + j, 8 + i],
      [4 + j, 4 + i, 12 + i, 12 + j],
      [j, i, 4 + i, 4 + j],
      [8 + i, 8 + j, 12 + j, 12 + i]
    ]);
    expect(planesOf(polygonMesh(points, faces), 'auto', 0.5).map(({ normal }) => normal)).toEqual([
      [1, 0, 0],
      [0, 1, 0]
    ]);
  });

  it('cut a surface into halves of equal area, with borders on the plane, whose quads make a closed whole again', () => {
    const { mesh } = working(denseTorus(60, 24));
    const mirror: Mirror = { normal: [1, 0, 0], offset: 0, error: 0 };
    const areaOf = (m: WorkingMesh) => Array.from({ length: m.triangles }, (_, t) => m.area(t)).reduce((a, b) => a + b, 0);
    const half = halved(mesh, mirror, 100);
    expect(areaOf(half)).toBeCloseTo(areaOf(mesh) / 2, 6);
    for (let h = 0; h < 3 * half.triangles; h++) {
      expect(half.point(half.corner[h])[0]).toBeGreaterThanOrEqual(0);
      if (half.opposite[h] < 0) expect([half.feature[h], half.point(half.corner[h])[0]]).toEqual([1, 0]);
    }
    const sheet = plane(4, 4, 4, 4);
    for (let i = 0; i < sheet.positions.length; i += 3) sheet.positions[i] += 2;
    const quads = mirrored({ positions: sheet.positions, quads: sheet.faceVertices, hold: new Uint8Array(25) }, mirror, 0.1);
    expect([quads.positions.length / 3, quads.quads.length / 4]).toEqual([45, 32]);
    expect(matches(quads, { euler: 1, borders: 1 })).toBe(true);
  });

  it('are of no use where a side of them would hang together by a single vertex', () => {
    // a disc round a middle vertex, with or without a triangle there to the right of it
    const spokes = [...Array(16).keys()];
    const round = (radius: number) =>
      spokes.map((i) => [radius * Math.cos(((i + 0.5) * Math.PI) / 8), radius * Math.sin(((i + 0.5) * Math.PI) / 8), 0]);
    const rim = spokes.map((i) => [1 + i, 17 + i, 17 + ((i + 1) % 16), 1 + ((i + 1) % 16)]);
    const disc = (middle: number[]) =>
      polygonMesh([[0, 0, 0], ...round(1), ...round(10)], [...rim, ...middle.map((i) => [0, 1 + i, 1 + ((i + 1) % 16)])]);
    const cutIn = (normal: Triple, middle: number[]) => partsWell(working(disc(middle)).mesh, { normal, offset: 0, error: 0 }, 20);
    expect(cutIn([1, 0, 0], spokes)).toBe(true);
    expect(cutIn([1, 0, 0], spokes.slice(0, 15))).toBe(false);
    expect(cutIn([-1, 0, 0], spokes.slice(0, 15))).toBe(true);
    expect(cutIn([0, 1, 0], spokes.slice(0, 15))).toBe(true);
  });

  it('lead their images: what moves on one side moves on all others, and what lies on a mirror stays on it', () => {
    const mirrors: Mirror[] = [
      { normal: [1, 0, 0], offset: 0, error: 0 },
      { normal: [0, 0, -1], offset: 0, error: 0 }
    ];
    const { positions } = plane(4, 4, 2, 2);
    const at = (x: number, z: number) =>
      [...Array(9).keys()].find((v) => Math.abs(positions[3 * v] - x) + Math.abs(positions[3 * v + 2] - z) < 1e-9)!;
    const [corner, middle] = [at(2, -2), at(2, 0)];
    const images = [at(-2, -2), at(2, 2), at(-2, 2)];
    const places = new MirroredPlaces(mirrors, positions, 1e-6);
    expect([corner, middle, ...images].map((v) => places.isImage(v))).toEqual([false, false, true, true, true]);
    expect([middle, corner].map((v) => places.isOnMirror(v))).toEqual([true, false]);
    positions.set([2.5, 1, -3], 3 * corner);
    positions.set([2.25, -1, 0.5], 3 * middle);
    [corner, middle].forEach((v) => places.settle(v));
    const placeOf = (v: number) => [...positions.subarray(3 * v, 3 * v + 3)];
    expect(images.map(placeOf)).toEqual([
      [-2.5, 1, -3],
      [2.5, 1, 3],
      [-2.5, 1, 3]
    ]);
    expect([middle, at(-2.25, 0)].map(placeOf)).toEqual([
      [2.25, -1, 0],
      [-2.25, -1, 0]
    ]);
  });
});
