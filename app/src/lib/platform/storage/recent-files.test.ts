import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import { Database } from './database.ts';
import { forgetFile, noteFile, openRecent, recentFiles } from './recent-files.ts';

let db: Database;
let n = 0;
beforeEach(() => (db = new Database(`recent-${n++}`)));

/** One a millisecond at least, so that their order is known. */
async function note(name: string, size = 3) {
  await new Promise((later) => setTimeout(later, 2));
  await noteFile(new File([new Uint8Array(size).fill(7)], name), db);
}

describe('files brought in before', () => {
  it('can be opened again, the last one first, each once', async () => {
    for (const name of ['horn.stl', 'lamp.obj', 'horn.stl']) await note(name);
    expect((await recentFiles(db)).map(({ name, size }) => [name, size])).toEqual([
      ['horn.stl', 3],
      ['lamp.obj', 3]
    ]);
    const file = await openRecent('lamp.obj', db);
    expect([file!.name, [...new Uint8Array(await file!.arrayBuffer())]]).toEqual(['lamp.obj', [7, 7, 7]]);
  });

  it('are six at most, and none that is too large', async () => {
    for (let i = 0; i < 8; i++) await note(`part-${i}.ply`);
    await note('scan.ply', 60e6 + 1);
    expect((await recentFiles(db)).map(({ name }) => name)).toEqual([7, 6, 5, 4, 3, 2].map((i) => `part-${i}.ply`));
    expect(await db.contents.count()).toBe(6);
  });

  it('can be forgotten', async () => {
    await note('horn.stl');
    await forgetFile('horn.stl', db);
    expect([await recentFiles(db), await db.contents.count()]).toEqual([[], 0]);
    expect(await openRecent('horn.stl', db)).toBeUndefined();
  });
});
