import { describe, expect, it } from 'vitest';
import { faceQuality } from '../../../testing/face-quality.ts';
import { without } from '../../../testing/holes.ts';
import { run } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { joinCages } from '../../mesh/join-cages.ts';
import { borderLoops, eulerCharacteristic } from '../../mesh/topology.ts';
import { selectEdges, selectFaces } from '../../select/selection.ts';
import { plane, quadSphere } from '../../shapes/start-shapes.ts';
import { applyOperation } from '../apply.ts';
import { type CageOperation } from '../operation.ts';
import { operationById } from '../registry.ts';

const moved = (cage: Cage, by: { x?: number; z?: number }) => run('move', cage, selectFaces(cage.faces()), by).cage;
const sheet = (x: number, z: number, i: number, j: number) => Cage.fromPolygons(plane(x, z, i, j));
const edgesWhere = (cage: Cage, holds: (p: number[]) => boolean) =>
  selectEdges([...cage.edges()].filter((e) => cage.isBorderEdge(e) && [0, 1].every((k) => holds(cage.position(cage.origin[2 * e + k])))));

describe('fill between', () => {
  it('takes the counts of what lies around, open sides as their length asks, and lies flat between flat strips', () => {
    // three strips round an open place, of different counts
    const cage = [moved(sheet(2, 8, 2, 8), { x: -5 }), moved(sheet(2, 8, 2, 6), { x: 5 })].reduce((a, b) => joinCages(a, b).cage);
    const facing = edgesWhere(cage, ([x]) => Math.abs(Math.abs(x) - 4) < 1e-9);
    const { cage: filled, selection, notes } = run('fill-between', cage, facing);
    expect([borderLoops(filled).length, eulerCharacteristic(filled)]).toEqual([1, 1]);
    expect(selection.faces.every((f) => filled.faceSize(f) === 4)).toBe(true);
    const { worst, mean } = faceQuality(filled, selection.faces);
    expect([worst > 0.3, mean > 0.75]).toEqual([true, true]);
    for (const v of selection.faces.flatMap((f) => filled.faceVertices(f))) expect(filled.position(v)[1]).toBeCloseTo(0, 6);
    expect(notes[0]).toMatch(/quads between 14 edges/);
    const asked = run('fill-between', cage, facing, { sides: 3 });
    expect(asked.selection.faces.length).toBeLessThan(selection.faces.length);
  });

  it('takes picked vertices as corners, and refuses an odd border with what would help', () => {
    const cage = without(sheet(9, 9, 9, 9), ([x, , z]) => Math.abs(x) < 2 && Math.abs(z) < 2);
    const hole = edgesWhere(cage, ([x, , z]) => Math.max(Math.abs(x), Math.abs(z)) < 2);
    const free = run('fill-between', cage, hole);
    expect(free.selection.faces).toHaveLength(9);
    const corners = [...cage.vertices()].filter(
      (v) => Math.abs(cage.position(v)[0] + cage.position(v)[2]) < 1e-9 && Math.abs(cage.position(v)[0]) === 1.5
    );
    expect(corners).toHaveLength(2);
    const pointed = run('fill-between', cage, { ...hole, vertices: corners });
    expect(pointed.selection.faces.length).not.toBe(9);
    expect(() => run('fill-between', cage, { ...hole, vertices: corners.slice(1) })).toThrow(/One corner is picked/);
    const odd = run('point-on-edge', cage, selectEdges([hole.edges[0]])).cage;
    expect(() =>
      run(
        'fill-between',
        odd,
        edgesWhere(odd, ([x, , z]) => Math.max(Math.abs(x), Math.abs(z)) < 2)
      )
    ).toThrow(/odd number of edges/);
    expect(() => run('fill-between', cage, selectEdges([hole.edges[0]]))).toThrow(/A chain of 1 edge encloses no area/);
  });

  it('fills several gaps at once, two odd ones with a strip from one to the other', () => {
    const sides = (x: number) => (p: number[]) => Math.max(Math.abs(p[0] - x), Math.abs(p[2])) < 2;
    const cage = without(sheet(15, 9, 15, 9), (p) => sides(-4)(p) || sides(4)(p));
    const holes = edgesWhere(cage, (p) => sides(-4)(p) || sides(4)(p));
    expect(run('fill-between', cage, holes).notes[0]).toBe('18 quads in 2 gaps.');
    const first = (own: Cage, x: number) => edgesWhere(own, sides(x)).edges.slice(0, 1);
    const half = run('point-on-edge', cage, selectEdges(first(cage, -4))).cage;
    const odd = run('point-on-edge', half, selectEdges(first(half, 4))).cage;
    const { cage: filled, notes } = run(
      'fill-between',
      odd,
      edgesWhere(odd, (p) => sides(-4)(p) || sides(4)(p))
    );
    expect(notes[1]).toMatch(/^A strip was run/);
    expect([borderLoops(filled).length, eulerCharacteristic(filled)]).toEqual([1, 1]);
  });

  it('puts what it lays on the reference', () => {
    const ball = quadSphere(10, 24);
    const cage = without(Cage.fromPolygons(quadSphere(10, 8)), ([x, y, z]) => y > Math.max(Math.abs(x), Math.abs(z)));
    const hole = edgesWhere(cage, () => true);
    const off = (cling: boolean) => {
      const around = { surface: { scheme: 'catmull-clark', borderCorners: 'sharp' } as const, reference: ball };
      const { cage: filled, selection } = applyOperation(operationById('fill-between') as CageOperation, cage, hole, { swell: 0, cling }, around);
      return Math.max(...selection.faces.flatMap((f) => filled.faceVertices(f)).map((v) => Math.abs(Math.hypot(...filled.position(v)) - 10)));
    };
    expect([off(true) < 0.1, off(false) > 1]).toEqual([true, true]);
  });
});
