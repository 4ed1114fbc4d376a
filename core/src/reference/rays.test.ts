import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyCage } from '../../testing/random-meshes.ts';
import { denseSphere, denseTorus } from '../shapes/sample-surfaces.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { Reference } from './reference.ts';
import { TriangleBvh } from './triangle-bvh.ts';

const number = fc.double({ min: -30, max: 30, noNaN: true });
const place = fc.tuple(number, number, number);

/** The nearest triangle that a ray meets, found by looking at all of them. */
function slowly(tree: TriangleBvh, origin: number[], direction: number[]): number | undefined {
  const one = Array.from({ length: tree.triangles.length / 3 }, (_, t) => new TriangleBvh(tree.positions, tree.triangles.slice(3 * t, 3 * t + 3)));
  const hits = one.flatMap((single) => single.raycast(origin, direction)?.distance ?? []);
  return hits.length > 0 ? Math.min(...hits) : undefined;
}

describe('rays through a tree of triangles', () => {
  it('meet what they would meet first if every triangle were looked at', () => {
    fc.assert(
      fc.property(anyCage, place, place, (cage, origin, direction) => {
        fc.pre(direction.some((x) => x !== 0));
        const mesh = cage.toPolygons();
        const tree = new TriangleBvh(mesh.positions, triangulate(mesh).triangles);
        expect(tree.raycast(origin, direction)?.distance).toBe(slowly(tree, origin, direction));
      }),
      { numRuns: 60 }
    );
  });

  it('meet a sphere where it is, from outside and from inside, and nothing beyond it', () => {
    const { bvh } = new Reference(denseSphere(40));
    const hit = bvh.raycast([0, 0, 50], [0, 0, -2])!;
    expect(hit.distance).toBeCloseTo(15, 2);
    expect(bvh.raycast([0, 0, 0], [0, 1, 0])!.distance).toBeCloseTo(20, 2);
    expect(bvh.raycast([0, 0, 50], [0, 0, 1])).toBeUndefined();
    expect(bvh.raycast([25, 0, 50], [0, 0, -1])).toBeUndefined();
    // the far side, where the near one is left out
    const { positions, triangles } = bvh;
    const far = bvh.raycast([0, 0, 50], [0, 0, -1], (t) => positions[3 * triangles[3 * t] + 2] < 0)!;
    expect(far.distance).toBeCloseTo(70, 2);
    const corner = (k: number) => positions[3 * triangles[3 * hit.triangle + k] + 2];
    expect(corner(0) + hit.b * (corner(1) - corner(0)) + hit.c * (corner(2) - corner(0))).toBeCloseTo(50 - 2 * hit.distance, 9);
  });

  it('run along the axes and within sides of boxes', () => {
    const { bvh } = new Reference(denseTorus(40, 16));
    const far = (...direction: number[]) => bvh.raycast([30, 0, 0], direction)!.distance;
    expect(far(1, 0, 0)).toBeCloseTo(10, 0);
    expect(far(0, -1, 0)).toBeCloseTo(10, 0);
    // along the ring it goes on until the ring bends away
    expect(far(0, 0, -1)).toBeCloseTo(Math.sqrt(40 ** 2 - 30 ** 2), 0);
  });
});

describe('a reference', () => {
  it('is made once for a mesh, and of what another thread made of it', () => {
    const mesh = denseSphere(12);
    const made = structuredClone(new Reference(mesh).plain());
    const taken = Reference.of(mesh, made);
    expect([Reference.of(mesh), taken.triangles]).toEqual([taken, made.triangles]);
    expect(taken.closestPoint([3, 40, 1])).toEqual(new Reference(mesh).closestPoint([3, 40, 1]));
    expect(taken.bvh.raycast([0, 40, 0], [0.1, -1, 0.2])).toEqual(new Reference(mesh).bvh.raycast([0, 40, 0], [0.1, -1, 0.2]));
  });
});
