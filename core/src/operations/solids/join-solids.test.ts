import { beforeAll, describe, expect, it } from 'vitest';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { enclosedVolume } from '../../mesh/topology.ts';
import { emptySelection } from '../../select/selection.ts';
import { box, cylinder, plane } from '../../shapes/start-shapes.ts';
import { loadSolids } from '../../solids/engine.ts';
import { applyPartsOperation } from '../apply.ts';
import { type Params, type PartsOperation } from '../operation.ts';
import { operationById } from '../registry.ts';

beforeAll(() => loadSolids());

const block = (n = 1) => Cage.fromPolygons(box({ x: 10, y: 10, z: 10 }, { x: n, y: n, z: n }));
const rod = (sides = 12) => Cage.fromPolygons(cylinder(2, 30, sides, 1, true));
const named = (name: string, cage: Cage) => ({ id: name, name, cage });
/** Does it to a block of 10 mm and a square rod of 2 x 2 x 30 mm through its middle. */
const done = (id: string, params: Params = {}) =>
  applyPartsOperation(
    operationById(id) as PartsOperation,
    named('Stage', block()),
    [named('Rod', Cage.fromPolygons(box({ x: 2, y: 30, z: 2 }, { x: 1, y: 1, z: 1 })))],
    emptySelection(),
    params
  );

describe('subtract, join and common as operations', () => {
  it.each([
    ['subtract', 1000 - 40],
    ['join-solids', 1000 + 80],
    ['common', 40]
  ])('%s has the volume it should, and takes the other part in', (id, volume) => {
    const { cage, gone, made, notes } = done(id);
    assertValid(cage);
    expect(enclosedVolume(cage)).toBeCloseTo(volume, 6);
    expect([gone, made]).toEqual([['Rod'], []]);
    expect(notes.join(' ')).toMatch(/faces? stayed as they were, \d+ are pieces/);
  });

  it('leaves the other part where that is asked for', () => {
    expect(done('subtract', { keep: true }).gone).toEqual([]);
  });

  it('refuses open shells with the place, and a missing part', () => {
    const subtract = operationById('subtract') as PartsOperation;
    const named = (name: string, cage: Cage) => ({ id: name, name, cage });
    const stage = named('Stage', block());
    const open = named('Panel', Cage.fromPolygons(plane(5, 5, 2, 2)));
    expect(() => applyPartsOperation(subtract, stage, [open], emptySelection(), {})).toThrow(
      /Panel is open: 1 border, the first of 8 edges at \(.*Fill its holes/
    );
    expect(() => applyPartsOperation(subtract, stage, [], emptySelection(), {})).toThrow(/no second cage/);
    expect(() => applyPartsOperation(subtract, stage, [named('Hull', block(2)), named('Rod', rod())], emptySelection(), {})).toThrow(
      /Nothing would be left/
    );
  });
});
