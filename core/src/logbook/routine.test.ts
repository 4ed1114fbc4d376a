import { describe, expect, it } from 'vitest';
import { finds } from '../select/finds.ts';
import { emptySelection, selectEdges } from '../select/selection.ts';
import { Cage } from '../mesh/cage.ts';
import { mooringCleat } from '../shapes/mooring-cleat.ts';
import { channelBuoy } from '../shapes/channel-buoy.ts';
import { repairPolygons } from '../mesh/repair.ts';
import { box, quadSphere } from '../shapes/start-shapes.ts';
import { exampleRoutines } from './example-routines.ts';
import { Logbook } from './logbook.ts';
import { routineFrom } from './make-routine.ts';
import { performRoutine, plainParts } from './perform.ts';
import { asPreviewed } from './replay.ts';
import { playRoutine, readRoutine, type Routine } from './routine.ts';

const around = { surface: { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const } };
const firm = {
  format: 'ulvrin-routine',
  version: 1,
  name: 'Firm edges',
  numbers: { angle: { label: 'Sharper than', value: 50, unit: '°' }, sharpness: { label: 'Sharpness', value: 4 } },
  steps: [
    { operation: 'quad-grid', on: [{ find: 'borders' }], optional: true },
    { operation: 'crease', params: { sharpness: '$sharpness' }, on: [{ find: 'sharp', number: '$angle' }] }
  ]
};
const creased = (cage: Cage, sharpness: number) => [...cage.edges()].filter((e) => cage.value('crease', e) === sharpness).length;

/** The logbook of a job with the cleat in it. */
function cleatLogbook(): Logbook {
  const logbook = new Logbook();
  const makes = { name: 'Cleat', kind: 'cage' } as const;
  logbook.add({ operation: 'bring-in', part: 'a', params: {}, selection: emptySelection(), cast: mooringCleat(), makes });
  return logbook;
}

