import 'fake-indexeddb/auto';
import { exampleRoutines, writeJobFile } from '@ulvrin/core';
import { describe, expect, it } from 'vitest';
import { Database } from './database.ts';
import { createJob, emptyTrash } from './job-store.ts';
import { forgetRoutine, keepRoutine, ownRoutines, routineIn } from './routines.ts';
import { keepVersion, openVersion, thinned, versionsOf } from './versions.ts';

const [firm] = exampleRoutines;
const job = (name: string) => writeJobFile({ name, cursor: 0, entries: [] });
const hours = (n: number) => new Date(Date.UTC(2026, 10, 20) + n * 3_600_000);

describe('routines of the user', () => {
  it('are kept by name, and come back from the file they were exported as', async () => {
    const db = new Database('routines');
    await keepRoutine({ ...firm, name: 'Mine' }, db);
    await keepRoutine({ ...firm, name: 'Mine', about: 'Changed' }, db);
    expect(await ownRoutines(db)).toEqual([{ ...firm, name: 'Mine', about: 'Changed' }]);
    expect(routineIn(JSON.stringify(firm))).toEqual(firm);
    expect(() => routineIn('[')).toThrow('no JSON');
    expect(() => routineIn('{}')).toThrow('This is no routine');
    await forgetRoutine('Mine', db);
    expect(await ownRoutines(db)).toEqual([]);
  });
});

describe('versions of a job', () => {
  it('are kept as whole jobs, and opened as they were', async () => {
    const db = new Database('versions');
    const first = await keepVersion('a', job('Cleat, first'), { name: 'first', entries: 0 }, db, hours(0));
    await keepVersion('a', job('Cleat, later'), { entries: 0 }, db, hours(1));
    await keepVersion('b', job('Buoy'), { entries: 0 }, db, hours(2));
    expect((await versionsOf('a', db)).map(({ name }) => name)).toEqual([undefined, 'first']);
    expect((await openVersion(first.id, db)).name).toBe('Cleat, first');
    await expect(openVersion('none', db)).rejects.toThrow('not kept any more');
    // they go with their job
    await createJob({ id: 'a', name: 'a', deleted: hours(0).toISOString() }, [], undefined, db);
    await emptyTrash(['a'], db);
    expect([await versionsOf('a', db), (await versionsOf('b', db)).length]).toEqual([[], 1]);
    expect(await db.versionContents.count()).toBe(1);
  });

  it('that were kept by themselves are thinned out: all of a day, one a day for a month, named ones for good', async () => {
    const db = new Database('thinned');
    for (let h = 0; h < 50 * 24; h += 6) await keepVersion('a', job('a'), { entries: h, ...(h === 6 && { name: 'by hand' }) }, db, hours(h));
    const left = await versionsOf('a', db);
    const last = 50 * 24 - 6;
    expect(left.filter(({ entries }) => entries > last - 24).length).toBe(4);
    expect(left.length).toBeLessThan(4 + 32 + 2);
    expect(left.length).toBeGreaterThan(4 + 27);
    expect(left.at(-1)?.name).toBe('by hand');
    expect(thinned(left, hours(last))).toEqual([]);
  });
});
