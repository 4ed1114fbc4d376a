import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { creased, unmatched } from '../../testing/creased-cages.ts';
import { anyCage } from '../../testing/random-meshes.ts';
import { slowCatmullClark, slowMesh } from '../../testing/slow-subdivision.ts';
import { assertValid } from '../mesh/assert-valid.ts';
import { Cage } from '../mesh/cage.ts';
import { polygonMesh } from '../mesh/polygon-mesh.ts';
import { borderLoops, enclosedVolume, eulerCharacteristic } from '../mesh/topology.ts';
import { box, plane, quadSphere } from '../shapes/start-shapes.ts';
import { SubdivisionError } from './level-topology.ts';
import { Subdivision } from './subdivision.ts';
import { applyRows } from './weight-rows.ts';

describe('Catmull-Clark', () => {
  it("gives the points of the papers' own rules, with creases, corners, borders and n-gons", () => {
    fc.assert(
      fc.property(creased, fc.constantFrom('sharp' as const, 'rounded' as const), fc.nat(9), (mesh, borderCorners, turn) => {
        // every tenth goes on to the second level, where sharpness has changed
        const levels = turn === 0 ? 2 : 1;
        let slow = slowMesh(mesh, borderCorners);
        for (let k = 0; k < levels; k++) slow = slowCatmullClark(slow);
        const fast = new Subdivision(mesh, { levels, borderCorners }).evaluate(mesh.positions);
        expect(fast.length).toBe(3 * slow.points.length);
        // vertex points keep their numbers through both ways, so they are compared one by one and exactly
        for (let i = 0; i < mesh.positions.length; i++) expect(Math.abs(fast[i] - slow.points[Math.floor(i / 3)][i % 3])).toBeLessThan(1e-10);
        // edge and face points are numbered differently: the two sets must be the same
        expect(unmatched(fast, slow.points)).toBe(0);
      }),
      { numRuns: 500 }
    );
  });

  it('is the uniform bicubic B-spline on a regular grid', () => {
    const n = 7;
    const grid = plane(n, n, n, n);
    grid.positions.forEach(
      (_, i) => i % 3 === 1 && (grid.positions[i] = Math.sin(1.3 * grid.positions[i - 1]) * Math.cos(0.9 * grid.positions[i + 1]))
    );
    const limit = new Subdivision(grid, { levels: 1, limit: true }).evaluate(grid.positions);
    const at = (i: number, j: number) => grid.positions[3 * (j * (n + 1) + i) + 1];
    const w = [1 / 6, 4 / 6, 1 / 6];
    for (let j = 2; j <= n - 2; j++)
      for (let i = 2; i <= n - 2; i++) {
        let spline = 0;
        for (let b = -1; b <= 1; b++) for (let a = -1; a <= 1; a++) spline += w[a + 1] * w[b + 1] * at(i + a, j + b);
        expect(limit[3 * (j * (n + 1) + i) + 1]).toBeCloseTo(spline, 12);
      }
  });

  it('keeps the topology, makes quads only, and shrinks the volume of a box towards its limit', () => {
    const mesh = box({ x: 2, y: 2, z: 2 }, { x: 1, y: 1, z: 1 });
    const volumes = [1, 2, 3, 4].map((levels) => {
      const cage = Cage.fromPolygons(new Subdivision(mesh, { levels }).toPolygons(mesh));
      assertValid(cage);
      expect(eulerCharacteristic(cage)).toBe(2);
      expect([...cage.faces()].every((f) => cage.faceSize(f) === 4)).toBe(true);
      return enclosedVolume(cage);
    });
    const steps = volumes.slice(1).map((v, i) => volumes[i] - v);
    expect(Math.min(...steps)).toBeGreaterThan(0);
    // every level leaves a quarter of the difference
    expect(steps[2] / steps[1]).toBeCloseTo(0.25, 1);
  });

  it("keeps any cage's topology", () => {
    fc.assert(
      fc.property(anyCage, (cage) => {
        const mesh = cage.packed().toPolygons();
        const fine = Cage.fromPolygons(new Subdivision(mesh, { levels: 1 }).toPolygons(mesh));
        assertValid(fine);
        const used = Cage.fromPolygons(mesh);
        expect([eulerCharacteristic(fine), borderLoops(fine).length]).toEqual([eulerCharacteristic(used), borderLoops(used).length]);
        expect(fine.faceCount).toBe(mesh.faceVertices.length);
      }),
      { numRuns: 60 }
    );
  });

  it('reaches the limit that going on to subdivide approaches', () => {
    const mesh = quadSphere(5, 2);
    const limit = new Subdivision(mesh, { levels: 1, limit: true }).evaluate(mesh.positions);
    const deep = new Subdivision(mesh, { levels: 6 }).evaluate(mesh.positions);
    for (let i = 0; i < mesh.positions.length; i++) expect(limit[i]).toBeCloseTo(deep[i], 2);
    const flat = (at: number) => Math.hypot(limit[at] - deep[at], limit[at + 1] - deep[at + 1], limit[at + 2] - deep[at + 2]);
    const worst = Math.max(...Array.from({ length: mesh.positions.length / 3 }, (_, v) => flat(3 * v)));
    expect(worst).toBeLessThan(5e-3);
  });

  it('follows the cubic B-spline of its vertices along a crease that stays', () => {
    const bend = plane(6, 2, 6, 2);
    const p = bend.positions;
    for (let i = 0; i < p.length; i += 3) [p[i + 1], p[i]] = [Math.sin(p[i]), p[i] + 0.2 * Math.cos(3 * p[i])];
    const cage = Cage.fromPolygons(bend);
    const row = [0, 1, 2, 3, 4, 5, 6].map((i) => 7 + i);
    for (let i = 0; i < 6; i++) cage.setValue('crease', cage.findHalfEdge(row[i], row[i + 1]) >> 1, 10);
    const mesh = cage.toPolygons();
    const limit = new Subdivision(mesh, { levels: 2, limit: true }).evaluate(mesh.positions);
    for (let i = 1; i < 6; i++)
      for (let k = 0; k < 3; k++) {
        const at = (j: number) => p[3 * row[j] + k];
        expect(limit[3 * row[i] + k]).toBeCloseTo((at(i - 1) + 4 * at(i) + at(i + 1)) / 6, 12);
      }
  });

  it('moves with any affine map', () => {
    const map = (p: Float64Array) => {
      const q = p.slice();
      for (let i = 0; i < p.length; i += 3) q.set([2 * p[i] + p[i + 1] - 3, p[i + 1] - 0.5 * p[i + 2], p[i] + 3 * p[i + 2] + 1], i);
      return q;
    };
    fc.assert(
      fc.property(creased, (mesh) => {
        const surface = new Subdivision(mesh, { levels: 2, limit: true });
        const first = map(surface.evaluate(mesh.positions));
        const then = surface.evaluate(map(mesh.positions));
        for (let i = 0; i < first.length; i++) expect(Math.abs(first[i] - then[i])).toBeLessThan(1e-10);
      }),
      { numRuns: 20 }
    );
  });

  it('leaves isolated vertices where they are, and refuses what cannot be subdivided with the place', () => {
    const mesh = plane(2, 2, 2, 2);
    const lone = { ...mesh, positions: Float64Array.from([...mesh.positions, 7, 8, 9]) };
    expect([...new Subdivision(lone, { levels: 2, limit: true }).evaluate(lone.positions).subarray(27, 30)]).toEqual([7, 8, 9]);
    const crease = (sharpness: number) => ({ ...mesh, creaseEdges: Int32Array.from([0, 1]), creaseSharpness: Float64Array.from([sharpness]) });
    for (const bad of [-1, NaN]) expect(() => new Subdivision(crease(bad), { levels: 1 })).toThrow(/Crease 0 has the sharpness/);
    const book = polygonMesh(
      [
        [0, 0, 0],
        [0, 1, 0],
        [1, 0, 0],
        [-1, 0, 0],
        [0, 0, 1]
      ],
      [
        [0, 1, 2],
        [1, 0, 3],
        [0, 1, 4]
      ]
    );
    expect(() => new Subdivision(book, { levels: 1 })).toThrow(/between vertices 0 and 1 has three faces/);
  });

  it('leaves a fully creased cube a cube', () => {
    const mesh = box({ x: 2, y: 2, z: 2 }, { x: 1, y: 1, z: 1 });
    const cage = Cage.fromPolygons(mesh);
    for (const e of cage.edges()) cage.layer('crease').data[e] = 10;
    const sharp = cage.toPolygons();
    expect(enclosedVolume(Cage.fromPolygons(new Subdivision(sharp, { levels: 3 }).toPolygons(sharp)))).toBeCloseTo(8, 10);
  });

  it('keeps a border corner sharp or rounds it', () => {
    const mesh = plane(2, 2, 1, 1);
    const cornerAt = (borderCorners: 'sharp' | 'rounded') => [
      ...new Subdivision(mesh, { levels: 3, borderCorners }).evaluate(mesh.positions).subarray(0, 3)
    ];
    expect(cornerAt('sharp')).toEqual([...mesh.positions.subarray(0, 3)]);
    expect(Math.abs(cornerAt('rounded')[0])).toBeLessThan(Math.abs(mesh.positions[0]));
  });
});

