import { describe, expect, it } from 'vitest';
import { Cage } from '../mesh/cage.ts';
import { mooringCleat } from '../shapes/mooring-cleat.ts';
import { channelBuoy } from '../shapes/channel-buoy.ts';
import { repairPolygons } from '../mesh/repair.ts';
import { box, quadSphere } from '../shapes/start-shapes.ts';
import { playRoutine, readRoutine, type Routine } from './routine.ts';

const around = { surface: { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const } };
const firm = {
  format: 'ulvrin-routine',
  version: 1,
  name: 'Firm edges',
  numbers: { angle: { label: 'Sharper than', value: 50, unit: '°' }, sharpness: { label: 'Sharpness', value: 4 } },
  steps: [
    { operation: 'quad-grid', on: [{ find: 'borders' }], optional: true },
    { operation: 'crease', params: { sharpness: '$sharpness' }, on: [{ find: 'sharp', number: 50 }] }
  ]
};
const creased = (cage: Cage, sharpness: number) => [...cage.edges()].filter((e) => cage.value('crease', e) === sharpness).length;

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
