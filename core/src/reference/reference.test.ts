import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { deviation } from '../check/measures.ts';
import { denseSphere } from '../shapes/sample-surfaces.ts';
import { polygonMesh } from '../mesh/polygon-mesh.ts';
import { Reference } from './reference.ts';
import { surfacePoint } from './triangle-bvh.ts';

describe('closest point on a reference', () => {
  it('is never farther than the densest sampling of every triangle, and lies where its triangle says', () => {
    const number = fc.double({ min: -5, max: 5, noNaN: true });
    const point = fc.tuple(number, number, number);
    fc.assert(
      fc.property(fc.array(point, { minLength: 3, maxLength: 30 }), point, (points, [x, y, z]) => {
        const faces = points.slice(2).map((_, i) => [i, i + 1, i + 2]);
        const reference = new Reference(polygonMesh(points, faces));
        const hit = reference.bvh.closest(x, y, z, surfacePoint());
        const [a, b, c] = faces[hit.triangle].map((v) => points[v]);
        const there = [0, 1, 2].map((k) => (1 - hit.b - hit.c) * a[k] + hit.b * b[k] + hit.c * c[k]);
        expect(Math.hypot(there[0] - hit.x, there[1] - hit.y, there[2] - hit.z)).toBeLessThan(1e-6);
        for (const [i, j, k] of faces)
          for (let s = 0; s <= 12; s++)
            for (let t = 0; t <= 12 - s; t++) {
              const p = [0, 1, 2].map(
                (axis) => points[i][axis] + (s / 12) * (points[j][axis] - points[i][axis]) + (t / 12) * (points[k][axis] - points[i][axis])
              );
              expect(Math.hypot(p[0] - x, p[1] - y, p[2] - z)).toBeGreaterThan(Math.sqrt(hit.distance2) - 1e-9);
            }
      }),
      { numRuns: 60 }
    );
  });

  it('accepts only the triangles it is allowed to', () => {
    const wall = polygonMesh(
      [
        [0, 0, 0],
        [4, 0, 0],
        [0, 4, 0],
        [0, 0, 1],
        [4, 0, 1],
        [0, 4, 1]
      ],
      [
        [0, 2, 1],
        [3, 4, 5]
      ]
    );
    const reference = new Reference(wall);
    expect(reference.bvh.closest(1, 1, 0.1, surfacePoint()).triangle).toBe(0);
    const facingUp = reference.bvh.closest(1, 1, 0.1, surfacePoint(), Infinity, (t) => reference.normals[3 * t + 2] > 0);
    expect([facingUp.triangle, facingUp.z]).toEqual([1, 1]);
  });

  it('measures a shell around a sphere', () => {
    const reference = new Reference(denseSphere(40));
    const { mean, most } = deviation(reference, Float64Array.of(0, 23, 0, 0, 0, -17, 0, 20, 0));
    expect(most).toBeCloseTo(3, 1);
    expect(mean).toBeCloseTo(2, 1);
  });
});
