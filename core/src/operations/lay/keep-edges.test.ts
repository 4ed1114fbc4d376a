import { describe, expect, it } from 'vitest';
import { run } from '../../../testing/run-operation.ts';
import { keptEdges } from '../../hand/kept.ts';
import { Cage } from '../../mesh/cage.ts';
import { selectEdges, emptySelection } from '../../select/selection.ts';
import { denseSphere } from '../../shapes/sample-surfaces.ts';
import { quadSphere } from '../../shapes/start-shapes.ts';
import { applyOperation } from '../apply.ts';
import { type Params } from '../operation.ts';
import { hold } from './hold.ts';

const reference = denseSphere(48);
const around = { surface: { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const }, reference };
/** a ball of radius 18 in a reference of radius 20, and its edges round the middle */
const ball = () => Cage.fromPolygons(quadSphere(18, 8));
const equator = (cage: Cage) =>
  selectEdges([...cage.edges()].filter((e) => [0, 1].every((k) => Math.abs(cage.positions[3 * cage.origin[2 * e + k] + 1]) < 1e-6)));
const held = (cage: Cage, params: Params = {}) => applyOperation(hold, cage, emptySelection(), { passes: 5, ...params }, around);
const radius = (cage: Cage, v: number) => Math.hypot(...cage.position(v));

describe('kept edges', () => {
  it('stay where they are when the part is held, and how far off they are is told', () => {
    const cage = ball();
    const { cage: kept, notes } = run('keep-edges', cage, equator(cage));
    expect(notes[0]).toBe('32 edges kept; 32 of the part are.');
    expect(notes[1]).toMatch(/Without them the smooth surface lies \d/);
    const { cage: on, notes: told } = held(kept);
    const own = new Set(equator(cage).edges.flatMap((e) => [cage.origin[2 * e], cage.origin[2 * e + 1]]));
    for (const v of cage.vertices()) {
      if (own.has(v)) expect(on.position(v)).toEqual(cage.position(v));
      else expect(Math.abs(radius(on, v) - 20)).toBeLessThan(0.05);
    }
    expect(told.find((note) => note.startsWith('32 vertices of kept edges stayed'))).toMatch(/lies 2\.\d+ mm from them/);
    // without the mark they go along
    expect(Math.max(...[...own].map((v) => Math.abs(radius(held(cage).cage, v) - 20)))).toBeLessThan(0.05);
  });

  it('survive a division and a loop across them, and stay when what is beside is evened out', () => {
    const cage = ball();
    const kept = run('keep-edges', cage, equator(cage)).cage;
    const fine = run('divide-once', kept, emptySelection()).cage;
    expect(keptEdges(fine)).toHaveLength(64);
    expect(keptEdges(fine).every((e) => fine.value('crease', e) > 0)).toBe(true);
    const even = run('relax-area', fine, emptySelection(), { passes: 10 }).cage;
    for (const e of keptEdges(fine)) expect(even.position(even.origin[2 * e])).toEqual(fine.position(fine.origin[2 * e]));
    const [first] = equator(cage).edges;
    expect(keptEdges(run('add-loop', kept, selectEdges([first])).cage).length).toBe(34);
  });

  it('are let go again, with their sharpness', () => {
    const cage = ball();
    const kept = run('keep-edges', cage, equator(cage)).cage;
    const free = run('keep-edges', kept, equator(cage), { keep: false }).cage;
    expect([keptEdges(free).length, [...free.edges()].filter((e) => free.value('crease', e) > 0).length]).toEqual([0, 0]);
    expect(() => run('keep-edges', cage, emptySelection())).toThrow(/No edge is picked/);
  });
});

describe('holding along the view', () => {
  it('moves what is held towards the eye alone', () => {
    const cage = ball();
    const view = [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1]
    ];
    const top = [...cage.vertices()].filter((v) => cage.position(v)[2] > 10);
    const { cage: on } = applyOperation(hold, cage, { ...emptySelection(), vertices: top }, { way: 'view', even: false, view }, around);
    for (const v of top) {
      expect(on.position(v).slice(0, 2)).toEqual(cage.position(v).slice(0, 2));
      expect(Math.abs(radius(on, v) - 20)).toBeLessThan(0.05);
    }
  });
});
