import { database, type Database, type FileRecord } from './database.ts';

/** Files kept at most, bytes of one, and bytes of all. */
const [MOST, MOST_BYTES, MOST_BYTES_IN_ALL] = [6, 60e6, 150e6];

/** What the jobs page shows of a file that was brought in before. */
export type RecentFile = Omit<FileRecord, 'content'>;

/** Keeps a file that was brought in, so that it can be brought in again; the oldest go. Too large ones are not kept. */
export async function noteFile(file: File, db: Database = database()): Promise<void> {
  if (file.size > MOST_BYTES) return;
  const content = new Uint8Array(await file.arrayBuffer());
  await db.transaction('rw', db.files, async () => {
    await db.files.put({ name: file.name, size: file.size, at: new Date().toISOString(), content });
    const newest = (await db.files.orderBy('at').reverse().toArray()) as FileRecord[];
    let bytes = 0;
    const gone = newest.filter(({ size }, i) => (bytes += size) > MOST_BYTES_IN_ALL || i >= MOST);
    await db.files.bulkDelete(gone.map(({ name }) => name));
  });
}

/** Files brought in before, the last one first. */
export async function recentFiles(db: Database = database()): Promise<RecentFile[]> {
  const newest = await db.files.orderBy('at').reverse().toArray();
  return newest.map(({ content: _content, ...rest }) => rest);
}

/** @returns nothing where it is not kept any more */
export async function openRecent(name: string, db: Database = database()): Promise<File | undefined> {
  const kept = await db.files.get(name);
  return kept && new File([kept.content as Uint8Array<ArrayBuffer>], kept.name);
}

export const forgetFile = (name: string, db: Database = database()): Promise<void> => db.files.delete(name);