describe('weight tables', () => {
  it('move with the cage: some vertices updated equals all evaluated', () => {
    fc.assert(
      fc.property(creased, fc.array(fc.nat(200), { minLength: 1, maxLength: 4 }), (mesh, picks) => {
        const surface = new Subdivision(mesh, { levels: 2, limit: true });
        const positions = mesh.positions.slice();
        const kept = surface.evaluate(positions);
        const moved = [...new Set(picks.map((i) => i % (positions.length / 3)))];
        for (const v of moved) positions[3 * v + 1] += 0.7;
        surface.update(moved);
        const live = kept.slice();
        const fresh = new Subdivision(mesh, { levels: 2, limit: true }).evaluate(positions);
        for (let i = 0; i < live.length; i++) expect(live[i]).toBeCloseTo(fresh[i], 12);
      }),
      { numRuns: 30 }
    );
  });

  it('multiplied out sum up to one and give the same points', () => {
    const mesh = quadSphere(3, 3);
    const surface = new Subdivision(mesh, { levels: 2, limit: true });
    const rows = surface.combinedRows();
    const out = new Float64Array(3 * (rows.start.length - 1));
    applyRows(rows, mesh.positions, out);
    const chain = surface.evaluate(mesh.positions);
    for (let i = 0; i < out.length; i++) expect(out[i]).toBeCloseTo(chain[i], 12);
    for (let r = 0; r + 1 < rows.start.length; r++) {
      let sum = 0;
      for (let i = rows.start[r]; i < rows.start[r + 1]; i++) sum += rows.weight[i];
      expect(sum).toBeCloseTo(1, 12);
    }
  });

  it('say before they run out of memory', () => {
    expect(() => new Subdivision(quadSphere(1, 10), { levels: 9 })).toThrow(SubdivisionError);
    expect(() => new Subdivision(quadSphere(1, 10), { levels: 9 })).toThrow(/level \d fits/);
  });
});

describe('values carried along', () => {
  it('keep texture coordinates linear in each face, with their seams, and corners with what is left of them', () => {
    const mesh = plane(2, 2, 2, 2);
    const uv = Float64Array.from([...mesh.faceVertices].flatMap((v, c) => [mesh.positions[3 * v] + (c < 4 ? 10 : 0), mesh.positions[3 * v + 2]]));
    const marks = { ...mesh, cornerUv: uv, cornerVertices: Int32Array.from([4]), cornerSharpness: Float64Array.from([2.5]) };
    const divided = new Subdivision(marks, { levels: 2, plan: { steps: ['divide', 'divide'] } }).toPolygons(marks);
    const fine = new Subdivision(marks, { levels: 2 }).toPolygons(marks);
    expect([...fine.cornerUv!]).toEqual([...divided.cornerUv!]);
    divided.faceVertices.forEach((v, c) => {
      const shift = divided.cornerUv![2 * c] - divided.positions[3 * v];
      expect([shift === 0 || shift === 10, divided.cornerUv![2 * c + 1]]).toEqual([true, divided.positions[3 * v + 2]]);
    });
    expect([[...fine.cornerVertices!], [...fine.cornerSharpness!]]).toEqual([[4], [0.5]]);
  });
});
