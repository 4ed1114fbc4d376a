import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyCage, steps, takeStep } from '../../testing/random-meshes.ts';
import { box, cylinder, plane, quadSphere, torus } from '../shapes/start-shapes.ts';
import { assertValid } from './assert-valid.ts';
import { Cage } from './cage.ts';
import { joinEdges, mergeFaces, splitEdge, splitFace } from './euler-operators.ts';
import { CageError, NONE } from './half-edges.ts';
import { polygonMesh } from './polygon-mesh.ts';
import { replaceFaces } from './replace-faces.ts';
import { borderLoops, eulerCharacteristic, genus, islands } from './topology.ts';

describe('building a cage', () => {
  it.each([
    ['box', box({ x: 1, y: 1, z: 1 }, { x: 2, y: 3, z: 4 }), 2, 0, 0],
    ['sphere', quadSphere(1, 4), 2, 0, 0],
    ['torus', torus(3, 1, 8, 6), 0, 0, 1],
    ['plane', plane(2, 2, 3, 3), 1, 1, 0],
    ['open tube', cylinder(1, 2, 8, 2, false), 0, 2, 0]
  ])('knows the topology of a %s', (_name, mesh, euler, borders, handles) => {
    const cage = Cage.fromPolygons(mesh);
    assertValid(cage);
    expect([eulerCharacteristic(cage), borderLoops(cage).length, genus(cage), islands(cage).count]).toEqual([euler, borders, handles, 1]);
  });

  it.each([
    [
      'three faces on an edge',
      [
        [0, 1, 2],
        [1, 0, 3],
        [0, 1, 4]
      ]
    ],
    [
      'faces turned against each other',
      [
        [0, 1, 2],
        [0, 1, 3]
      ]
    ],
    [
      'a pinched vertex',
      [
        [0, 1, 2],
        [0, 3, 4]
      ]
    ]
  ])('refuses %s', (_what, faces) => {
    const points = [
      [0, 0, 0],
      [1, 0, 0],
      [0, 1, 0],
      [0, -1, 0],
      [-1, -1, 0]
    ];
    expect(() => Cage.fromPolygons(polygonMesh(points, faces))).toThrow(CageError);
  });

  it('carries creases, corners, regions and texture coordinates there and back', () => {
    const mesh = {
      ...plane(2, 2, 2, 2),
      faceRegion: Int32Array.of(0, 1, 1, 0),
      regionNames: ['deck', 'rail'],
      creaseEdges: Int32Array.of(0, 1),
      creaseSharpness: Float64Array.of(2.5),
      cornerVertices: Int32Array.of(4),
      cornerSharpness: Float64Array.of(10),
      cornerUv: Float64Array.from({ length: 32 }, (_, i) => i / 32)
    };
    const back = Cage.fromPolygons(mesh).toPolygons();
    expect([...back.faceRegion!]).toEqual([0, 1, 1, 0]);
    expect(back.regionNames).toEqual(['deck', 'rail']);
    expect(new Set(back.creaseEdges)).toEqual(new Set([0, 1]));
    expect([...back.creaseSharpness!]).toEqual([2.5]);
    expect([...back.cornerVertices!, ...back.cornerSharpness!]).toEqual([4, 10]);
    // a face may start at another corner; each corner keeps its own numbers
    const byCorner = (m: { faceVertices: Int32Array; faceStart: Int32Array; cornerUv?: Float64Array }) =>
      [...m.faceVertices].map((v, c) => `${Math.floor(c / 4)} ${v} ${m.cornerUv![2 * c]} ${m.cornerUv![2 * c + 1]}`).sort();
    expect(byCorner(back)).toEqual(byCorner(mesh));
  });
});

