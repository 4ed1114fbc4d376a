import { describe, expect, it } from 'vitest';
import { Cage } from '../mesh/cage.ts';
import { polygonMesh } from '../mesh/polygon-mesh.ts';
import { plane, torus } from '../shapes/start-shapes.ts';
import { quadQuality, stripsOf } from './quad-quality.ts';

describe('quality of quads', () => {
  it('counts strips by the quads they pass, closed or open', () => {
    const ring = Cage.fromPolygons(torus(30, 10, 8, 6));
    expect(stripsOf(ring).lengths.sort((a, b) => a - b)).toEqual([...Array(8).fill(6), ...Array(6).fill(8)]);
    const sheet = Cage.fromPolygons(plane(3, 2, 3, 2));
    const { lengths, of } = stripsOf(sheet);
    expect(lengths.sort()).toEqual([2, 2, 2, 3, 3]);
    for (const e of sheet.edges()) expect(of[e]).toBeGreaterThanOrEqual(0);
    expect(quadQuality(sheet)).toMatchObject({ strips: 5, longest: 3, spirals: 0 });
  });

  it('finds a strip that winds round a tube beside itself', () => {
    // six to a turn, each turn one row higher
    const points = Array.from({ length: 31 }, (_, k) => [Math.cos((k * Math.PI) / 3), k / 6, Math.sin((k * Math.PI) / 3)]);
    const faces = Array.from({ length: 24 }, (_, k) => [k, k + 6, k + 7, k + 1]);
    expect(quadQuality(Cage.fromPolygons(polygonMesh(points, faces)))).toMatchObject({ spirals: 1, longest: 24 });
  });

  it('gives the least sine of the corners: 1 for squares, less where they lean, below 0 where one turns inward', () => {
    const quad = (...corners: number[][]) => quadQuality(Cage.fromPolygons(polygonMesh(corners, [[0, 1, 2, 3]]))).worst;
    expect(quad([0, 0, 0], [2, 0, 0], [2, 2, 0], [0, 2, 0])).toBeCloseTo(1, 12);
    expect(quad([0, 0, 0], [2, 0, 0], [3, Math.sqrt(3), 0], [1, Math.sqrt(3), 0])).toBeCloseTo(Math.sqrt(3) / 2, 12);
    expect(quad([0, 0, 0], [4, 0, 0], [1, 1, 0], [0, 4, 0])).toBeLessThan(0);
  });
});
