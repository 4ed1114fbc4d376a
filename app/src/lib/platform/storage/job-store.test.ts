import 'fake-indexeddb/auto';
import Dexie from 'dexie';
import { beforeEach, describe, expect, it } from 'vitest';
import { documentSettings, emptySelection, Logbook, type Entry } from '@ulvrin/core';
import { SaveQueue } from '../../document/save-queue.ts';
import { Database } from './database.ts';
import {
  createJob,
  deleteJob,
  duplicateJob,
  emptyTrash,
  JobChangedElsewhere,
  JobDeleted,
  listJobs,
  listTemplates,
  listTrash,
  loadJob,
  renameJob,
  replaceContent,
  restoreJob,
  saveJob,
  savePicture,
  type Writing
} from './job-store.ts';

let db: Database;
let count = 0;
beforeEach(() => {
  db = new Database(`test ${count++}`);
});

const entry = (id: number): Entry => ({
  id,
  operation: 'bring-in',
  part: 'p',
  params: { file: 'a.obj' },
  selection: emptySelection(),
  cast: { positions: Float64Array.of(0.1, 2, 3), faceStart: Int32Array.of(0), faceVertices: new Int32Array(0) },
  notes: ['made up'],
  at: '2026-01-01T00:00:00.000Z'
});

const writing = (job: Writing['job'], more: Partial<Writing> = {}): Writing => ({ job, entries: [], gone: [], steps: [], goneSteps: [], ...more });

