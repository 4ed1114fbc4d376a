import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { amount } from '../../testing/amount.ts';
import { knownParts, pipe, roundedBox, turnedPart } from '../../testing/known-regions.ts';
import { measure } from '../check/measures.ts';
import { Cage } from '../mesh/cage.ts';
import { faceArea, faceMiddle, faceNormal } from '../mesh/normals.ts';
import { assertValid } from '../mesh/assert-valid.ts';
import { polygonMesh } from '../mesh/polygon-mesh.ts';
import { borderLoops } from '../mesh/topology.ts';
import { denseSphere, machinedPart } from '../shapes/sample-surfaces.ts';
import { box, boxUnion, cylinder, plane } from '../shapes/start-shapes.ts';
import { booleanOf } from '../solids/boolean.ts';
import { loadSolids } from '../solids/engine.ts';
import { cageFromRegions, knownRegions } from './cage-from-regions.ts';
import { findRegions } from './find-regions.ts';

const settings = { angle: 35 };
const kinds = (mesh: Parameters<typeof findRegions>[0]) =>
  findRegions(mesh, settings)
    .regions.map(({ kind }) => kind)
    .sort();

describe('regions of a triangulated part', () => {
  it('are what its surfaces are: planes, cylinders, cones, balls and tori, however they are cut into triangles', () => {
    expect(kinds(box({ x: 30, y: 20, z: 30 }, { x: 4, y: 3, z: 4 }))).toEqual(Array(6).fill('plane'));
    expect(kinds(cylinder(10, 30, 32, 6, true))).toEqual(['cylinder', 'plane', 'plane']);
    const [ball] = findRegions(denseSphere(16), settings).regions;
    expect([ball.kind, ball.radius]).toEqual(['sphere', expect.closeTo(20, 3)]);
    const turned = findRegions(turnedPart(3).mesh, settings).regions;
    expect(turned.map(({ kind }) => kind).sort()).toEqual([
      'cone',
      'cylinder',
      'cylinder',
      'cylinder',
      'fillet',
      'fillet',
      'plane',
      'plane',
      'plane'
    ]);
    const elbow = findRegions(pipe(4).mesh, settings).regions.map(({ kind }) => kind);
    expect(elbow.sort()).toEqual(['cylinder', 'cylinder', 'torus']);
  });

  it('are those that are known, to a triangle', () => {
    for (const { mesh, truth, name } of knownParts().filter((_, i) => i % 4 === 0)) {
      const { regionOf } = findRegions(mesh, settings);
      const pairs = new Set(truth.map((t, i) => `${t} ${regionOf[i]}`));
      expect(`${name} ${pairs.size}`).toBe(`${name} ${new Set(truth).size}`);
    }
  });

  it('say how many sides they have, and why one can be no face: a ring, a hole, a ball, too few corners', () => {
    const { regions } = knownRegions(turnedPart(2).mesh, settings);
    expect(new Set(regions.map(({ problem }) => problem))).toEqual(new Set(['It runs round as a ring: two cuts across it make faces of it.']));
    const rounded = knownRegions(roundedBox(2).mesh, settings).regions;
    expect(rounded.every(({ problem }) => problem === undefined)).toBe(true);
    expect(rounded.map(({ corners }) => corners[0].length).sort()).toEqual([...Array(8).fill(3), ...Array(18).fill(4)]);
    const capped = knownRegions(cylinder(10, 30, 32, 6, true), settings).regions;
    expect(capped.filter(({ kind }) => kind === 'plane').map(({ problem }) => problem)).toEqual(
      Array(2).fill('Its border has no corner: a face has 3 at least.')
    );
    expect(knownRegions(denseSphere(16), settings).regions[0].problem).toContain('closes in itself');
  });

  it('take what is no part: one triangle, one plane, edges with three faces', () => {
    const one = polygonMesh(
      [
        [0, 0, 0],
        [1, 0, 0],
        [0, 1, 0]
      ],
      [[0, 1, 2]]
    );
    expect(kinds(one)).toEqual(['plane']);
    expect(kinds(plane(10, 10, 5, 5))).toEqual(['plane']);
    const three = polygonMesh(
      [
        [0, 0, 0],
        [1, 0, 0],
        [0, 1, 0],
        [0, 0, 1],
        [0, -1, -1]
      ],
      [
        [0, 1, 2],
        [1, 0, 3],
        [0, 1, 4]
      ]
    );
    expect(knownRegions(three, settings).regions).toHaveLength(3);
  });
});

