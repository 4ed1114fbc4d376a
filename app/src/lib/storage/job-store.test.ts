import 'fake-indexeddb/auto';
import Dexie from 'dexie';
import { beforeEach, describe, expect, it } from 'vitest';
import { emptySelection, type Entry } from '@ulvrin/core';
import { Database } from './database.ts';
import { createJob, deleteJob, duplicateJob, listJobs, loadJob, purgeDeleted, renameJob, restoreJob, saveJob, savePicture } from './job-store.ts';

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

describe('jobs in the browser', () => {
  it('come back as they were, arrays as binary', async () => {
    await createJob({ id: 'a', name: 'Lamp', view: { level: 3 } }, [entry(1), entry(2)], db);
    const stored = await loadJob('a', db);
    expect(stored!.entries).toEqual([entry(1), entry(2)]);
    expect(stored!.entries[0].cast!.positions).toBeInstanceOf(Float64Array);
    expect(stored!.job).toMatchObject({ name: 'Lamp', cursor: 2, view: { level: 3 } });
    expect(await loadJob('b', db)).toBeUndefined();
  });

  it('write only what changed and take out what is gone', async () => {
    const job = await createJob({ id: 'a', name: 'Lamp' }, [entry(1), entry(2), entry(3)], db);
    await saveJob({ ...job, cursor: 2 }, [{ ...entry(2), notes: ['changed'] }], [3], db);
    const { entries, job: after } = (await loadJob('a', db))!;
    expect(entries.map((e) => [e.id, e.notes[0]])).toEqual([
      [1, 'made up'],
      [2, 'changed']
    ]);
    expect(after.cursor).toBe(2);
  });

  it('are renamed, duplicated with their picture, deleted and restored', async () => {
    await createJob({ id: 'a', name: 'Lamp', demo: 'lamp' }, [entry(1)], db);
    await savePicture('a', 'data:,x', db);
    await renameJob('a', 'Lantern', db);
    const copy = (await duplicateJob('a', db))!;
    expect(copy).toMatchObject({ name: 'Lantern copy', demo: undefined });
    expect((await loadJob(copy.id, db))!.entries).toEqual([entry(1)]);
    await deleteJob('a', db);
    expect((await listJobs(db)).map((j) => [j.name, j.picture])).toEqual([['Lantern copy', 'data:,x']]);
    await restoreJob('a', db);
    expect(await listJobs(db)).toHaveLength(2);
    await deleteJob('a', db);
    await purgeDeleted(db);
    expect(await db.entries.where('job').equals('a').count()).toBe(0);
    expect(await db.pictures.count()).toBe(1);
  });

  it('of the first version are brought along: the picture gets a table of its own', async () => {
    const name = `old ${count}`;
    const old = new Dexie(name);
    old.version(1).stores({ jobs: 'id, changed', entries: '[job+id], job' });
    await old
      .table('jobs')
      .put({ id: 'a', name: 'Lamp', changed: '2026-01-01', cursor: 1, counts: { faces: 1, quads: 1, triangles: 0 }, picture: 'data:,old' });
    await old.table('entries').put({ ...entry(1), job: 'a' });
    old.close();
    const now = new Database(name);
    expect((await loadJob('a', now))!.entries).toEqual([entry(1)]);
    const [job] = await listJobs(now);
    expect(job).toMatchObject({ name: 'Lamp', picture: 'data:,old' });
    expect(await now.jobs.get('a')).not.toHaveProperty('picture');
  });
});
