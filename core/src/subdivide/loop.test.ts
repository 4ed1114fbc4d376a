import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { creased, unmatched } from '../../testing/creased-cages.ts';
import { slowLoop, slowMesh } from '../../testing/slow-subdivision.ts';
import { assertValid } from '../mesh/assert-valid.ts';
import { Cage } from '../mesh/cage.ts';
import { polygonMesh, type PolygonMesh, uniformMesh } from '../mesh/polygon-mesh.ts';
import { eulerCharacteristic } from '../mesh/topology.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { plane, torus } from '../shapes/start-shapes.ts';
import { Subdivision } from './subdivision.ts';

/** Whether an edge has three faces: cutting bent n-gons into triangles may bring that about. */
function isNonManifold(mesh: PolygonMesh): boolean {
  const faces = new Map<string, number>();
  for (let c = 0; c < mesh.faceVertices.length; c++) {
    const ends = [mesh.faceVertices[c], mesh.faceVertices[c % 3 === 2 ? c - 2 : c + 1]].sort((a, b) => a - b).join(' ');
    faces.set(ends, (faces.get(ends) ?? 0) + 1);
  }
  return Math.max(...faces.values()) > 2;
}

describe('Loop', () => {
  const triangles = (mesh: PolygonMesh) => uniformMesh(mesh.positions, Int32Array.from(triangulate(mesh).triangles), 3);

  it('reproduces a linear function on a regular triangle grid, and its closed form elsewhere', () => {
    const grid = triangles(plane(6, 6, 6, 6));
    const fine = new Subdivision(grid, { scheme: 'loop', levels: 2, limit: true });
    const points = fine.evaluate(grid.positions);
    for (let i = 1; i < points.length; i += 3) expect(points[i]).toBe(0);
    // a tetrahedron: valence 3 everywhere, beta = 3/16; limit weight of the centre 1 / (1 + 3 * (8 * 3 / 16) / 3) = 2/5
    const tetra = polygonMesh(
      [
        [1, 1, 1],
        [-1, -1, 1],
        [-1, 1, -1],
        [1, -1, -1]
      ],
      [
        [0, 1, 2],
        [0, 3, 1],
        [0, 2, 3],
        [1, 3, 2]
      ]
    );
    const limit = new Subdivision(tetra, { scheme: 'loop', levels: 0, limit: true }).evaluate(tetra.positions);
    // centre + weight * (vertex - centre), centre 0: the others sum up to minus the vertex
    const w = 1 / (3 / (8 * (3 / 16)) + 3);
    expect(limit[0]).toBeCloseTo(1 - 3 * w - w, 12);
  });

  it("gives the points of the papers' own rules, with creases, corners and borders", () => {
    const triangulated = creased.map((mesh): PolygonMesh => {
      const { cornerUv: _, ...rest } = mesh;
      return { ...rest, ...triangles(mesh) };
    });
    fc.assert(
      fc.property(triangulated, (mesh) => {
        fc.pre(!isNonManifold(mesh));
        const slow = slowLoop(slowLoop(slowMesh(mesh, 'rounded')));
        const fast = new Subdivision(mesh, { scheme: 'loop', levels: 2, borderCorners: 'rounded' }).evaluate(mesh.positions);
        expect(fast.length).toBe(3 * slow.points.length);
        expect(unmatched(fast, slow.points)).toBe(0);
      }),
      { numRuns: 60 }
    );
  });

  it('keeps a torus a torus, of triangles', () => {
    const mesh = triangles(torus(4, 1.5, 8, 6));
    const cage = Cage.fromPolygons(new Subdivision(mesh, { scheme: 'loop', levels: 2 }).toPolygons(mesh));
    assertValid(cage);
    expect([eulerCharacteristic(cage), cage.faceCount]).toEqual([0, 16 * 96]);
  });

  it('refuses a quad and names it', () => {
    expect(() => new Subdivision(plane(1, 1, 1, 1), { scheme: 'loop', levels: 1 })).toThrow(/face 0 has 4 corners/);
  });
});
