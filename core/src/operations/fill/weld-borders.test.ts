import { describe, expect, it } from 'vitest';
import { cube, run, vertexAt } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { joinCages } from '../../mesh/join-cages.ts';
import { borderLoops, eulerCharacteristic, islands } from '../../mesh/topology.ts';
import { emptySelection, selectFaces, selectVertices } from '../../select/selection.ts';
import { cylinder, plane } from '../../shapes/start-shapes.ts';

/** Two sheets of 4 mm side by side, with a gap between them; the right one has so many faces along it. */
function sheets(gap: number, rows: number): Cage {
  const left = Cage.fromPolygons(plane(4, 4, 4, 4));
  const right = Cage.fromPolygons(plane(4, 4, 4, rows));
  return joinCages(left, run('move', right, selectFaces(right.faces()), { x: 4 + gap }).cage).cage;
}
const parts = (cage: Cage) => islands(cage).count;

describe('weld borders', () => {
  it('closes a hairline gap within the distance, and says how far apart it was', () => {
    const { cage, notes, selection } = run('weld-borders', sheets(0.05, 4), emptySelection(), { distance: 0.1 });
    expect([parts(cage), borderLoops(cage).length, cage.vertexCount, selection.vertices.length]).toEqual([1, 1, 45, 5]);
    expect(notes[0]).toBe('10 border vertices welded in 5 places; they lay up to 0.0500 mm apart.');
    expect(() => run('weld-borders', sheets(0.05, 4), emptySelection(), { distance: 0.01 })).toThrow(/No two border vertices lie within 0.01 mm/);
    expect(() => run('weld-borders', cube(), emptySelection())).toThrow(/closed/);
  });

  it('puts vertices on edges that others lie on, unless that is not wanted', () => {
    const { cage, notes } = run('weld-borders', sheets(0.05, 8), emptySelection(), { distance: 0.1 });
    expect([parts(cage), borderLoops(cage).length, notes[1]]).toEqual([1, 1, '4 edges got a vertex where one lay on it.']);
    const open = run('weld-borders', sheets(0.05, 8), emptySelection(), { distance: 0.1, junctions: false }).cage;
    expect(borderLoops(open).length).toBeGreaterThan(1);
    // thirds against quarters: vertices of both lie on edges of the other
    expect(borderLoops(run('weld-borders', sheets(0.02, 3), emptySelection(), { distance: 0.1 }).cage)).toHaveLength(1);
  });

  it('comes to an end within any distance', () => {
    for (const distance of [1e-16, 1e-300])
      expect(() => run('weld-borders', sheets(0.05, 4), emptySelection(), { distance })).toThrow(/No two border/);
    const torn = Cage.fromPolygons(plane(400, 400, 100, 100));
    expect(() => run('weld-borders', torn, emptySelection(), { distance: 1e5 })).toThrow(/Welded within|Nearly all/);
    const far = sheets(0.05, 4);
    for (const v of far.vertices()) far.positions[3 * v] += 1e8;
    expect(parts(run('weld-borders', far, emptySelection(), { distance: 0.1 }).cage)).toBe(1);
  });

  it('welds only what is picked, and never the ends of one edge', () => {
    const cage = sheets(0.05, 4);
    const some = selectVertices([...cage.vertices()].filter((v) => cage.position(v)[2] < -0.5 && Math.abs(cage.position(v)[0] - 2) < 0.2));
    expect(run('weld-borders', cage, some, { distance: 0.1 }).selection.vertices).toHaveLength(2);
    // far more than an edge's length
    expect(() => run('weld-borders', cage, emptySelection(), { distance: 3 })).toThrow(/would come to lie on each other. Type a smaller distance/);
  });
});

describe('zip', () => {
  it('closes two borders pair by pair from the two vertices picked, all or so many', () => {
    const cage = sheets(0.5, 4);
    const start = selectVertices([vertexAt(cage, 2, 0, 2), vertexAt(cage, 2.5, 0, 2)]);
    const counts = (pairs: number) => {
      for (const order of [start.vertices, [...start.vertices].reverse()]) {
        const { cage: zipped, notes } = run('zip', cage, selectVertices(order), { pairs });
        // one way round the pairs run along the gap, the other way round they run apart
        if (parts(zipped) === 1 && notes[0].endsWith('0.500 mm apart.')) return [cage.vertexCount - zipped.vertexCount, borderLoops(zipped).length];
      }
      return [];
    };
    expect(counts(3)).toEqual([3, 1]);
    expect(counts(5)).toEqual([5, 1]);
  });

  it('closes one border from a vertex of it to the other end', () => {
    const tube = Cage.fromPolygons(cylinder(5, 10, 12, 2, false));
    const { cage } = run('zip', tube, selectVertices([vertexAt(tube, 5, 5, 0)]));
    expect([borderLoops(cage).length, eulerCharacteristic(cage), tube.vertexCount - cage.vertexCount]).toEqual([1, 1, 5]);
    expect(() => run('zip', tube, emptySelection())).toThrow(/No border vertex is picked/);
  });
});
