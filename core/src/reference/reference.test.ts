import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { deviation } from '../check/measures.ts';
import { denseSphere } from '../shapes/sample-surfaces.ts';
import { polygonMesh } from '../mesh/polygon-mesh.ts';
import { randomNumbers } from '../numeric/random.ts';
import { Reference } from './reference.ts';
import { surfacePoint, TriangleBvh } from './triangle-bvh.ts';

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

  it('is the nearest of all triangles where they crowd within crowds, or lie on each other', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 12 }), { minLength: 1, maxLength: 6 }), fc.integer({ min: 0, max: 1000 }), (scales, seed) => {
        const random = randomNumbers(seed);
        const points: [number, number, number][] = [];
        for (const scale of scales) {
          const middle = [random(), random(), random()];
          // every third crowd is one triangle many times over
          const spread = scale % 3 === 0 ? 0 : 10 ** -scale;
          const shape = [0, 1, 2].map(() => [random(), random(), random()]);
          for (let i = 0; i < 120; i++) {
            const shift = [random(), random(), random()];
            for (const corner of shape)
              points.push([0, 1, 2].map((k) => middle[k] + 10 ** -scale * corner[k] + spread * shift[k]) as [number, number, number]);
          }
        }
        const triangles = Int32Array.from(points.keys());
        const tree = new TriangleBvh(Float64Array.from(points.flat()), triangles);
        for (let i = 0; i < 20; i++) {
          const near = points[Math.floor(random() * points.length)];
          const at = near.map((x) => x + (random() - 0.5) * 10 ** (-12 * random())) as [number, number, number];
          const { distance2 } = tree.closest(...at, surfacePoint());
          let least = Infinity;
          for (let t = 0; t < triangles.length / 3; t++) least = Math.min(least, tree.distance2To(t, ...at));
          expect(distance2).toBe(least);
        }
      }),
      { numRuns: 40 }
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

  it('is found in a tree that follows moved vertices as in one built anew', () => {
    const mesh = denseSphere(12);
    Reference.of(mesh);
    const moved = { ...mesh, positions: mesh.positions.map((x, i) => x * (1 + 0.2 * Math.sin(i))) };
    Reference.moved(mesh, moved);
    const [followed, anew] = [Reference.of(moved), new Reference(moved)];
    for (let i = 0; i < 300; i++) {
      const p: [number, number, number] = [12 * Math.sin(i), 12 * Math.sin(2.3 * i), 12 * Math.cos(1.7 * i)];
      expect(followed.bvh.closest(...p, surfacePoint()).distance2).toBeCloseTo(anew.bvh.closest(...p, surfacePoint()).distance2, 9);
    }
  });

  it('measures a shell around a sphere', () => {
    const reference = new Reference(denseSphere(40));
    const { mean, most } = deviation(reference, Float64Array.of(0, 23, 0, 0, 0, -17, 0, 20, 0));
    expect(most).toBeCloseTo(3, 1);
    expect(mean).toBeCloseTo(2, 1);
  });
});