describe('a cage from regions', () => {
  it('has one face for each, cut into quads alone where some have three corners', () => {
    const { cage, left } = cageFromRegions(roundedBox(2).mesh, { ...settings, cuts: 0 });
    assertValid(cage);
    const { faces, quads } = measure(cage);
    expect([faces, quads, left.length, borderLoops(cage).length]).toEqual([8 * 3 + 18 * 4, 8 * 3 + 18 * 4, 0, 0]);
    const plain = cageFromRegions(box({ x: 30, y: 20, z: 30 }, { x: 4, y: 3, z: 4 }), { ...settings, cuts: 4 }).cage;
    expect([plain.faceCount, plain.vertexCount]).toEqual([6, 8]);
  });

  it('cuts rings and discs, corners opposite each other, all quads', () => {
    const can = cageFromRegions(cylinder(10, 30, 32, 6, true), { ...settings, cuts: 4 });
    assertValid(can.cage);
    expect([can.cage.faceCount, can.left.length, borderLoops(can.cage).length]).toEqual([6, 0, 0]);
    for (const seed of [1, 4, 7]) {
      const { cage, left } = cageFromRegions(turnedPart(seed).mesh, { ...settings, cuts: 8 });
      assertValid(cage);
      const { faces, quads } = measure(cage);
      expect([left.length, quads, borderLoops(cage).length]).toEqual([0, faces, 0]);
      expect(faces).toBe(9 * 8);
    }
    const tube = cageFromRegions(pipe(4).mesh, { ...settings, cuts: 6 });
    expect([tube.cage.faceCount, tube.left.length]).toEqual([18, 0]);
  });

  it('cuts regions with holes and many corners into quads that lie on them, sides of neighbours meeting', async () => {
    await loadSolids();
    const slab = Cage.fromPolygons(box({ x: 60, y: 8, z: 40 }, { x: 1, y: 1, z: 1 }));
    const bore = (x: number, z: number, radius: number) => {
      const drill = cylinder(radius, 40, 24, 1, true);
      drill.positions.forEach((p, i) => (drill.positions[i] = p + [x, 0, z][i % 3]));
      return Cage.fromPolygons(drill);
    };
    const bores = [bore(-18, -8, 5), bore(0, 9, 4), bore(17, -5, 7)];
    const plate = bores.reduce((part, drill) => booleanOf(part, drill, 'subtract').cage, slab).toPolygons();
    const { cage, left } = cageFromRegions(plate, { ...settings, cuts: 4 });
    assertValid(cage);
    const { faces, quads } = measure(cage);
    expect([left.length, quads, borderLoops(cage).length, cage.vertexCount - cage.edgeCount + faces]).toEqual([0, faces, 0, 2 - 2 * 3]);
    const flat = [...cage.faces()].filter((f) => Math.abs(faceNormal(cage, f)[1]) > 0.99);
    const side = flat.reduce((sum, f) => sum + faceArea(cage, f), 0);
    // squares in the bores hold 2/pi of their area; faces that lay over each other, or turned over, would make it more or less
    const bored = 2 * [5, 4, 7].reduce((sum, radius) => sum + radius * radius, 0);
    expect(side / (2 * (60 * 40 - bored))).toBeCloseTo(1, 1);
    for (const f of flat) expect(Math.sign(faceNormal(cage, f)[1])).toBe(Math.sign(faceMiddle(cage, f)[1]));
    const cross = boxUnion([0, 1, 2, 3], [0, 1, 2, 3], [0, 1], (i, j) => i === 1 || j === 1);
    const star = cageFromRegions(cross, { ...settings, cuts: 4 });
    expect([star.left.length, borderLoops(star.cage).length, measure(star.cage).quads]).toEqual([0, 0, 2 * 5 + 12]);
  });

  it('of machined parts is closed and all quads, whatever was cut out of them', async () => {
    await loadSolids();
    for (const seed of [1, 2, 5, 8]) {
      const { cage, left } = cageFromRegions(machinedPart(seed), { ...settings, cuts: 4 });
      const { faces, quads } = measure(cage);
      expect([seed, left.length, quads, borderLoops(cage).length]).toEqual([seed, 0, faces, 0]);
    }
  });

  it('names what it leaves out', () => {
    const { cage, left } = cageFromRegions(cylinder(10, 30, 32, 6, true), { ...settings, cuts: 0 });
    expect([cage.faceCount, left.map(({ kind }) => kind).sort()]).toEqual([0, ['cylinder', 'plane', 'plane']]);
  });

  it('of any regions that are painted is a valid cage, with a reason for each that is left out', () => {
    const meshes = [
      () => denseSphere(6),
      () => box({ x: 3, y: 2, z: 3 }, { x: 3, y: 2, z: 3 }),
      () => plane(4, 4, 4, 4),
      () => cylinder(2, 4, 8, 3, true)
    ];
    fc.assert(
      fc.property(fc.nat(3), fc.nat(3), fc.array(fc.nat(4), { minLength: 30, maxLength: 30 }), (which, cuts, painted) => {
        const mesh = meshes[which]();
        const faceRegion = Int32Array.from({ length: mesh.faceStart.length - 1 }, (_, f) => painted[(f * 7) % painted.length]);
        const { cage, left } = cageFromRegions({ ...mesh, faceRegion }, { ...settings, cuts: 2 * cuts, asCarried: true });
        assertValid(cage);
        // with cuts a ring or a disc may still be refused for what lies beside it
        for (const { problem, corners } of left) expect(problem ?? `${corners[0].length} corners`).toBeTruthy();
        if (cage.faceCount === 0) expect(left.length).toBeGreaterThan(0);
      }),
      { numRuns: amount(60, 2000) }
    );
  });
});
