import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { amount } from '../../testing/amount.ts';
import { emptySelection, selectFaces } from '../select/selection.ts';
import { OperationRefused } from '../operations/refusal.ts';
import { readJobFile, writeJobFile } from './job-file.ts';
import { documentSettings } from './journal.ts';
import { Logbook, type NewEntry } from './logbook.ts';

const box = (part: string, across = 4): NewEntry => ({
  operation: 'start-shape',
  part,
  params: { shape: 'box', width: 40, height: 40, depth: 40, across, up: 4, deep: 4 },
  selection: emptySelection(),
  makes: { name: part, kind: 'cage' }
});
const extrude = (part: string, face: number, distance = 5): NewEntry => ({
  operation: 'extrude',
  part,
  params: { distance },
  selection: selectFaces([face])
});
const move = (part: string, face: number, x: number): NewEntry => ({ operation: 'move', part, params: { x }, selection: selectFaces([face]) });
const bytesOf = (logbook: Logbook) =>
  writeJobFile({
    ...logbook.settings,
    name: 'Job',
    cursor: logbook.cursor,
    entries: logbook.entries.map((e) => ({ ...e, at: '2026-01-01T00:00:00.000Z' }))
  });
const placesOf = (logbook: Logbook) =>
  logbook.state.parts.map(({ id, cage }) => `${id} ${cage!.faceCount} ${[...cage!.toPolygons().positions].map((x) => x.toFixed(4)).join()}`);
const problems = (logbook: Logbook) => (void logbook.state, logbook.entries.map(({ problem }) => problem !== undefined));

/** A block with three entries on it. */
function started(): Logbook {
  const logbook = new Logbook();
  logbook.add(box('a'));
  logbook.add(extrude('a', 0));
  logbook.add(move('a', 20, 3));
  return logbook;
}

