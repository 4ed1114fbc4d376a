import { describe, expect, it } from 'vitest';
import { run, sizes } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { polygonMesh } from '../../mesh/polygon-mesh.ts';
import { borderLoops, eulerCharacteristic } from '../../mesh/topology.ts';
import { edgeLoop } from '../../select/loops.ts';
import { selectEdges, selectFaces, selectVertices } from '../../select/selection.ts';
import { cylinder, plane, quadSphere } from '../../shapes/start-shapes.ts';

const edgeBetween = (cage: Cage, a: number, b: number) => cage.findHalfEdge(a, b) >> 1;

describe('collapse and weld', () => {
  it('pulls an edge of a sphere together', () => {
    const start = Cage.fromPolygons(quadSphere(5, 3));
    const { cage, selection } = run('collapse', start, selectEdges([0]));
    expect([cage.vertexCount, cage.faceCount, sizes(cage)[0]]).toEqual([start.vertexCount - 1, 54, 2]);
    expect(eulerCharacteristic(cage)).toBe(2);
    expect(selection.vertices).toHaveLength(1);
  });

  it('pulls a whole loop together to close a tube, and a face to a point', () => {
    const tube = Cage.fromPolygons(cylinder(5, 30, 8, 3, false));
    const { cage } = run('collapse', tube, selectEdges(edgeLoop(tube, edgeBetween(tube, 0, 1)).edges));
    expect([borderLoops(cage).length, sizes(cage)[0]]).toEqual([1, 8]);
    const face = run('collapse', Cage.fromPolygons(quadSphere(5, 3)), selectFaces([4]));
    expect([face.cage.faceCount, eulerCharacteristic(face.cage)]).toEqual([53, 2]);
  });

  it('welds to the last, the first or the middle', () => {
    const sheet = Cage.fromPolygons(plane(2, 2, 2, 2));
    const [a, b] = sheet.faceVertices(0);
    const at = (to: string) => {
      const { cage, selection } = run('weld', sheet, selectVertices([a, b]), { to });
      return cage.position(selection.vertices[0]);
    };
    expect(at('last')).toEqual(sheet.position(b));
    expect(at('first')).toEqual(sheet.position(a));
    expect(at('middle')).toEqual([0, 1, 2].map((k) => (sheet.position(a)[k] + sheet.position(b)[k]) / 2));
  });

  it('welds two halves within a distance, only what is picked', () => {
    const left = plane(2, 2, 1, 1);
    const right = plane(2, 2, 1, 1);
    const points = [left, right].flatMap((m, i) =>
      Array.from({ length: 4 }, (_, v) => [m.positions[3 * v] + 2.04 * i, m.positions[3 * v + 1], m.positions[3 * v + 2]])
    );
    const cage = Cage.fromPolygons(polygonMesh(points, [[...left.faceVertices], [...right.faceVertices].map((v) => v + 4)]));
    const all = selectVertices(cage.vertices());
    expect(run('weld-near-pairs', cage, all, { distance: 0.05 }).cage.vertexCount).toBe(6);
    expect(run('weld-near-pairs', cage, selectVertices([]), { distance: 0.05 }).cage.vertexCount).toBe(6);
    // as jobs of before have it
    expect(run('weld', cage, all, { to: 'distance', distance: 0.05 }).cage.vertexCount).toBe(6);
    expect(() => run('weld-near-pairs', cage, all, { distance: 0.01 })).toThrow(/nearest two are 0\.040 mm apart/);
    const near = [...cage.vertices()].filter((v) => cage.position(v)[2] > 0);
    expect(() => run('weld-near-pairs', cage, selectVertices(near), { distance: 0.05 })).toThrow(/touch in a corner only/);
  });

  it('leaves apart what lies too far from where the others meet', () => {
    const sheet = Cage.fromPolygons(plane(3, 3, 3, 3));
    const [a, b, , d] = sheet.faceVertices(4);
    const welded = (within: number) => run('weld', sheet, selectVertices([a, d, b]), { to: 'last', within });
    expect(welded(0).cage.vertexCount).toBe(sheet.vertexCount - 2);
    expect(welded(1.2).cage.vertexCount).toBe(sheet.vertexCount - 1);
    expect(() => welded(0.5)).toThrow(/within 0\.5 mm of where they would meet.*type 0/);
  });
});
