import { describe, expect, it } from 'vitest';
import { Cage } from '../../mesh/cage.ts';
import { enclosedVolume } from '../../mesh/topology.ts';
import { selectFaces, selectVertices, type Selection } from '../../select/selection.ts';
import { box, quadSphere } from '../../shapes/start-shapes.ts';
import { applyOperation } from '../apply.ts';
import { type CageOperation, type Params } from '../operation.ts';
import { operationById } from '../registry.ts';

const run = (id: string, cage: Cage, selection: Selection, params: Params = {}) =>
  applyOperation(operationById(id) as CageOperation, cage, selection, params);

describe('move, rotate, scale', () => {
  it('take numbers', () => {
    const cage = Cage.fromPolygons(box({ x: 2, y: 2, z: 2 }, { x: 1, y: 1, z: 1 }));
    const all = selectVertices(cage.vertices());
    expect(run('move', cage, selectVertices([0]), { x: 1, z: -2 }).cage.position(0)).toEqual([
      cage.position(0)[0] + 1,
      cage.position(0)[1],
      cage.position(0)[2] - 2
    ]);
    expect(enclosedVolume(run('scale', cage, all, { x: 200, y: 100, z: 50 }).cage)).toBeCloseTo(8, 12);
    const turned = run('rotate', cage, all, { x: 0, y: 90, z: 0 }).cage;
    expect(enclosedVolume(turned)).toBeCloseTo(8, 12);
    const [x, y, z] = cage.position(0);
    turned.position(0).forEach((p, k) => expect(p).toBeCloseTo([z, y, -x][k], 12));
  });
  it('refuse to flatten a whole part', () => {
    const cage = Cage.fromPolygons(quadSphere(1, 2));
    expect(() => run('scale', cage, selectFaces(cage.faces()), { y: 0 })).toThrow(/flatten the whole part along Y/);
  });
});
