import { describe, expect, it } from 'vitest';
import { bringIn } from '../formats/bring-in.ts';
import { obj } from '../formats/obj.ts';
import { writeMesh } from '../formats/registry.ts';
import { measure } from '../check/measures.ts';
import { Cage } from '../mesh/cage.ts';
import { box, cylinder } from '../shapes/start-shapes.ts';
import { demoJobs } from '../shapes/demo-jobs.ts';
import { conditionFrom, conditionKinds, conditionsSchema, describeCondition, isMet, type BriefFacts, type Condition } from './conditions.ts';

const factsOf = (cage: Cage, more: Partial<BriefFacts> = {}): BriefFacts => ({ cage, measures: measure(cage), delivered: [], ...more });
const cube = () => Cage.fromPolygons(box({ x: 10, y: 10, z: 10 }, { x: 2, y: 2, z: 2 }));

describe('conditions of a brief', () => {
  it('are measured on the cage, and say what is there where they are not met', () => {
    const facts = factsOf(cube(), { surfaceOff: 0.3, delivered: ['obj'] });
    const met = (condition: Condition) => isMet(condition, facts);
    expect(met({ is: 'quads-only' })).toEqual({ done: true });
    expect(met({ is: 'count', from: 20, to: 30 })).toEqual({ done: true });
    expect(met({ is: 'count', from: 0, to: 20 })).toEqual({ done: false, now: '24' });
    expect(met({ is: 'closed' })).toEqual({ done: true });
    expect(met({ is: 'surface', within: 0.25 })).toEqual({ done: false, now: '0.30 mm' });
    expect(met({ is: 'spread', most: 0.1 })).toEqual({ done: true });
    expect(met({ is: 'poles', most: 2 })).toEqual({ done: false, now: '3' });
    expect(met({ is: 'islands', count: 2 })).toEqual({ done: false, now: '1' });
    expect(met({ is: 'firm', least: 1 })).toEqual({ done: false, now: '0' });
    expect([met({ is: 'delivered', as: 'obj' }), met({ is: 'delivered', as: 'usda' }), met({ is: 'delivered' })].map((m) => m.done)).toEqual([
      true,
      false,
      true
    ]);
  });

  it('are none of them met by a cage that has no faces yet, and tell nothing of it', () => {
    const facts = factsOf(new Cage(), { surfaceOff: 0, visible: 0, delivered: ['obj'] });
    const demanded: Condition[] = demoJobs.flatMap(({ doneWhen }) => doneWhen);
    expect(demanded.length).toBeGreaterThan(20);
    for (const condition of [...demanded, { is: 'poles', most: 5 } as const]) expect(isMet(condition, facts)).toEqual({ done: false });
  });

  it('find symmetry within what is asked, loops of so many edges, firm edges and openings', () => {
    const cage = cube();
    cage.positions[0] += 0.01;
    expect(isMet({ is: 'symmetric', axis: 'X', within: 0.02 }, factsOf(cage)).done).toBe(true);
    expect(isMet({ is: 'symmetric', axis: 'X', within: 0.001 }, factsOf(cage))).toEqual({ done: false, now: '2 vertices have no partner' });
    const tube = Cage.fromPolygons(cylinder(5, 10, 12, 3, false));
    expect([12, 42].map((edges) => isMet({ is: 'loop', edges }, factsOf(tube)).done)).toEqual([true, false]);
    expect(isMet({ is: 'holes', least: 2 }, factsOf(tube))).toEqual({ done: true });
    tube.setValue('crease', 0, 2);
    expect(isMet({ is: 'firm', least: 1 }, factsOf(tube))).toEqual({ done: true });
  });

  it('are none of them met where there is no cage, or nothing is measured yet', () => {
    expect(isMet({ is: 'quads-only' }, { delivered: [] })).toEqual({ done: false });
    expect(isMet({ is: 'surface', within: 1 }, factsOf(cube()))).toEqual({ done: false });
  });

  it('are there for every demo job, as valid data that is not all met at the start', () => {
    for (const { id, doneWhen, kind, make } of demoJobs) {
      expect(conditionsSchema.validate(doneWhen).error, id).toBeUndefined();
      expect(new Set(doneWhen.map(describeCondition)).size, id).toBe(doneWhen.length);
      // as it is brought in, repaired
      const { mesh } = bringIn(writeMesh(make(), obj, { name: id }), `${id}.obj`, {});
      const facts = kind === 'cage' ? factsOf(Cage.fromPolygons(mesh)) : { delivered: [] };
      expect(doneWhen.filter((c) => !isMet(c, facts).done).length, id).toBeGreaterThan(1);
    }
  });

  it('refuse unknown kinds and wrong numbers', () => {
    for (const wrong of [[{ is: 'magic' }], [{ is: 'count', from: 1 }], [{ is: 'surface', within: -1 }], [{ is: 'quads-only', more: 1 }]])
      expect(conditionsSchema.validate(wrong).error).toBeDefined();
  });

  it('are made by a form: what its fields begin with can be taken, what is wrong is said', () => {
    for (const { is, fields } of conditionKinds) {
      const made = conditionFrom(is, Object.fromEntries(fields.map(({ name, initial }) => [name, initial])));
      expect('problem' in made, is).toBe(false);
      expect(conditionsSchema.validate([made]).error, is).toBeUndefined();
      expect(describeCondition(made as Condition).length).toBeGreaterThan(4);
    }
    expect(conditionFrom('count', { from: 10, to: '' })).toEqual({ problem: 'To: a number of 0 or more is needed.' });
    expect(conditionFrom('count', { from: 10, to: 5 })).toEqual({ problem: 'From must not be more than To.' });
    expect(conditionFrom('surface', { within: -1 })).toEqual({ problem: 'Within: a number of 0 or more is needed.' });
    expect(conditionFrom('symmetric', { axis: 'Q', within: 1 })).toEqual({ problem: 'In: a choice is needed.' });
    expect(conditionFrom('delivered', { as: 'obj' })).toEqual({ is: 'delivered', as: 'obj' });
  });
});
