import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyCage, steps, takeStep } from '../../testing/random-meshes.ts';
import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { FirstLevel } from './first-level.ts';
import { Subdivision } from './subdivision.ts';

/** Sharpness on some edges and vertices, from below 1 to 10. */
function marked(cage: Cage, seed: number): Cage {
  for (const e of cage.edges()) if ((e * 7 + seed) % 3 === 0) cage.setValue('crease', e, [0.4, 1, 2.5, 10][(e + seed) % 4]);
  for (const v of cage.vertices()) if ((v * 5 + seed) % 7 === 0) cage.setValue('corner', v, [0.5, 3][(v + seed) % 2]);
  return cage;
}

function expectSame(a: Float64Array, b: Float64Array, ids: Iterable<number>): void {
  for (const id of ids) for (let k = 0; k < 3; k++) expect(Math.abs(a[3 * id + k] - b[3 * id + k])).toBeLessThan(1e-12);
}

describe('first level', () => {
  it('has the points that the subdivision of all levels has', () => {
    fc.assert(
      fc.property(anyCage, fc.nat(20), fc.constantFrom('sharp', 'rounded' as const), (cage, seed, borderCorners) => {
        marked(cage, seed);
        const level = new FirstLevel(cage, borderCorners as 'sharp');
        const mesh = cage.toPolygons();
        const surface = new Subdivision(mesh, { levels: 1, borderCorners: borderCorners as 'sharp' });
        const points = surface.evaluate(mesh.positions);
        const { vertices, edges, edgeVertices } = surface.levels[0];
        const at = (i: number) => points.subarray(3 * i, 3 * i + 3);
        const near = (own: Float64Array, id: number, i: number) => at(i).forEach((x, k) => expect(Math.abs(own[3 * id + k] - x)).toBeLessThan(1e-12));
        mesh.vertexIds.forEach((v, i) => near(level.vertexPoints, v, i));
        mesh.faceIds.forEach((f, i) => near(level.facePoints, f, vertices + edges + i));
        for (let i = 0; i < edges; i++) {
          const [a, b] = [mesh.vertexIds[edgeVertices[2 * i]], mesh.vertexIds[edgeVertices[2 * i + 1]]];
          near(level.edgePoints, cage.findHalfEdge(a, b) >> 1, vertices + i);
        }
      }),
      { numRuns: 100 }
    );
  });

  it('follows any change of topology, places and sharpness to what it would be from nothing', () => {
    fc.assert(
      fc.property(anyCage, steps(6), fc.nat(20), (start, list, seed) => {
        const cage = marked(start, seed);
        const level = new FirstLevel(cage);
        const changed = cage.clone();
        for (const s of list) takeStep(changed, s);
        const [v] = [...changed.vertices()];
        changed.positions[3 * v] += 0.3;
        const [e] = [...changed.edges()];
        changed.setValue('crease', e, 1.5);
        const change = level.follow(changed);
        const fresh = new FirstLevel(changed);
        expectSame(level.vertexPoints, fresh.vertexPoints, changed.vertices());
        expectSame(level.edgePoints, fresh.edgePoints, changed.edges());
        expectSame(level.facePoints, fresh.facePoints, changed.faces());
        for (const h of change.halves)
          if (changed.hasEdge(h >> 1) && changed.face[h] !== NONE) expect(level.quadAt(h).face).toBe(changed.face[changed.next[h]]);
        expect(change.vertices).toContain(v);
        expect(change.edges).toContain(e);
      }),
      { numRuns: 150 }
    );
  });
});