describe('jobs in the browser', () => {
  it('come back as they were, arrays as binary, with a journal that shares them', async () => {
    await createJob({ id: 'a', name: 'Lamp' }, [entry(1), entry(2)], { level: 3 }, db);
    const stored = (await loadJob('a', db))!;
    expect(stored.entries).toEqual([entry(1), entry(2)]);
    expect(stored.entries[0].cast!.positions).toBeInstanceOf(Float64Array);
    expect(stored.job).toMatchObject({ name: 'Lamp', cursor: 2, revision: 1, order: [1, 2] });
    expect(stored.view).toEqual({ level: 3 });
    expect(stored.journal).toMatchObject({ position: 2, steps: [{ changes: [{ in: [entry(1)] }] }, { changes: [{ in: [entry(2)] }] }] });
    expect(await db.steps.toArray()).not.toContainEqual(
      expect.objectContaining({ changes: [expect.objectContaining({ in: [expect.objectContaining({ cast: expect.anything() })] })] })
    );
    expect(await loadJob('b', db)).toBeUndefined();
  });

  it('have their other ways beside their entries, with what these brought in; a listed job and its steps hold none of that', async () => {
    const logbook = new Logbook([entry(1), entry(2), entry(3)], 3, documentSettings({ name: 'Lamp' }));
    logbook.branchOff(1, 'slim');
    const { branches } = logbook.settings;
    await createJob({ ...logbook.settings, id: 'a' }, logbook.entries, undefined, db);
    const first = (await loadJob('a', db))!;
    expect(first.branches).toEqual(branches);
    const { entries } = logbook;
    const queue = new SaveQueue(
      first,
      first.job.revision,
      () => ({ job: first.job, entries, branches: logbook.settings.branches, journal: logbook.journal }),
      (what, revision) => saveJob(what, revision, db),
      () => undefined
    );
    await queue.save();
    expect(JSON.stringify(await db.jobs.toArray())).not.toContain('made up');
    expect(JSON.stringify(await db.steps.toArray())).not.toContain('positions');
    logbook.dropBranch(branches![0].name);
    await queue.save();
    // forgotten, it still comes back with an undo
    const stored = (await loadJob('a', db))!;
    expect(stored.branches).toEqual([]);
    const again = new Logbook(stored.entries, stored.job.cursor, documentSettings({ ...stored.job, branches: stored.branches }), stored.journal);
    again.undo();
    expect(again.settings.branches).toEqual(branches);
  });

  it('write only what changed and take out what is gone, and count their revisions', async () => {
    const job = await createJob({ id: 'a', name: 'Lamp' }, [entry(1), entry(2), entry(3)], undefined, db);
    const changed = writing({ ...job, cursor: 2, order: [1, 2] }, { entries: [{ ...entry(2), notes: ['changed'] }], gone: [3] });
    expect(await saveJob(changed, 1, db)).toBe(2);
    const { entries, job: after } = (await loadJob('a', db))!;
    expect(entries.map((e) => [e.id, e.notes[0]])).toEqual([
      [1, 'made up'],
      [2, 'changed']
    ]);
    expect([after.cursor, after.revision]).toEqual([2, 2]);
  });

  it('are not written by a page that does not know the last state, nor in the trash, not even in part', async () => {
    const job = await createJob({ id: 'a', name: 'Lamp' }, [entry(1)], undefined, db);
    await saveJob(writing(job), 1, db);
    const late = writing({ ...job, name: 'Late' }, { entries: [entry(2)] });
    await expect(saveJob(late, 1, db)).rejects.toThrow(JobChangedElsewhere);
    await deleteJob('a', db);
    await expect(saveJob(late, 2, db)).rejects.toThrow(JobDeleted);
    await emptyTrash(['a'], db);
    await expect(saveJob(late, 2, db)).rejects.toThrow(JobDeleted);
    expect([await db.jobs.count(), await db.entries.count(), await db.steps.count()]).toEqual([0, 0, 0]);
  });

  it('whose rows have a hole show it', async () => {
    await createJob({ id: 'a', name: 'Lamp' }, [entry(1), entry(2)], undefined, db);
    await db.entries.delete(['a', 1]);
    const { entries } = (await loadJob('a', db))!;
    expect(entries.map((e) => e.id)).toEqual([1, 2]);
    expect(new Logbook(entries).state.parts).toEqual([]);
  });

  it('are renamed, duplicated with their picture, deleted and restored', async () => {
    await createJob({ id: 'a', name: 'Lamp', demo: 'lamp' }, [entry(1)], undefined, db);
    await savePicture('a', 'data:,x', db);
    await renameJob('a', 'Lantern', db);
    const copy = (await duplicateJob('a', {}, db))!;
    expect(copy).toMatchObject({ name: 'Lantern copy', demo: undefined });
    expect((await loadJob(copy.id, db))!.entries).toEqual([entry(1)]);
    await deleteJob('a', db);
    expect((await listJobs(db)).map((j) => [j.name, j.picture])).toEqual([['Lantern copy', 'data:,x']]);
    expect((await listTrash(db)).map((j) => j.name)).toEqual(['Lantern']);
    await restoreJob('a', db);
    expect([(await listJobs(db)).length, (await listTrash(db)).length]).toEqual([2, 0]);
  });

  it('are started from a template, which stays as it is and is not among the jobs', async () => {
    await createJob({ id: 'a', name: 'Lamp' }, [entry(1)], undefined, db);
    const template = (await duplicateJob('a', { name: 'Lamp', template: true }, db))!;
    expect((await listJobs(db)).map((j) => j.id)).toEqual(['a']);
    const started = (await duplicateJob(template.id, { name: 'Lamp' }, db))!;
    expect((await listTemplates(db)).map((j) => j.id)).toEqual([template.id]);
    expect((await listJobs(db)).map((j) => j.id).sort()).toEqual(['a', started.id].sort());
    expect((await loadJob(started.id, db))!.entries).toEqual([entry(1)]);
  });

  it('stay in the trash for thirty days, and go for good after', async () => {
    for (const id of ['a', 'b']) await createJob({ id, name: id }, [entry(1)], undefined, db);
    await savePicture('a', 'data:,old', db);
    for (const id of ['a', 'b']) await deleteJob(id, db);
    await db.jobs.update('a', { deleted: new Date(Date.now() - 31 * 24 * 3600 * 1000).toISOString() });
    await emptyTrash(undefined, db);
    expect((await listTrash(db)).map((j) => j.id)).toEqual(['b']);
    expect([await db.entries.count(), await db.pictures.count()]).toEqual([1, 0]);
  });

  it('keep what they were in the trash when they are reset', async () => {
    await createJob({ id: 'a', name: 'Lamp', demo: 'lamp' }, [entry(1), entry(2)], undefined, db);
    const reset = await replaceContent('a', [entry(7)], { faces: 1, quads: 1, triangles: 0 }, { bench: 3 }, db);
    expect(reset).toMatchObject({ id: 'a', name: 'Lamp', demo: 'lamp', revision: 2, order: [7] });
    expect((await loadJob('a', db))!.entries).toEqual([entry(7)]);
    const [before] = await listTrash(db);
    expect(before.name).toBe('Lamp before the reset');
    await restoreJob(before.id, db);
    expect((await loadJob(before.id, db))!.entries).toEqual([entry(1), entry(2)]);
  });

  it('of earlier versions are brought along: picture and view get tables of their own, deleted ones a date', async () => {
    const name = `old ${count}`;
    const old = new Dexie(name);
    old.version(1).stores({ jobs: 'id, changed', entries: '[job+id], job' });
    const row = { changed: '2026-01-01', cursor: 1, counts: { faces: 1, quads: 1, triangles: 0 }, picture: 'data:,old' };
    const view = { level: 3, sets: [{ name: 'rim', part: 'p', selection: emptySelection() }], hidden: ['p'] };
    await old.table('jobs').bulkPut([
      { ...row, id: 'a', name: 'Lamp', view },
      { ...row, id: 'b', name: 'Gone', deleted: true }
    ]);
    await old.table('entries').bulkPut([2, 1].map((id) => ({ ...entry(id), job: 'a' })));
    old.close();
    const now = new Database(name);
    const stored = (await loadJob('a', now))!;
    expect([stored.entries, stored.view]).toEqual([[entry(1), entry(2)], { level: 3 }]);
    expect(stored.job).toMatchObject({ revision: 1, order: [1, 2], sets: view.sets, hidden: ['p'], position: 1 });
    expect((await listJobs(now)).map((j) => [j.name, j.picture])).toEqual([['Lamp', 'data:,old']]);
    expect((await listTrash(now)).map((j) => j.name)).toEqual(['Gone']);
    expect(await now.jobs.get('a')).not.toHaveProperty('view');
  });
});
