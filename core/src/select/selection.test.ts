import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyCage } from '../../testing/random-meshes.ts';
import { Cage } from '../mesh/cage.ts';
import { cylinder, plane, quadSphere, torus } from '../shapes/start-shapes.ts';
import {
  allOf,
  borderOf,
  findAll,
  describeSelection,
  grown,
  islandOf,
  isEmpty,
  kindOf,
  onlyShown,
  selectEdges,
  selectFaces,
  selectVertices,
  shrunk,
  toggled,
  verticesOf
} from './selection.ts';
import { describeLoop, edgeLoop, edgeRing, loopThrough, ringThrough } from './loops.ts';

const between = (cage: Cage, a: number, b: number) => cage.findHalfEdge(a, b) >> 1;

describe('everything of one kind', () => {
  it('is told by what is picked, and left out where it is not shown', () => {
    const cage = Cage.fromPolygons(plane(4, 4, 4, 4));
    expect(allOf(cage, 'edge').edges).toHaveLength(cage.edgeCount);
    expect([kindOf(selectEdges([3])), kindOf(selectVertices([1])), kindOf(selectFaces([]))]).toEqual(['edge', 'vertex', 'face']);
    const shown = [0, 1];
    const { vertices, edges, faces } = onlyShown(cage, { ...allOf(cage, 'vertex'), edges: [...cage.edges()], faces: [...cage.faces()] }, shown);
    expect([vertices.length, edges.length, faces]).toEqual([6, 7, shown]);
    expect(onlyShown(cage, selectFaces([5]), undefined)).toEqual(selectFaces([5]));
  });
});

describe('loops and rings', () => {
  it('run round a torus both ways', () => {
    const cage = Cage.fromPolygons(torus(4, 1, 10, 6));
    const round = edgeLoop(cage, between(cage, 0, 1));
    const along = edgeLoop(cage, between(cage, 0, 6));
    expect([round.edges.length, round.closed, along.edges.length, along.closed]).toEqual([6, true, 10, true]);
    expect(edgeRing(cage, between(cage, 0, 1)).edges).toHaveLength(10);
  });

  it('end at poles and at borders, and follow a border', () => {
    const sphere = Cage.fromPolygons(quadSphere(1, 3));
    const pole = [...sphere.vertices()].find((v) => sphere.valence(v) === 3)!;
    const loop = edgeLoop(sphere, sphere.spokes(pole)[0] >> 1);
    expect([loop.closed, loop.edges.length]).toEqual([false, 3]);
    const sheet = Cage.fromPolygons(plane(3, 3, 3, 3));
    const inner = [...sheet.edges()].find((e) => !sheet.isBorderEdge(e))!;
    expect(edgeLoop(sheet, inner)).toMatchObject({ closed: false });
    expect(edgeLoop(sheet, inner).edges).toHaveLength(3);
    const border = [...sheet.edges()].find((e) => sheet.isBorderEdge(e))!;
    expect(edgeLoop(sheet, border)).toMatchObject({ closed: true });
    expect(new Set(borderOf(sheet, border))).toEqual(new Set(edgeLoop(sheet, border).edges));
  });

  it('say how they run and where they end', () => {
    const sphere = Cage.fromPolygons(quadSphere(1, 3));
    const pole = [...sphere.vertices()].find((v) => sphere.valence(v) === 3)!;
    expect(describeLoop(loopThrough(sphere, sphere.spokes(pole)[0]))).toBe('3 edges, from a pole of 3 to a pole of 3');
    const sheet = Cage.fromPolygons(plane(3, 3, 3, 3));
    const inner = [...sheet.edges()].find((e) => !sheet.isBorderEdge(e))!;
    expect(describeLoop(loopThrough(sheet, 2 * inner))).toBe('3 edges, from a border to a border');
    expect(ringThrough(sheet, 2 * inner).ends).toEqual([-1, -1]);
    const border = [...sheet.edges()].find((e) => sheet.isBorderEdge(e))!;
    expect(loopThrough(sheet, 2 * border, 45).halves).toHaveLength(3);
    expect(describeLoop(loopThrough(sheet, 2 * border, 45))).toBe('3 edges, from a turn to a turn');
    expect(describeLoop(loopThrough(sheet, 2 * border))).toBe('12 edges, closed');
  });

  it('turn into a spiral on a twisted tube, and say so', () => {
    // a tube whose seam is shifted by one side: its cross-loops run on into each other
    const sides = 8;
    const tube = torus(4, 1, 12, sides);
    const faces = Array.from({ length: 12 * sides }, (_, f) => [...tube.faceVertices.subarray(4 * f, 4 * f + 4)]);
    const last = 11 * sides;
    const twisted = faces.map((face) =>
      face[0] >= last && face[3] < sides ? [face[0], face[1], (face[2] + 1) % sides, (face[3] + 1) % sides] : face
    );
    const cage = Cage.fromPolygons({ ...tube, faceVertices: Int32Array.from(twisted.flat()) });
    const along = loopThrough(cage, cage.findHalfEdge(0, sides));
    expect([along.closed, along.halves.length, along.spiral]).toEqual([true, 96, true]);
    expect(loopThrough(cage, cage.findHalfEdge(0, 1)).spiral).toBe(false);
  });

  it('from any edge name no edge twice and contain it', () => {
    fc.assert(
      fc.property(anyCage, fc.nat(10_000), (cage, at) => {
        const edges = [...cage.edges()];
        const e = edges[at % edges.length];
        for (const walk of [edgeLoop(cage, e), edgeRing(cage, e)]) {
          expect(walk.edges).toContain(e);
          expect(new Set(walk.edges).size).toBe(walk.edges.length);
        }
      }),
      { numRuns: 150 }
    );
  });
});

