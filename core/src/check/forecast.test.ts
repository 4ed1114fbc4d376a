import { describe, expect, it } from 'vitest';
import { Cage } from '../mesh/cage.ts';
import { applyOperation, type CageOperation, type Params } from '../operations/operation.ts';
import { operationById } from '../operations/registry.ts';
import { selectEdges, selectFaces, selectVertices, type Selection } from '../select/selection.ts';
import { box, plane, torus } from '../shapes/start-shapes.ts';
import { describeForecast, describeLoops, forecast } from './forecast.ts';

const after = (id: string, cage: Cage, selection: Selection, params: Params = {}) =>
  applyOperation(operationById(id) as CageOperation, cage, selection, params).cage;
const valences = (poles: { valence: number }[]) => poles.map((p) => p.valence).sort();

describe('forecast', () => {
  it('tells the poles that an extrusion makes, and where', () => {
    const cage = Cage.fromPolygons(box({ x: 9, y: 9, z: 9 }, { x: 3, y: 3, z: 3 }));
    const middle = [...cage.faces()].find((f) => cage.faceVertices(f).every((v) => cage.valence(v) === 4))!;
    const drawn = after('extrude', cage, selectFaces([middle]), { distance: 3 });
    const { appear, cancel, moved } = forecast(cage, drawn);
    expect([valences(appear), cancel]).toEqual([[3, 3, 3, 3, 5, 5, 5, 5], []]);
    for (const { vertex, valence } of appear) expect(drawn.valence(vertex)).toBe(valence);
    expect(moved).toBeGreaterThan(1);
  });

  it('finds none for a loop round a torus, and says how far the surface moves', () => {
    const cage = Cage.fromPolygons(torus(10, 3, 12, 8));
    const change = forecast(cage, after('add-loop', cage, selectEdges([0])));
    expect([change.appear, change.cancel]).toEqual([[], []]);
    expect(describeForecast(change)).toMatch(/^Forecast: no pole appears or goes; the smooth surface moves by up to 0\.\d\d mm\.$/);
  });

  it('measures the surface also where vertices go: a dissolved vertex on a bump', () => {
    const sheet = Cage.fromPolygons(plane(10, 10, 10, 10));
    const bump = after('move', sheet, selectVertices([60]), { y: 3 });
    // the limit surface lies 4/9 of its height up at the moved vertex
    expect(forecast(sheet, bump).moved).toBeCloseTo(3 * (4 / 9), 1);
    const gone = forecast(bump, after('dissolve', bump, selectVertices([60])));
    expect(gone.moved).toBeGreaterThan(1.2);
    expect(valences(gone.cancel)).toEqual([]);
    expect(gone.ngons).toBe(1);
    expect(forecast(sheet, after('connect', sheet, selectVertices([48, 60]))).moved).toBeLessThan(1e-9);
  });

  it('answers for large cages by what changes, and leaves the distance out where that is too much', () => {
    const cage = Cage.fromPolygons(torus(40, 15, 300, 200));
    expect(forecast(cage, after('extrude', cage, selectFaces([500]), { distance: 1 })).moved).toBeGreaterThan(0.1);
    expect(forecast(cage, after('move', cage, selectVertices(cage.vertices()), { x: 1 })).moved).toBeUndefined();
  });

  it('tells the loops before and after', () => {
    const cage = Cage.fromPolygons(torus(10, 3, 12, 8));
    expect(describeLoops(cage, [cage.findHalfEdge(0, 1) >> 1])).toBe('8 edges, closed');
    expect(describeLoops(cage, [])).toBeUndefined();
    expect(describeLoops(cage, [...cage.edges()])).toBeUndefined();
  });
});
