import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyCage } from '../../testing/random-meshes.ts';
import { Cage } from '../mesh/cage.ts';
import { applyOperation, validParams } from '../operations/apply.ts';
import { worksLive, type CageOperation, type Params } from '../operations/operation.ts';
import { operationById } from '../operations/registry.ts';
import { selectVertices } from '../select/selection.ts';
import { box, plane } from '../shapes/start-shapes.ts';
import { type LiveEdit } from './live-edit.ts';

const operation = (id: string) => operationById(id) as CageOperation;
const begun = (id: string, cage: Cage, picked: number[], params: Params): LiveEdit =>
  operation(id).live!.begin(cage, selectVertices(picked), validParams(operation(id), params));
const step = (id: string, edit: LiveEdit, params: Params) => edit.step(validParams(operation(id), params));

describe('vertices moved live', () => {
  it('come to lie where the operation would put them, however many steps led there', () => {
    const number = fc.double({ min: -40, max: 40, noNaN: true });
    const settings = fc.record({
      falloff: fc.constantFrom('none', 'space', 'surface'),
      radius: fc.double({ min: 1, max: 30, noNaN: true }),
      frame: fc.constantFrom('world', 'selection'),
      pivot: fc.constantFrom('mean', 'middle', 'origin')
    });
    fc.assert(
      fc.property(
        anyCage,
        fc.constantFrom('move', 'rotate', 'scale'),
        settings,
        fc.array(fc.record({ x: number, y: number, z: number, beside: number }), { minLength: 1, maxLength: 4 }),
        (cage, id, common, handled) => {
          // the handle changes what is beside an operation's own numbers as well
          const { turn, size, shift } = operation(id).handle!;
          const others = [turn[1], size[2], shift[0]].filter((name) => !['x', 'y', 'z'].includes(name));
          const steps = handled.map(({ beside, ...own }) => ({ ...own, ...Object.fromEntries(others.map((name) => [name, beside])) }));
          const picked = [...cage.vertices()].slice(0, 3);
          const edit = begun(id, cage, picked, { ...common, ...steps[0] });
          for (const numbers of steps) step(id, edit, { ...common, ...numbers });
          const done = applyOperation(operation(id), cage, selectVertices(picked), { ...common, ...steps.at(-1) });
          expect(edit.cage.positions).toEqual(done.cage.positions);
        }
      ),
      { numRuns: 60 }
    );
  });

  it('leave the cage they began on as it was, and tell what has moved', () => {
    const cage = Cage.fromPolygons(box({ x: 10, y: 10, z: 10 }, { x: 2, y: 2, z: 2 }));
    const before = cage.positions.slice();
    const edit = begun('move', cage, [0, 5], {});
    const { moved, topologyChanged } = step('move', edit, { x: 3 });
    expect([[...moved].sort((a, b) => a - b), topologyChanged]).toEqual([[0, 5], false]);
    expect(cage.positions).toEqual(before);
    for (const v of cage.vertices()) expect(edit.cage.position(v)[0] - cage.position(v)[0]).toBe(moved.includes(v) ? 3 : 0);
  });

  it('take their counterparts with them, and say how many', () => {
    const cage = Cage.fromPolygons(plane(8, 8, 4, 4));
    const edge = [...cage.vertices()].find((v) => cage.position(v)[0] === 4)!;
    const edit = begun('move', cage, [edge], { mirrored: 'X' });
    const { moved } = step('move', edit, { mirrored: 'X', x: 1, y: 2 });
    expect(moved).toHaveLength(2);
    const [own, image] = [edge, [...moved].find((v) => v !== edge)!].map((v) => edit.cage.position(v));
    expect(image).toEqual([-own[0], own[1], own[2]]);
    expect(edit.notes.join()).toMatch(/^1 mirror partners across X/);
  });

  it('are run as usual where they would be welded', () => {
    expect([worksLive(operation('move'), {}), worksLive(operation('move'), { weld: true })]).toEqual([true, false]);
    expect(worksLive(operation('extrude'), {})).toBe(false);
  });
});
