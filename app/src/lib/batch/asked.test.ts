import { describe, expect, it } from 'vitest';
import { destinations, readBatch, readRoutine } from '@ulvrin/core';
import { settingsOf, type AskedOfBatch } from './asked.ts';

const asked: AskedOfBatch = { lays: false, count: 3000, as: 'obj', thins: false, levels: 3, within: 0.1, checks: false };
const routine = readRoutine({ format: 'ulvrin-routine', version: 1, name: 'Fine', steps: [{ operation: 'divide-once' }] });

describe('what the form of a batch asks for', () => {
  it('is taken by a batch, and holds only what is switched on', () => {
    expect(readBatch(settingsOf(asked))).toEqual({ format: 'ulvrin-batch', version: 1, as: 'obj', numbers: {}, check: false });
    const all = readBatch(settingsOf({ ...asked, lays: true, routine, thins: true, checks: true, to: destinations[0] }));
    expect(all).toMatchObject({ quads: { by: 'count', count: 3000 }, levels: { levels: 3, within: 0.1 }, check: true, to: destinations[0] });
    expect(all.routine?.steps).toHaveLength(1);
  });

  it('names a place of one’s own with all that it is', () => {
    const own = { ...destinations[0], id: 'own', name: 'The keeper’s screen' };
    expect(readBatch(settingsOf({ ...asked, to: own })).to).toEqual(own);
  });

  it('with numbers that nothing takes is refused', () => {
    expect(() => readBatch(settingsOf({ ...asked, lays: true, count: -5 }))).toThrow();
    expect(() => readBatch(settingsOf({ ...asked, as: 'paper' }))).toThrow('These are no settings of a batch');
  });
});
