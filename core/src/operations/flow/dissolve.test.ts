import { describe, expect, it } from 'vitest';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { eulerCharacteristic } from '../../mesh/topology.ts';
import { edgeLoop } from '../../select/loops.ts';
import { selectEdges, selectFaces, selectVertices, type Selection } from '../../select/selection.ts';
import { plane, torus } from '../../shapes/start-shapes.ts';
import { applyOperation } from '../apply.ts';
import { type CageOperation, type Params } from '../operation.ts';
import { operationById } from '../registry.ts';

const run = (id: string, cage: Cage, selection: Selection, params: Params = {}) =>
  applyOperation(operationById(id) as CageOperation, cage, selection, params);

describe('dissolve', () => {
  it('takes a whole loop out of a torus and leaves quads', () => {
    const cage = Cage.fromPolygons(torus(4, 1, 10, 6));
    const loop = edgeLoop(cage, cage.findHalfEdge(0, 1) >> 1).edges;
    const { cage: thinner } = run('dissolve', cage, selectEdges(loop));
    assertValid(thinner);
    expect([thinner.faceCount, eulerCharacteristic(thinner)]).toEqual([54, 0]);
    expect([...thinner.faces()].every((f) => thinner.faceSize(f) === 4)).toBe(true);
  });
  it('makes one face of picked faces, and of the faces round a vertex', () => {
    const cage = Cage.fromPolygons(plane(4, 4, 4, 4));
    expect(run('dissolve', cage, selectFaces([0, 1, 2, 3])).cage.faceCount).toBe(13);
    const inner = [...cage.vertices()].find((v) => !cage.isBorderVertex(v))!;
    const { cage: merged } = run('dissolve', cage, selectVertices([inner]));
    assertValid(merged);
    expect([merged.faceCount, merged.hasVertex(inner)]).toEqual([13, false]);
  });
  it('keeps vertices of two edges when asked', () => {
    const cage = Cage.fromPolygons(plane(2, 2, 2, 1));
    const inner = [...cage.edges()].find((e) => !cage.isBorderEdge(e))!;
    expect(run('dissolve', cage, selectEdges([inner])).cage.vertexCount).toBe(4);
    expect(run('dissolve', cage, selectEdges([inner]), { keepVertices: true }).cage.vertexCount).toBe(6);
  });
  it('says why a border edge stays', () => {
    const cage = Cage.fromPolygons(plane(1, 1, 1, 1));
    expect(() => run('dissolve', cage, selectEdges([0]))).toThrow(/on a border.*Delete the face/);
  });
});