describe('Euler operators', () => {
  it('keep any cage valid, and vertices - edges + faces what it was', () => {
    fc.assert(
      fc.property(anyCage, steps(12), (cage, list) => {
        assertValid(cage);
        for (const s of list) {
          const before = eulerCharacteristic(cage);
          const change = takeStep(cage, s);
          assertValid(cage);
          if (change === 0) expect(eulerCharacteristic(cage)).toBe(before);
        }
        assertValid(cage.packed());
      }),
      { numRuns: 150 }
    );
  });

  it('leave the original alone when a clone is changed', () => {
    fc.assert(
      fc.property(anyCage, steps(8), (cage, list) => {
        const before = JSON.stringify(cage.toPolygons());
        const copy = cage.clone();
        for (const s of list) takeStep(copy, s);
        expect(JSON.stringify(cage.toPolygons())).toBe(before);
      }),
      { numRuns: 40 }
    );
  });

  it('split an edge at a fraction and undo it again, with crease and texture coordinates', () => {
    const cornerUv = Float64Array.from({ length: 16 }, (_, i) => i);
    const cage = Cage.fromPolygons({ ...plane(2, 2, 2, 1), creaseEdges: Int32Array.of(1, 4), creaseSharpness: Float64Array.of(3), cornerUv });
    const e = cage.findHalfEdge(1, 4) >> 1;
    const whole = cage.edgeLength(e);
    const v = splitEdge(cage, e, 0.25);
    assertValid(cage);
    expect(cage.spokes(v).map((h) => cage.value('crease', h >> 1))).toEqual([3, 3]);
    expect(cage.edgeLength(e)).toBeCloseTo(0.25 * whole, 12);
    for (const h of cage.spokes(v)) {
      const [before, after] = [cage.previous(h), cage.next[h]].map((k) => cage.value('uv', k));
      expect(cage.value('uv', h)).toBeGreaterThan(Math.min(before, after));
      expect(cage.value('uv', h)).toBeLessThan(Math.max(before, after));
    }
    expect(joinEdges(cage, v)).toBe(true);
    assertValid(cage);
    expect(cage.edgeCount).toBe(7);
  });

  it('make and take out the edge between two faces', () => {
    const cage = Cage.fromPolygons(plane(2, 2, 1, 1));
    const [a, , c] = cage.loopOf(cage.faceEdge[0]);
    splitFace(cage, a, c);
    expect([cage.faceCount, cage.edgeCount]).toEqual([2, 5]);
    expect(mergeFaces(cage, cage.faces())).toBeGreaterThanOrEqual(0);
    expect([cage.faceCount, cage.edgeCount]).toEqual([1, 4]);
    assertValid(cage);
  });

  it('do not merge faces into a ring, or into a face that touches itself', () => {
    const cage = Cage.fromPolygons(plane(3, 3, 3, 3));
    const before = JSON.stringify(cage);
    expect(mergeFaces(cage, [0, 1, 2, 3, 5, 6, 7, 8])).toBe(NONE);
    expect(mergeFaces(cage, [0, 4])).toBe(NONE);
    expect(JSON.stringify(cage)).toBe(before);
    expect(mergeFaces(cage, cage.faces())).not.toBe(NONE);
    assertValid(cage);
    expect([cage.faceCount, cage.vertexCount]).toEqual([1, 12]);
  });

  it('give each fan its own vertex where only corners would touch', () => {
    const cage = Cage.fromPolygons(plane(3, 3, 2, 2));
    const [first] = cage.faces();
    const middle = [...cage.vertices()].find((v) => !cage.isBorderVertex(v))!;
    const opposite = [...cage.faces()].find(
      (f) => f !== first && cage.faceVertices(f).filter((v) => cage.faceVertices(first).includes(v)).length === 1
    )!;
    replaceFaces(cage, { gone: [first, opposite], added: [] });
    assertValid(cage);
    expect(cage.vertexCount).toBe(8);
    expect(islands(cage).count).toBe(2);
    expect(cage.hasVertex(middle)).toBe(true);
  });

  it('can be called any number of times: storage grows with the cage', () => {
    for (const sides of [3, 4, 5, 6, 7]) {
      const cage = Cage.fromPolygons(cylinder(1, 2, sides, 1, false));
      for (let i = 0; i < 60; i++) splitEdge(cage, [...cage.edges()][i % cage.edgeCount], 0.5);
      assertValid(cage);
      expect(cage.edgeCount).toBe(3 * sides + 60);
    }
  });
});