describe('editing a logbook', () => {
  it('does several things as one step, all of them or none, and what was undone before stays to be done again', () => {
    const logbook = started();
    logbook.undo();
    const [before, { journal }] = [placesOf(logbook), logbook];
    const fails = () => {
      logbook.add(move('a', 20, 7));
      logbook.add(move('a', 20, 0));
    };
    expect(() => logbook.together('Twice', fails)).toThrow(OperationRefused);
    expect(placesOf(logbook)).toEqual(before);
    expect(logbook.journal).toBe(journal);
    expect(logbook.redoes).toBeDefined();
    logbook.together('Twice', () => [1, 2].forEach(() => logbook.add(extrude('a', 0))));
    const after = placesOf(logbook);
    expect([logbook.cursor, logbook.undoes, logbook.redoes]).toEqual([4, 'Twice', undefined]);
    logbook.undo();
    expect(placesOf(logbook)).toEqual(before);
    logbook.redo();
    expect(placesOf(logbook)).toEqual(after);
  });

  it('is put back to an earlier version as one step', () => {
    const logbook = started();
    const version = readJobFile(bytesOf(logbook));
    const early = placesOf(logbook);
    logbook.add(extrude('a', 3));
    logbook.remove(1);
    logbook.change('Rename', { name: 'Later' });
    const [late, names] = [placesOf(logbook), logbook.settings.name];
    logbook.restore('Restore the version', { ...documentSettings({ ...version, name: 'Early' }), entries: version.entries, cursor: version.cursor });
    expect([placesOf(logbook), logbook.settings.name]).toEqual([early, 'Early']);
    const added = logbook.add(move('a', 20, 1));
    expect(logbook.entries.filter(({ id }) => id === added.id)).toHaveLength(1);
    logbook.undo();
    logbook.undo();
    expect([placesOf(logbook), logbook.settings.name]).toEqual([late, names]);
  });

  it('disables an entry, and enables it again with the same outcome', () => {
    const logbook = started();
    const before = placesOf(logbook);
    const file = bytesOf(logbook);
    logbook.disable(1, true);
    expect(logbook.state.parts[0].cage!.faceCount).toBe(96);
    expect(problems(logbook)).toEqual([false, false, false]);
    expect(readJobFile(bytesOf(logbook)).entries[1].disabled).toBe(true);
    logbook.disable(1, false);
    expect(placesOf(logbook)).toEqual(before);
    logbook.undo();
    logbook.undo();
    expect(bytesOf(logbook)).toEqual(file);
  });

  it('inserts an entry; those after it work on the same places, or are flagged with the reason', () => {
    const logbook = started();
    logbook.insert(1, move('a', 50, 2));
    expect(logbook.entries.map((e) => e.operation)).toEqual(['start-shape', 'move', 'extrude', 'move']);
    expect([logbook.cursor, problems(logbook)]).toEqual([4, [false, false, false, false]]);
    logbook.insert(1, { operation: 'delete', part: 'a', params: {}, selection: selectFaces([20]) });
    expect(problems(logbook)).toEqual([false, false, false, false, true]);
    expect(logbook.entries[4].problem).toMatch(/^Move: /);
    // what cannot run there changes nothing
    const file = bytesOf(logbook);
    expect(() => logbook.insert(1, { ...extrude('a', 0), params: { distance: 'far' } })).toThrow();
    expect(bytesOf(logbook)).toEqual(file);
  });

  it('moves entries, has one work on something else, and names it', () => {
    const logbook = started();
    logbook.move(2, 1);
    expect(logbook.entries.map((e) => e.operation)).toEqual(['start-shape', 'move', 'extrude']);
    expect(problems(logbook)).toEqual([false, false, false]);
    logbook.repick(2, selectFaces([3]));
    expect(logbook.entries[2].selection.faces).toEqual([3]);
    logbook.describe(2, { name: ' The spout ', note: 'as the office drew it' });
    expect(logbook.undoes).toBe('Name Extrude');
    expect(readJobFile(bytesOf(logbook)).entries[2]).toMatchObject({ name: 'The spout', note: 'as the office drew it' });
    logbook.describe(2, { group: 'Spouts' });
    expect(logbook.entries[2]).toMatchObject({ name: 'The spout', group: 'Spouts' });
    expect(readJobFile(bytesOf(logbook)).entries[2].group).toBe('Spouts');
    logbook.describe(2, { name: '', note: '', group: ' ' });
    expect(logbook.entries[2].group).toBeUndefined();
    expect(logbook.entries[2]).not.toHaveProperty('name');
    // before the part is made nothing works on it
    logbook.move(0, 2);
    expect(problems(logbook)).toEqual([true, true, false]);
    logbook.undo();
    expect(problems(logbook)).toEqual([false, false, false]);
  });

  it('does again only what depends on a change: entries of other parts are taken as they were', () => {
    const logbook = started();
    logbook.add(box('b'));
    for (let i = 0; i < 6; i++) logbook.add(extrude('b', i, 2));
    void logbook.state;
    const before = logbook.replays;
    const untouched = logbook.part('b')!.cage;
    logbook.edit(1, { distance: 9 });
    void logbook.state;
    // the move after it, and nothing of the other part
    expect(logbook.replays - before).toBeLessThanOrEqual(2);
    expect(logbook.part('b')!.cage).toBe(untouched);
  });

  it('with any edits every later entry works or is flagged, and undoing all of them gives the same bytes', () => {
    const edit = fc.record({ kind: fc.constantFrom('disable', 'remove', 'move', 'insert', 'repick', 'edit'), at: fc.nat(20), to: fc.nat(20) });
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 8 }), (edits) => {
        const logbook = started();
        logbook.add(box('b', 2));
        logbook.add(extrude('b', 1));
        const start = bytesOf(logbook);
        let steps = 0;
        for (const { kind, at, to } of edits) {
          const many = logbook.entries.length;
          if (many === 0) break;
          const i = at % many;
          const before = logbook.journal.position;
          try {
            if (kind === 'disable') logbook.disable(i, !logbook.entries[i].disabled);
            else if (kind === 'remove') logbook.remove(i);
            else if (kind === 'move') logbook.move(i, to % many);
            else if (kind === 'insert') logbook.insert(i, extrude(to % 2 ? 'a' : 'b', to, 1));
            else if (kind === 'repick') logbook.repick(i, selectFaces([to]));
            else logbook.edit(i, { ...logbook.entries[i].params, distance: to + 1 });
          } catch {
            // refused: nothing has changed
            expect(logbook.journal.position).toBe(before);
          }
          steps += logbook.journal.position - before;
          void logbook.state;
          for (const part of logbook.state.parts) expect(part.cage!.faceCount).toBeGreaterThan(0);
          for (const { problem } of logbook.entries) expect(problem ?? '').not.toMatch(/failed unexpectedly/);
        }
        for (let k = 0; k < steps; k++) logbook.undo();
        void logbook.state;
        expect(bytesOf(logbook)).toEqual(start);
      }),
      { numRuns: amount(40, 1000) }
    );
  });
});

describe('locked parts', () => {
  it('are changed by nothing, not even from other parts; others are; undo and files keep what is locked', () => {
    const logbook = new Logbook();
    logbook.add(box('a'));
    logbook.add(box('b'));
    logbook.change('Lock a', { locked: ['a'] });
    const before = bytesOf(logbook);
    expect(() => logbook.add(extrude('a', 0))).toThrow('a is locked.');
    expect(() => logbook.add({ operation: 'combine', part: 'b', params: { with: 'a' }, selection: emptySelection() })).toThrow(OperationRefused);
    expect(() => logbook.add({ operation: 'remove-part', part: 'a', params: {}, selection: emptySelection() })).toThrow('a is locked.');
    expect(() => logbook.insert(1, extrude('a', 0))).toThrow('a is locked.');
    expect(() => logbook.edit(0, { ...box('a').params, width: 80 })).toThrow('a is locked.');
    for (const change of [() => logbook.remove(0), () => logbook.disable(0, true), () => logbook.move(0, 1)]) expect(change).toThrow('a is locked.');
    expect(bytesOf(logbook)).toEqual(before);
    logbook.add(extrude('b', 0));
    logbook.undo();
    expect(readJobFile(bytesOf(logbook)).locked).toEqual(['a']);
    logbook.undo();
    logbook.add(extrude('a', 0));
    expect(logbook.settings.locked).toEqual([]);
  });
});
