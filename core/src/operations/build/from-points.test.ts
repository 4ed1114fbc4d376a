import { describe, expect, it } from 'vitest';
import { run, sizes, vertexAt } from '../../../testing/run-operation.ts';
import { measure } from '../../check/measures.ts';
import { Cage } from '../../mesh/cage.ts';
import { faceAreaVector } from '../../mesh/normals.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices } from '../../select/selection.ts';
import { plane, singleVertex } from '../../shapes/start-shapes.ts';

const sheet = () => Cage.fromPolygons(plane(4, 4, 4, 4));

const edgeOf = (cage: Cage, a: [number, number, number], b: [number, number, number]) =>
  cage.findHalfEdge(vertexAt(cage, ...a), vertexAt(cage, ...b)) >> 1;

describe('a single vertex', () => {
  it('begins a face by extruding, once or again from a second vertex, and goes on from there', () => {
    const lone = Cage.fromPolygons(singleVertex());
    const first = run('extrude', lone, selectVertices([0]), { distance: 4 });
    expect([sizes(first.cage), measure(first.cage).edgeLength.most]).toEqual([[0, 1, 0], 4]);
    const second = run('extrude', first.cage, first.selection, { distance: 2 });
    expect([sizes(second.cage)[1], faceAreaVector(second.cage, [...second.cage.faces()][1])[1] / 2]).toEqual([2, 8]);
    const two = lone.clone();
    two.addVertex(3, 0, 0);
    expect(sizes(run('extrude', two, selectVertices(two.vertices()), { distance: 2 }).cage)).toEqual([0, 1, 0]);
  });

  it('is the first corner of a drawn face', () => {
    const lone = Cage.fromPolygons(singleVertex());
    const points = [{ at: [4, 0, 0] }, { at: [4, 0, 4] }];
    expect(sizes(run('draw-face', lone, selectVertices([0]), { points }).cage)).toEqual([1, 0, 0]);
  });
});

describe('draw face with new points', () => {
  it('makes a face of a picked edge and two new points, turned to agree', () => {
    const cage = Cage.fromPolygons(plane(2, 2, 1, 1));
    const edge = edgeOf(cage, [1, 0, -1], [1, 0, 1]);
    const { cage: two, notes } = run('draw-face', cage, selectEdges([edge]), { points: [{ at: [3, 0, 1] }, { at: [3, 0, -1] }] });
    expect([two.faceCount, two.vertexCount, sizes(two)[1]]).toEqual([2, 6, 2]);
    expect(notes[0]).toBe('A face of 4 corners, 2 of them new.');
  });
  it('makes three into four by a point on an edge', () => {
    const cage = run('delete', sheet(), selectFaces([5])).cage;
    const hole = sheet().faceVertices(5);
    const inside = cage.findHalfEdge(hole[2], hole[3]) >> 1;
    const { cage: filled } = run('draw-face', cage, selectVertices(hole.slice(0, 3)), { points: [{ edge: inside, fraction: 0.5 }] });
    expect([filled.faceCount, sizes(filled)]).toEqual([16, [0, 15, 1]]);
    expect(() => run('draw-face', cage, selectVertices(hole.slice(0, 2)))).toThrow(/Only 2 corners are there/);
    expect(() => run('draw-face', sheet(), emptySelection(), { points: [{ vertex: 12 }, { at: [0, 1, 0] }, { at: [1, 1, 0] }] })).toThrow(
      /faces all round/
    );
  });
});