describe('routines', () => {
  it('play on other parts: what they work on is found anew, and told step by step', () => {
    const routine = readRoutine(firm);
    const block = playRoutine(Cage.fromPolygons(box({ x: 20, y: 20, z: 20 }, { x: 2, y: 2, z: 2 })), routine, {}, around);
    expect(creased(block.cage, 4)).toBe(24);
    expect(block.steps.map(({ operation, left }) => [operation, left])).toEqual([
      ['Quad grid', 'it finds nothing to work on.'],
      ['Crease', undefined]
    ]);
    expect(block.steps[1].found).toMatch(/24 edges/);
    const cleat = playRoutine(Cage.fromPolygons(mooringCleat()), routine, { sharpness: 2.5 }, around);
    expect(creased(cleat.cage, 2.5)).toBeGreaterThan(40);
    // made on the cleat, played on the buoy, whose holes are closed first
    const buoy = playRoutine(Cage.fromPolygons(repairPolygons(channelBuoy(), { weld: true }).mesh), routine, {}, around);
    expect(buoy.steps[0].left).toBeUndefined();
    expect(creased(buoy.cage, 4)).toBeGreaterThan(0);
  });

  it('are made of a run of entries: picks are told as questions that find the same, and play on another part', () => {
    const cleat = cleatLogbook();
    const [made] = cleat.entries;
    const cage = () => cleat.part('a')!.cage!;
    const sharp = finds.find(({ id }) => id === 'sharp')!;
    cleat.add({ operation: 'crease', part: 'a', params: { sharpness: 3 }, selection: sharp.pick(cage(), emptySelection(), 45) });
    cleat.add({ operation: 'divide-once', part: 'a', params: {}, selection: emptySelection() });
    const doneAt = (index: number) => ({
      entry: cleat.entries[index],
      before: cleat.stateBefore(index).parts[0].cage!,
      left: emptySelection()
    });
    const routine = routineFrom('Firm and fine', [doneAt(1), doneAt(2)]);
    expect(routine.steps.map(({ operation, on }) => [operation, on && on[0]])).toEqual([
      ['crease', { find: 'sharp', number: expect.any(Number) as number }],
      ['divide-once', undefined]
    ]);
    const { cage: block } = playRoutine(Cage.fromPolygons(box({ x: 20, y: 20, z: 20 }, { x: 2, y: 2, z: 2 })), routine, {}, around);
    expect([block.faceCount, [...block.edges()].filter((e) => block.value('crease', e) > 0).length]).toEqual([96, 48]);
    expect(() => routineFrom('All', [{ ...doneAt(1), entry: made }])).toThrow('Entry 1 of these, Bring in a file, is not done on a cage');
    cleat.add({ operation: 'crease', part: 'a', params: { sharpness: 1 }, selection: selectEdges([...cage().edges()].slice(0, 5)) });
    expect(() => routineFrom('Five', [doneAt(3)])).toThrow(/^Entry 1 of these, Crease, works on 5 edges.*, which no way of Find and pick finds/);
  });

  it('played in another thread become entries that replay to the same', () => {
    const cleat = cleatLogbook();
    const told: string[] = [];
    const steps = performRoutine(structuredClone(plainParts(cleat.state)), 'a', readRoutine(firm), { sharpness: 2 }, (step) => told.push(step));
    expect(told).toEqual(['Quad grid', 'Crease']);
    for (const { done, notes, left } of steps) {
      if (left !== undefined) continue;
      const { cage, picked, ...step } = done;
      const entry = { ...step, part: 'a' };
      cleat.add(entry, undefined, asPreviewed(cleat.state, entry, { cage: Cage.revived(cage), selection: picked, notes }));
    }
    expect(cleat.entries.map(({ operation }) => operation)).toEqual(['bring-in', 'crease']);
    const again = new Logbook(cleat.entries);
    expect(again.part('a')!.cage!.toPolygons()).toEqual(cleat.part('a')!.cage!.toPolygons());
    expect(creased(again.part('a')!.cage!, 2)).toBeGreaterThan(40);
  });

  it('that ship can be read, and play on demo parts', () => {
    for (const routine of exampleRoutines)
      for (const mesh of [mooringCleat(), repairPolygons(channelBuoy(), { weld: true }).mesh]) {
        const { steps } = playRoutine(Cage.fromPolygons(mesh), routine, {}, around);
        expect([routine.name, steps.some(({ left }) => left === undefined)]).toEqual([routine.name, true]);
      }
  });

  it('stop at a step that finds nothing or is refused, and say which', () => {
    const ball = Cage.fromPolygons(quadSphere(10, 6));
    const start = ball.clone();
    expect(() => playRoutine(ball, readRoutine(firm), {}, around)).toThrow('Step 2, Crease on nothing picked: it finds nothing to work on.');
    expect(ball.positions).toEqual(start.positions);
    const wrong = readRoutine({ ...firm, steps: [{ operation: 'extrude', params: { distance: 'far' }, on: 'all faces' }] });
    expect(() => playRoutine(ball, wrong, {}, around)).toThrow(/^Step 1, Extrude on 216 faces: Extrude: "Distance/);
    expect(() => playRoutine(ball, readRoutine(firm), { width: 3 }, around)).toThrow('The routine has no number "width"; it has angle, sharpness.');
  });

  it('are read only where they are whole: known operations, known ways to find, their own numbers, no other version', () => {
    const bad = (change: Partial<Record<keyof Routine, unknown>>) => () => readRoutine({ ...firm, ...change });
    expect(bad({ version: 2 })).toThrow(/This is no routine: .*version/);
    expect(bad({ steps: [] })).toThrow(/steps/);
    expect(bad({ steps: [{ operation: 'melt' }] })).toThrow('Step 1: "melt" is no operation on a cage.');
    expect(bad({ steps: [{ operation: 'crease', on: [{ find: 'the best ones' }] }] })).toThrow(/This is no routine/);
    expect(bad({ steps: [{ operation: 'crease', params: { sharpness: '$depth' } }] })).toThrow(
      'Step 1 asks for the number "depth", which the routine does not have.'
    );
  });
});
