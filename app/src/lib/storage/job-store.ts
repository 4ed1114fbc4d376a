import type { Entry } from '@ulvrin/core';
import { database, type Database, type JobRecord } from './database.ts';

/** A job with everything in it. */
export interface StoredJob {
  job: JobRecord;
  entries: Entry[];
}

const now = () => new Date().toISOString();
export const newJobId = (): string => crypto.randomUUID();

export async function listJobs(db: Database = database()): Promise<(JobRecord & { picture?: string })[]> {
  const [jobs, pictures] = await Promise.all([db.jobs.orderBy('changed').reverse().toArray(), db.pictures.toArray()]);
  const byJob = new Map(pictures.map((p) => [p.job, p.picture]));
  return jobs.filter((j) => !j.deleted).map((j) => ({ ...j, picture: byJob.get(j.id) }));
}

export async function loadJob(id: string, db: Database = database()): Promise<StoredJob | undefined> {
  const job = await db.jobs.get(id);
  if (!job || job.deleted) return undefined;
  const rows = await db.entries.where('job').equals(id).sortBy('id');
  return { job, entries: rows.map(({ job: _, ...entry }) => entry as Entry) };
}

export async function createJob(
  job: Omit<JobRecord, 'changed' | 'cursor' | 'counts'> & Partial<JobRecord>,
  entries: Entry[] = [],
  db: Database = database()
): Promise<JobRecord> {
  const record: JobRecord = { changed: now(), cursor: entries.length, counts: { faces: 0, quads: 0, triangles: 0 }, ...job };
  await db.transaction('rw', db.jobs, db.entries, async () => {
    await db.entries.where('job').equals(record.id).delete();
    await db.jobs.put(record);
    await db.entries.bulkPut(entries.map((e) => ({ ...e, job: record.id })));
  });
  return record;
}

/** Writes the job's row, the entries that changed, and takes out those that are gone, in one transaction. */
export async function saveJob(job: JobRecord, changed: Entry[], removedIds: number[], db: Database = database()): Promise<void> {
  await db.transaction('rw', db.jobs, db.entries, async () => {
    await db.jobs.put(job);
    if (removedIds.length > 0) await db.entries.bulkDelete(removedIds.map((id) => [job.id, id] as [string, number]));
    if (changed.length > 0) await db.entries.bulkPut(changed.map((e) => ({ ...e, job: job.id })));
  });
}

export async function savePicture(job: string, picture: string, db: Database = database()): Promise<void> {
  await db.pictures.put({ job, picture });
}

export async function renameJob(id: string, name: string, db: Database = database()): Promise<void> {
  await db.jobs.update(id, { name, changed: now() });
}

export async function duplicateJob(id: string, db: Database = database()): Promise<JobRecord | undefined> {
  const stored = await loadJob(id, db);
  if (!stored) return undefined;
  const copy = await createJob(
    { ...stored.job, id: newJobId(), name: `${stored.job.name} copy`, demo: undefined, changed: now() },
    stored.entries,
    db
  );
  const picture = await db.pictures.get(id);
  if (picture) await savePicture(copy.id, picture.picture, db);
  return copy;
}

/** Hides a job; `restoreJob` brings it back, `purgeDeleted` makes it final. */
export async function deleteJob(id: string, db: Database = database()): Promise<void> {
  await db.jobs.update(id, { deleted: true });
}
export async function restoreJob(id: string, db: Database = database()): Promise<void> {
  await db.jobs.update(id, { deleted: false });
}

/** Takes jobs out for good that were deleted before the page was last left. */
export async function purgeDeleted(db: Database = database()): Promise<void> {
  const gone = (await db.jobs.toArray()).filter((j) => j.deleted).map((j) => j.id);
  await db.transaction('rw', db.jobs, db.entries, db.pictures, async () => {
    await db.jobs.bulkDelete(gone);
    await db.pictures.bulkDelete(gone);
    for (const id of gone) await db.entries.where('job').equals(id).delete();
  });
}
