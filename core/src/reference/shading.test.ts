import { describe, expect, it } from 'vitest';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { denseSphere, wedge } from '../shapes/sample-surfaces.ts';
import { box, cylinder } from '../shapes/start-shapes.ts';
import { shadedTriangles } from './shading.ts';

function shaded(mesh: PolygonMesh) {
  const { triangles } = triangulate(mesh);
  const result = shadedTriangles(mesh.positions, triangles);
  const at = (array: Float32Array, c: number) => [...array.subarray(3 * result.triangles[c], 3 * result.triangles[c] + 3)];
  const corners = Array.from({ length: triangles.length }, (_, c) => ({ place: at(result.positions, c), normal: at(result.normals, c) }));
  // the same triangles at the same places
  corners.forEach(({ place }, c) => place.forEach((x, k) => expect(x).toBeCloseTo(mesh.positions[3 * triangles[c] + k], 4)));
  return { ...result, corners, copies: result.positions.length / 3 - mesh.positions.length / 3 };
}

describe('shading of a reference', () => {
  it('is smooth on a sphere, with a normal by vertex', () => {
    const { corners, copies } = shaded(denseSphere(20));
    expect(copies).toBe(0);
    for (const { place, normal } of corners) {
      const radius = Math.hypot(...place);
      expect(normal.reduce((sum, n, k) => sum + (n * place[k]) / radius, 0)).toBeGreaterThan(0.999);
    }
  });

  it('is flat on the sides of a box up to its edges, in the middle of them and at its corners', () => {
    const { corners } = shaded(box({ x: 20, y: 20, z: 20 }, { x: 4, y: 4, z: 4 }));
    for (let c = 0; c < corners.length; c += 3) {
      const axis = [0, 1, 2].find((k) => [0, 1, 2].every((i) => Math.abs(Math.abs(corners[c + i].place[k]) - 10) < 1e-6))!;
      for (const { place, normal } of corners.slice(c, c + 3))
        normal.forEach((n, k) => expect(n).toBeCloseTo(k === axis ? Math.sign(place[k]) : 0, 6));
    }
  });

  it('is round round a cylinder and flat on its ends, where both meet', () => {
    const { corners } = shaded(cylinder(10, 30, 24, 3, true));
    let [round, flat] = [0, 0];
    for (const { place, normal } of corners) {
      if (Math.abs(normal[1]) > 0.5) {
        expect(Math.abs(normal[1])).toBeCloseTo(1, 6);
        flat++;
      } else {
        expect((normal[0] * place[0] + normal[2] * place[2]) / 10).toBeGreaterThan(0.99);
        round++;
      }
    }
    expect(Math.min(round, flat)).toBeGreaterThan(50);
  });

  it('keeps both sides of a thin wedge apart, and has a normal at each place however thin triangles are', () => {
    const { corners } = shaded(wedge(15));
    for (const { normal } of corners) expect(Math.hypot(...normal)).toBeCloseTo(1, 5);
    const thin: PolygonMesh = {
      positions: Float64Array.of(0, 0, 0, 1, 0, 0, 2, 0, 0, 1, 1, 0),
      faceStart: Int32Array.of(0, 3, 6, 9),
      faceVertices: Int32Array.of(0, 1, 3, 1, 2, 3, 0, 2, 1)
    };
    const { copies, normals } = shaded(thin);
    expect(copies).toBe(0);
    expect([...normals]).toEqual([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1]);
  });
});
