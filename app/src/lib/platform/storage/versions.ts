import { readJobFile, type JobFile } from '@ulvrin/core';
import { database, type Database, type VersionRecord } from './database.ts';

/** Hours between versions that are kept by themselves; hours for which each of them stays, and days for which one a day does. */
export const [EVERY, HOURS, DAYS] = [1, 24, 30];
/** ms */
export const HOUR = 3_600_000;

/** Versions of a job, the last one first, without what is in them. */
export const versionsOf = async (job: string, db: Database = database()): Promise<VersionRecord[]> =>
  (await db.versions.where('job').equals(job).toArray()).sort((a, b) => (a.at < b.at ? 1 : -1));

/** Keeps a job as it is. @param name left out for one that was kept by itself: those are thinned out with time */
export async function keepVersion(
  job: string,
  content: Uint8Array<ArrayBuffer>,
  about: Pick<VersionRecord, 'name' | 'entries'>,
  db: Database = database(),
  now = new Date()
): Promise<VersionRecord> {
  const version: VersionRecord = { id: crypto.randomUUID(), job, at: now.toISOString(), bytes: content.length, ...about };
  await db.transaction('rw', db.versions, db.versionContents, async () => {
    await db.versions.add(version);
    await db.versionContents.add({ id: version.id, content });
    for (const { id } of thinned(await versionsOf(job, db), now)) await forgetVersion(id, db);
  });
  return version;
}

/** Versions that are not kept any longer: of those kept by themselves one a day after a day, and none after a month. */
export function thinned(versions: readonly VersionRecord[], now: Date): VersionRecord[] {
  const days = new Set<string>();
  return versions.filter(({ at, name }) => {
    if (name !== undefined) return false;
    const age = (now.getTime() - new Date(at).getTime()) / HOUR;
    if (age <= HOURS) return false;
    const day = at.slice(0, 10);
    const isFirst = !days.has(day);
    days.add(day);
    return !isFirst || age > 24 * DAYS;
  });
}

/** A job as it was then. @throws JobFileError; Error where it is not kept any more */
export async function openVersion(id: string, db: Database = database()): Promise<JobFile> {
  const kept = await db.versionContents.get(id);
  if (!kept) throw new Error('This version is not kept any more.');
  return readJobFile(kept.content);
}

export const forgetVersion = (id: string, db: Database = database()): Promise<void> =>
  db.transaction('rw', db.versions, db.versionContents, async () => {
    await db.versions.delete(id);
    await db.versionContents.delete(id);
  });
