import { database, type Database, type FileRecord } from './database.ts';

/** Files kept at most, bytes of one, and bytes of all. */
const [MOST, MOST_BYTES, MOST_BYTES_IN_ALL] = [6, 60e6, 150e6];

/** Keeps a file that was brought in, so that it can be brought in again; the oldest go. Too large ones are not kept. */
export async function noteFile(file: File, db: Database = database()): Promise<void> {
  if (file.size > MOST_BYTES) return;
  const { name, size } = file;
  const content = new Uint8Array(await file.arrayBuffer());
  await db.transaction('rw', db.files, db.contents, async () => {
    await db.files.put({ name, size, at: new Date().toISOString() });
    await db.contents.put({ name, content });
    let bytes = 0;
    const gone = (await recentFiles(db)).filter((recent, i) => (bytes += recent.size) > MOST_BYTES_IN_ALL || i >= MOST);
    for (const recent of gone) await forgetFile(recent.name, db);
  });
}

/** Files brought in before, the last one first. */
export const recentFiles = (db: Database = database()): Promise<FileRecord[]> => db.files.orderBy('at').reverse().toArray();

/** @returns nothing where it is not kept any more */
export async function openRecent(name: string, db: Database = database()): Promise<File | undefined> {
  const kept = await db.contents.get(name);
  return kept && new File([kept.content], name);
}

export const forgetFile = (name: string, db: Database = database()): Promise<void> =>
  db.transaction('rw', db.files, db.contents, async () => {
    await db.files.delete(name);
    await db.contents.delete(name);
  });
