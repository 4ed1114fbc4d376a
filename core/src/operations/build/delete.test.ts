import { describe, expect, it } from 'vitest';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { borderLoops, enclosedVolume, islands } from '../../mesh/topology.ts';
import { emptySelection, selectFaces, selectVertices, type Selection } from '../../select/selection.ts';
import { box, cylinder, quadSphere } from '../../shapes/start-shapes.ts';
import { applyOperation } from '../apply.ts';
import { type CageOperation, type Params } from '../operation.ts';
import { operationById } from '../registry.ts';

const run = (id: string, cage: Cage, selection: Selection, params: Params = {}) =>
  applyOperation(operationById(id) as CageOperation, cage, selection, params);

describe('delete, flip, mirror', () => {
  it('leaves a hole with a border', () => {
    const { cage } = run('delete', Cage.fromPolygons(quadSphere(1, 4)), selectVertices([30]));
    assertValid(cage);
    expect(borderLoops(cage).map((b) => b.length)).toEqual([8]);
  });
  it('mirrors half a sphere to a whole one, closed', () => {
    const cage = Cage.fromPolygons(quadSphere(5, 4));
    const dented = run('move', cage, selectVertices([...cage.vertices()].filter((v) => cage.position(v)[0] < -4)), { x: 2 }).cage;
    const { cage: whole } = run('mirror', dented, emptySelection(), { axis: 'X', keep: 'positive', weld: 0.01 });
    assertValid(whole);
    expect([borderLoops(whole).length, islands(whole).count, whole.faceCount]).toEqual([0, 1, cage.faceCount]);
    expect(enclosedVolume(whole)).toBeCloseTo(enclosedVolume(cage), 9);
  });
  it('cuts what crosses the plane, or draws it there, at any distance and across any plane', () => {
    const block = Cage.fromPolygons(box({ x: 10, y: 10, z: 10 }, { x: 3, y: 3, z: 3 }));
    const cut = run('mirror', block, emptySelection(), { at: 1 }).cage;
    assertValid(cut);
    expect([enclosedVolume(cut).toFixed(6), borderLoops(cut).length]).toEqual(['800.000000', 0]);
    const drawn = run('mirror', block, emptySelection(), { crossing: 'drawn' }).cage;
    assertValid(drawn);
    expect([enclosedVolume(drawn).toFixed(6), drawn.faceCount]).toEqual(['1000.000000', 2 * (9 + 4 * 3 * 2)]);
    // a block that leans is mirrored across its own top
    const leaning = run('rotate', block, selectVertices(block.vertices()), { z: 30 }).cage;
    const top = [...block.faces()].filter((f) => block.faceVertices(f).every((v) => block.position(v)[1] > 4.9));
    const doubled = run('mirror', leaning, selectFaces(top), { axis: 'picked', keep: 'negative', weld: 0.01 }).cage;
    assertValid(doubled);
    expect(enclosedVolume(doubled)).toBeCloseTo(2000, 3);
    expect(() => run('mirror', block, emptySelection(), { axis: 'picked' })).toThrow(/make no plane/);
  });
  it('mirrors a part beside the plane as a second island', () => {
    const tube = Cage.fromPolygons(cylinder(1, 2, 8, 1, false));
    const shifted = run('move', tube, selectVertices(tube.vertices()), { x: 9 }).cage;
    expect(islands(run('mirror', shifted, emptySelection()).cage).count).toBe(2);
    expect(() => run('mirror', shifted, emptySelection(), { keep: 'negative' })).toThrow(/No face lies on the negative side/);
  });
  it('flips the whole part', () => {
    const { cage } = run('flip', Cage.fromPolygons(quadSphere(2, 3)), emptySelection());
    assertValid(cage);
    expect(enclosedVolume(cage)).toBeLessThan(0);
  });
});