describe('selections', () => {
  it('grow to all of an island and shrink to nothing, without leaving it', () => {
    const cage = Cage.fromPolygons(plane(5, 5, 5, 5));
    const more = grown(cage, selectFaces([12]));
    expect(more.faces).toHaveLength(9);
    expect(shrunk(cage, more).faces).toEqual([12]);
    expect(grown(cage, selectFaces([0])).faces).toHaveLength(4);
    expect(isEmpty(shrunk(cage, selectVertices([14])))).toBe(true);
  });

  it('toggle', () => {
    expect(toggled(selectEdges([1, 2]), selectEdges([2, 3])).edges).toEqual([1, 2, 3]);
    expect(toggled(selectEdges([1, 2]), selectEdges([2])).edges).toEqual([1]);
  });

  it('find islands and everything of one sort', () => {
    const cage = Cage.fromPolygons(cylinder(2, 4, 8, 2, true));
    expect(islandOf(cage, [0])).toHaveLength(18);
    expect(findAll(cage, 'n-gons').faces).toHaveLength(2);
    expect(findAll(cage, 'quads').faces).toHaveLength(16);
    expect(findAll(cage, 'poles').vertices).toHaveLength(16);
    expect(findAll(Cage.fromPolygons(plane(1, 1, 2, 2)), 'borders').edges).toHaveLength(8);
  });

  it('say what is picked', () => {
    const cage = Cage.fromPolygons(torus(4, 1, 10, 6));
    expect(describeSelection(cage, selectEdges(edgeLoop(cage, between(cage, 0, 1)).edges))).toBe('6 edges, closed loop, 6.0 mm');
    const [one, other] = [0, 12].map((v) => edgeLoop(cage, between(cage, v, v + 1)).edges);
    expect(describeSelection(cage, selectEdges([...one, ...other]))).toContain('12 edges, 2 closed loops');
    expect(describeSelection(cage, selectEdges([...one.slice(0, 2), ...other.slice(3, 5)]))).toContain('4 edges, 2 open chains');
    expect(describeSelection(cage, selectEdges([...one, ...other.slice(3, 5)]))).toMatch(/^8 edges, [\d.]+ mm$/);
    expect(describeSelection(cage, selectVertices([3]))).toBe('1 vertex, valence 4');
    expect(verticesOf(cage, selectFaces([0]))).toHaveLength(4);
  });
});
