import { describe, expect, it } from 'vitest';
import { emptySelection, selectFaces } from '../select/selection.ts';
import { readJobFile, writeJobFile } from './job-file.ts';
import { Logbook, type NewEntry } from './logbook.ts';

const box: NewEntry = {
  operation: 'start-shape',
  part: 'a',
  params: { shape: 'box', width: 40, height: 40, depth: 40, across: 4, up: 4, deep: 4 },
  selection: emptySelection(),
  makes: { name: 'Block', kind: 'cage' }
};
const extrude = (face: number, distance: number): NewEntry => ({
  operation: 'extrude',
  part: 'a',
  params: { distance },
  selection: selectFaces([face])
});
const places = (logbook: Logbook) => [...logbook.state.parts[0].cage!.toPolygons().positions];
const fileOf = (logbook: Logbook) => writeJobFile({ ...logbook.settings, name: 'Job', cursor: logbook.cursor, entries: logbook.entries });

/** A block with two ways on from its second entry. */
function forked() {
  const logbook = new Logbook();
  for (const entry of [box, extrude(0, 5), extrude(6, 5)]) logbook.add(entry);
  const first = places(logbook);
  logbook.branchOff(2, 'Deeper');
  logbook.add(extrude(6, 12));
  logbook.add(extrude(12, 3));
  return { logbook, first, second: places(logbook) };
}

describe('branches', () => {
  it('keep both ways: each is as it was when it is taken again, and undo takes all of it back', () => {
    const { logbook, first, second } = forked();
    expect([...logbook.branchState('First way')!.parts[0].cage!.toPolygons().positions]).toEqual(first);
    logbook.takeBranch('First way');
    expect([places(logbook), logbook.settings.branch, logbook.settings.branches!.map((b) => b.name)]).toEqual([first, 'First way', ['Deeper']]);
    logbook.takeBranch('Deeper');
    expect(places(logbook)).toEqual(second);
    for (let i = 0; i < 5; i++) logbook.undo();
    expect([places(logbook), logbook.settings.branches ?? []]).toEqual([first, []]);
    for (let i = 0; i < 5; i++) logbook.redo();
    expect(places(logbook)).toEqual(second);
  });

  it('follow what is changed before they leave, and cost only what differs', () => {
    const { logbook } = forked();
    expect(logbook.settings.branches![0].entries).toHaveLength(1);
    logbook.edit(1, { distance: 8 });
    const now = places(logbook);
    logbook.takeBranch('First way');
    expect(logbook.entries[1].params).toMatchObject({ distance: 8 });
    logbook.takeBranch('Deeper');
    expect(places(logbook)).toEqual(now);
    // the entry it left behind is gone: it leaves behind the one before
    logbook.remove(1);
    logbook.takeBranch('First way');
    expect(logbook.entries.map((e) => e.operation)).toEqual(['start-shape', 'extrude']);
  });

  it('go through the job file, and give no number twice', () => {
    const { logbook, first } = forked();
    const read = readJobFile(fileOf(logbook));
    const again = new Logbook(read.entries, read.cursor, { ...logbook.settings, branches: read.branches, branch: read.branch });
    expect(again.settings.branch).toBe('Deeper');
    const added = again.add(extrude(20, 2));
    const all = [...again.entries, ...again.settings.branches!.flatMap((b) => b.entries)].map(({ id }) => id);
    expect(new Set(all).size).toBe(all.length);
    expect(added.id).toBeGreaterThan(5);
    again.takeBranch('First way');
    expect(places(again)).toEqual(first);
  });

  it('refuse a name that is taken, a place nothing comes after, and a way that is not there', () => {
    const { logbook } = forked();
    expect(() => logbook.branchOff(2, 'First way')).toThrow('a way called First way already');
    expect(() => logbook.branchOff(4, 'Third')).toThrow('Nothing comes after');
    expect(() => logbook.takeBranch('Third')).toThrow('no way called Third');
    logbook.dropBranch('First way');
    expect(logbook.settings.branches).toEqual([]);
  });
});
