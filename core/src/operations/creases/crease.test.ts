import { describe, expect, it } from 'vitest';
import { cube, run } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { faceNormal } from '../../mesh/normals.ts';
import { emptySelection, selectEdges, selectFaces } from '../../select/selection.ts';
import { plane } from '../../shapes/start-shapes.ts';
import { type Params } from '../operation.ts';
import { crease } from './crease.ts';

const sheet = (n = 6) => Cage.fromPolygons(plane(n, n, n, n));

describe('the grip of a crease', () => {
  it('stands over what is picked, the higher the sharper, and shows the number', () => {
    const cage = cube(2);
    const top = [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => cage.position(v)[1] > 4.9));
    const grip = (params: Params) => crease.grips!(cage, selectFaces(top), { how: 'set', sharpness: 10, ...params })[0];
    const { from, at, stops, shows } = grip({});
    expect([stops.length, shows, stops.at(-1)]).toEqual([21, '10', { at, params: { sharpness: 10 } }]);
    expect(stops.every(({ at: [, y] }, i) => i === 0 || y > stops[i - 1].at[1])).toBe(true);
    expect([from[1], at[1] > 5]).toEqual([5, true]);
    expect([grip({ sharpness: 2.5 }).at, grip({ sharpness: 2.5 }).shows]).toEqual([stops[5].at, '2.5']);
    expect(crease.grips!(cage, emptySelection(), { how: 'set', sharpness: 10 })).toEqual([]);
    expect(crease.grips!(cage, selectFaces(top), { how: 'add', by: 1 })).toEqual([]);
  });
});

describe('creases', () => {
  const sharpEdges = (cage: Cage) => [...cage.edges()].filter((e) => cage.value('crease', e) > 0);

  it('are set, added to and scaled, on edges, outlines and corners, within 0 and 10', () => {
    const cage = cube(2);
    const edges = [...cage.edges()].slice(0, 3);
    const set = run('crease', cage, { ...selectEdges(edges), vertices: [0] }, { sharpness: 2.5 }).cage;
    const more = run('crease', set, selectEdges(edges), { how: 'add', by: 9 }).cage;
    const half = run('crease', more, selectEdges(edges), { how: 'scale', percent: 30 }).cage;
    expect([set, more, half].map((c) => c.value('crease', edges[0]))).toEqual([2.5, 10, 3]);
    expect([set.value('corner', 0), sharpEdges(set).length]).toEqual([2.5, 3]);
    const top = [...cage.faces()].filter((f) => faceNormal(cage, f)[1] > 0.9);
    expect(sharpEdges(run('crease', cage, selectFaces(top)).cage)).toHaveLength(8);
    expect(() => run('crease', sheet(), selectEdges([...sheet().edges()].filter((e) => sheet().isBorderEdge(e))))).toThrow(/sharp by themselves/);
    expect(() => run('crease', cage, selectEdges(edges), { sharpness: -1 })).toThrow(/greater than or equal to 0/);
    expect(() => run('crease', cage, selectEdges(edges), { sharpness: NaN })).toThrow(/number/);
  });

  it('are found by angle and by regions, and cleared', () => {
    const cage = cube(3);
    const byAngle = run('crease-by-angle', cage, emptySelection(), { angle: 40 }).cage;
    expect(sharpEdges(byAngle)).toHaveLength(36);
    expect(sharpEdges(run('clear-creases', byAngle, emptySelection()).cage)).toHaveLength(0);
    const regions = cube(3);
    for (const f of regions.faces()) regions.setValue('region', f, faceNormal(regions, f)[1] > 0.9 ? 1 : 0);
    expect(sharpEdges(run('crease-regions', regions, emptySelection()).cage)).toHaveLength(12);
    expect(() => run('crease-regions', cage, emptySelection())).toThrow(/one region only/);
  });
});
