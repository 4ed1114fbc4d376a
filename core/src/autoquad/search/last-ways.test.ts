import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { quadQuality } from '../../check/quad-quality.ts';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { uniformMesh, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { repairPolygons } from '../../mesh/repair.ts';
import { borderLoops, genus } from '../../mesh/topology.ts';
import { quadJacobians, worstJacobian } from '../../numeric/quad-shape.ts';
import { denseSphere, halfShell, tripleRing, wedge } from '../../shapes/sample-surfaces.ts';
import { box, plane } from '../../shapes/start-shapes.ts';
import { autoQuads } from '../auto-quads.ts';
import { NoQuadsError } from '../base/options.ts';
import { quadsFromTriangles } from './from-triangles.ts';
import { orFromTriangles } from './lines-in-the-way.ts';
import { MirroredPlaces } from '../symmetry/mirrored-places.ts';
import { prepared, surfaceOf } from '../input/prepare.ts';
import { StepStore } from '../base/step-store.ts';
import { turnBack } from '../quads/turn-back.ts';

describe('quads from triangles', () => {
  const laidFrom = (mesh: PolygonMesh, count: number) => {
    const sound = repairPolygons(mesh, { weld: true }).mesh;
    const [options, kept] = [{ count }, new StepStore()];
    const surface = surfaceOf(prepared(sound, options, kept), [], options, kept);
    const { positions, quads, hold } = quadsFromTriangles(surface)!;
    const cage = Cage.fromPolygons(uniformMesh(positions, quads, 4));
    assertValid(cage);
    return { cage, hold, positions, list: quads, quads: quads.length / 4 };
  };

  it('have the topology of the surface and about the count, and none is turned over', () => {
    for (const [mesh, count, holes, borders] of [
      [tripleRing(), 900, 3, 0],
      [denseSphere(30), 100, 0, 0],
      [halfShell(40), 300, 0, 1]
    ] as const) {
      const { cage, positions, list, quads } = laidFrom(mesh, count);
      expect([genus(cage), borderLoops(cage).length]).toEqual([holes, borders]);
      expect(Math.abs(quads / count - 1)).toBeLessThan(0.05);
      expect([...cage.vertices()].filter((v) => !cage.isBorderVertex(v) && cage.valence(v) < 3)).toEqual([]);
      expect(worstJacobian(positions, list)).toBeGreaterThan(0.02);
    }
  });

  it('keep sharp edges whole: vertices along them stay on them, those at their ends where they are', () => {
    const { cage, hold, quads } = laidFrom(box({ x: 20, y: 20, z: 20 }, { x: 3, y: 3, z: 3 }), 250);
    expect(Math.abs(quads / 250 - 1)).toBeLessThan(0.15);
    expect([...hold].filter((kind) => kind === 2)).toHaveLength(8);
    // of each of the twelve edges 20 mm are covered
    const onEdge = (v: number) => cage.position(v).filter((x) => Math.abs(Math.abs(x) - 10) < 1e-9).length >= 2;
    const along = [...cage.edges()].filter((e) => [2 * e, 2 * e + 1].every((h) => hold[cage.origin[h]] > 0 && onEdge(cage.origin[h])));
    expect(along.reduce((sum, e) => sum + cage.edgeLength(e), 0)).toBeCloseTo(240, 6);
  });

  it('are taken where none are found along directions, some are straight, or a part is left out, and this is said', () => {
    const quads = (straight: boolean, share: number) => {
      const laid = plane(1, 1, 2, 2);
      if (straight) laid.positions.set([-0.25, 0, -0.25], 0);
      return { laid, notes: [], closeness: { mean: 0, most: 0, apart: [], share } };
    };
    const none = () => {
      throw new NoQuadsError('None.', []);
    };
    const isFromTriangles = (along: Parameters<typeof orFromTriangles>[0], triangles = () => quads(false, 1)) =>
      orFromTriangles(along, triangles).notes.some((note) => note.includes('from triangles'));
    expect(isFromTriangles(() => quads(false, 1), none)).toBe(false);
    expect(isFromTriangles(none)).toBe(true);
    expect(isFromTriangles(() => quads(true, 1))).toBe(true);
    expect(isFromTriangles(() => quads(false, 60))).toBe(true);
    expect(isFromTriangles(() => quads(false, 30))).toBe(false);
    // where they are no better
    expect(isFromTriangles(() => quads(true, 1), none)).toBe(false);
    expect(
      isFromTriangles(
        () => quads(true, 1),
        () => quads(false, 60)
      )
    ).toBe(false);
    expect(() => orFromTriangles(none, none)).toThrow('None.');
  });

  it('cover a wedge of one degree to its tip, with as few quads as nothing else can be laid with', () => {
    const { mesh, notes } = autoQuads(wedge(1), { count: 24 });
    expect(notes).toContainEqual(expect.stringContaining('made from triangles'));
    // no corner is sharper than the wedge
    expect(worstJacobian(mesh.positions, mesh.faceVertices)).toBeGreaterThan(0.99 * Math.sin(Math.PI / 180));
    expect(notes).toContainEqual(expect.stringMatching(/^Off the reference: smooth surface exact/));
  });
});

describe('turning back', () => {
  const lump = autoQuads(repairPolygons(tripleRing(), { weld: true }).mesh, { count: 400 }).mesh;
  const { positions, faceVertices } = lump;

  it('makes all corners turn the right way wherever vertices have gone, and leaves what is right', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(positions.length - 1), fc.double({ min: -20, max: 20, noNaN: true })), { minLength: 1, maxLength: 40 }),
        (moves) => {
          const mesh = uniformMesh(positions.slice(), faceVertices, 4);
          for (const [i, by] of moves) mesh.positions[i] += by;
          const before = mesh.positions.slice();
          const shapes = quadJacobians(before, faceVertices);
          turnBack(mesh, 0.02, new MirroredPlaces([], mesh.positions, 1e-6));
          expect(worstJacobian(mesh.positions, faceVertices)).toBeGreaterThanOrEqual(0.02);
          if (shapes.every((shape) => shape >= 0.02)) expect(mesh.positions).toEqual(before);
        }
      ),
      { numRuns: 25 }
    );
  });

  it('moves what is poor and little else, the same on both sides of a mirror', () => {
    const mesh = plane(12, 12, 12, 12);
    const mirror = { normal: [1, 0, 0] as [number, number, number], offset: 0, error: 0 };
    const places = new MirroredPlaces([mirror], mesh.positions, 1e-6);
    const near = (x: number, z: number) =>
      [...Array(169).keys()].find((v) => Math.hypot(mesh.positions[3 * v] - x, mesh.positions[3 * v + 2] - z) < 1e-9)!;
    const [right, left] = [near(3, 0), near(-3, 0)];
    mesh.positions[3 * right] += 1.4;
    mesh.positions[3 * left] -= 1.4;
    const before = mesh.positions.slice();
    expect(worstJacobian(mesh.positions, mesh.faceVertices)).toBeLessThan(0);
    turnBack(mesh, 0.02, places);
    expect(worstJacobian(mesh.positions, mesh.faceVertices)).toBeGreaterThanOrEqual(0.02);
    const moved = [...Array(169).keys()].filter((v) => mesh.positions[3 * v] !== before[3 * v] || mesh.positions[3 * v + 2] !== before[3 * v + 2]);
    expect(moved.length).toBeLessThanOrEqual(18);
    expect(mesh.positions[3 * left]).toBe(-mesh.positions[3 * right]);
    expect(quadQuality(Cage.fromPolygons(mesh)).worst).toBeGreaterThanOrEqual(0.02);
  });
});
