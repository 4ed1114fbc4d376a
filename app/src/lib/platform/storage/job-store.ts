import { journalOf, entryTitle, type Branch, type Change, type DocumentSettings, type Entry, type Journal, type Step } from '@ulvrin/core';
import type { Table } from 'dexie';
import { database, type BranchRecord, type Database, type JobRecord, type StepRecord } from './database.ts';

/** A job with everything in it. */
export interface StoredJob {
  job: JobRecord;
  entries: Entry[];
  /** other ways that it took */
  branches?: Branch[];
  journal?: Journal;
  view?: Record<string, unknown>;
}

/** What one save writes, all of it or nothing. */
export interface Writing {
  job: JobRecord;
  /** entries that are new or not what was written last */
  entries: readonly Entry[];
  /** ids of entries that neither the logbook nor the journal has any more */
  gone: readonly number[];
  /** steps of the journal that are new or were changed, with their numbers */
  steps: readonly { seq: number; step: Step }[];
  /** numbers of steps that are gone */
  goneSteps: readonly number[];
}

/** Thrown where another page has written the job since it was read here; nothing was written. */
export class JobChangedElsewhere extends Error {}
/** Thrown where the job is in the trash, or gone altogether; nothing was written. */
export class JobDeleted extends Error {}

/** Days that deleted jobs are kept. */
export const TRASH_DAYS = 30;

const now = () => new Date().toISOString();
export const newJobId = (): string => crypto.randomUUID();

/** A job as tiles show it. */
export type Tile = JobRecord & { picture?: string };

async function tiles(db: Database, wanted: (job: JobRecord) => boolean): Promise<Tile[]> {
  const [jobs, pictures] = await Promise.all([db.jobs.orderBy('changed').reverse().toArray(), db.pictures.toArray()]);
  const byJob = new Map(pictures.map((p) => [p.job, p.picture]));
  return jobs.filter(wanted).map((j) => ({ ...j, picture: byJob.get(j.id) }));
}

export const listJobs = (db: Database = database()): Promise<Tile[]> => tiles(db, (j) => !j.deleted && !j.template);
/** Jobs that others are started from. */
export const listTemplates = (db: Database = database()): Promise<Tile[]> => tiles(db, (j) => !j.deleted && j.template === true);
/** Deleted jobs, the one deleted last first. */
export const listTrash = async (db: Database = database()): Promise<Tile[]> =>
  (await tiles(db, (j) => j.deleted !== undefined)).sort((a, b) => (a.deleted! < b.deleted! ? 1 : -1));

/** @returns nothing where there is no such job; one in the trash has its date in `job.deleted` */
export async function loadJob(id: string, db: Database = database()): Promise<StoredJob | undefined> {
  const [job, rows, stepRows, view] = await db.transaction('r', db.jobs, db.entries, db.steps, db.views, () =>
    Promise.all([db.jobs.get(id), db.entries.where('job').equals(id).toArray(), db.steps.where('job').equals(id).sortBy('seq'), db.views.get(id)])
  );
  if (!job) return undefined;
  const byId = new Map(rows.map(({ job: _job, ...entry }) => [entry.id, entry as Entry]));
  const inOrder = (ids: readonly number[]) => ids.map((entryId) => byId.get(entryId) ?? missingEntry(entryId));
  const entries = inOrder(job.order);
  const branches = job.branches?.map(({ order, ...branch }) => ({ ...branch, entries: inOrder(order) }));
  const journal = stepRows.length > 0 ? { steps: stepRows.map((row) => stepOf(row, byId)), position: job.position } : undefined;
  return { job, entries, branches, journal, view: view?.view };
}

/** Stands in the place of an entry whose row is gone: it is flagged, so that no hole goes unseen. */
const missingEntry = (id: number): Entry => ({
  id,
  operation: 'an entry that is missing in the browser’s storage',
  part: '',
  params: {},
  selection: { vertices: [], edges: [], faces: [] },
  notes: [],
  at: now()
});

/** Steps hold their entries without stored results: these are in the entries' own rows, which are never twice. */
const light = ({ cast, ...entry }: Entry): Entry => (cast ? ({ ...entry, stored: true } as Entry) : entry);
function eachEntry(change: Change, turn: (entry: Entry) => Entry): Change {
  if (change.kind === 'entries') return { ...change, out: change.out.map(turn), in: change.in.map(turn) };
  const turned = (settings: Partial<DocumentSettings>) =>
    settings.branches ? { ...settings, branches: settings.branches.map((b) => ({ ...b, entries: b.entries.map(turn) })) } : settings;
  return { ...change, before: turned(change.before), after: turned(change.after) };
}

/** A branch as the job's row has it. */
export const branchRow = ({ entries, ...branch }: Branch): BranchRecord => ({ ...branch, order: entries.map(({ id }) => id) });

function stepOf({ label, changes }: StepRecord, byId: ReadonlyMap<number, Entry>): Step {
  const whole = ({ stored, ...entry }: Entry & { stored?: boolean }): Entry => (stored ? { ...entry, cast: byId.get(entry.id)?.cast } : entry);
  return { label, changes: changes.map((change) => eachEntry(change, whole)) };
}

export async function createJob(
  { branches = [], ...job }: Pick<JobRecord, 'id' | 'name'> & Partial<Omit<JobRecord, 'branches'>> & { branches?: readonly Branch[] },
  entries: readonly Entry[] = [],
  view?: Record<string, unknown>,
  db: Database = database()
): Promise<JobRecord> {
  const record: JobRecord = {
    changed: now(),
    revision: 1,
    cursor: entries.length,
    sets: [],
    hidden: [],
    counts: { faces: 0, quads: 0, triangles: 0 },
    position: 0,
    ...job,
    order: entries.map((e) => e.id),
    branches: branches.map(branchRow)
  };
  const { steps, position } = journalOf(entries, record.cursor, entryTitle);
  record.position = position;
  await db.transaction('rw', db.jobs, db.entries, db.steps, db.views, async () => {
    await db.jobs.add(record);
    await db.entries.bulkPut([...entries, ...branches.flatMap((b) => b.entries)].map((e) => ({ ...e, job: record.id })));
    await db.steps.bulkPut(steps.map((step, seq) => stepRow(record.id, seq, step)));
    if (view) await db.views.put({ job: record.id, view });
  });
  return record;
}

const stepRow = (job: string, seq: number, { label, changes }: Step): StepRecord => ({
  job,
  seq,
  label,
  changes: changes.map((c) => eachEntry(c, light))
});

/**
 * Writes what changed of a job in one transaction: when this comes back it is committed.
 * @param known the revision that is changed
 * @returns the revision now
 * @throws JobChangedElsewhere, JobDeleted, or the browser's error (no room, storage gone); then nothing was written
 */
export async function saveJob({ job, entries, gone, steps, goneSteps }: Writing, known: number, db: Database = database()): Promise<number> {
  const revision = known + 1;
  await db.transaction('rw', db.jobs, db.entries, db.steps, async () => {
    const stored = await db.jobs.get(job.id);
    if (!stored || stored.deleted) throw new JobDeleted();
    if (stored.revision !== known) throw new JobChangedElsewhere();
    await db.jobs.put({ ...job, revision });
    await db.entries.bulkDelete(gone.map((id) => [job.id, id] as [string, number]));
    await db.entries.bulkPut(entries.map((e) => ({ ...e, job: job.id })));
    await db.steps.bulkDelete(goneSteps.map((seq) => [job.id, seq] as [string, number]));
    await db.steps.bulkPut(steps.map(({ seq, step }) => stepRow(job.id, seq, step)));
  });
  return revision;
}

export async function saveView(job: string, view: Record<string, unknown>, db: Database = database()): Promise<void> {
  await db.views.put({ job, view });
}

export async function savePicture(job: string, picture: string, db: Database = database()): Promise<void> {
  await db.pictures.put({ job, picture });
}

/** Renames a job from outside it; the page that has it open takes the name up. */
export async function renameJob(id: string, name: string, db: Database = database()): Promise<void> {
  await db.transaction('rw', db.jobs, async () => {
    const job = await db.jobs.get(id);
    if (job) await db.jobs.put({ ...job, name, changed: now(), revision: job.revision + 1 });
  });
}

/** A copy under a new id, with its journal, view and picture. */
export async function duplicateJob(id: string, changes: Partial<JobRecord> = {}, db: Database = database()): Promise<JobRecord | undefined> {
  return db.transaction('rw', db.jobs, db.entries, db.steps, db.views, db.pictures, async () => {
    const job = await db.jobs.get(id);
    if (!job) return undefined;
    const copy: JobRecord = {
      ...job,
      id: newJobId(),
      name: `${job.name} copy`,
      demo: undefined,
      template: false,
      changed: now(),
      revision: 1,
      ...changes
    };
    await db.jobs.add(copy);
    for (const table of [db.entries, db.steps, db.views, db.pictures] as Table<{ job: string }>[]) {
      const rows = await table.where('job').equals(id).toArray();
      await table.bulkPut(rows.map((row) => ({ ...row, job: copy.id })));
    }
    return copy;
  });
}

/** Puts a job into the trash; `restoreJob` brings it back, `emptyTrash` makes it final. */
export async function deleteJob(id: string, db: Database = database()): Promise<void> {
  await db.jobs.update(id, { deleted: now() });
}
export async function restoreJob(id: string, db: Database = database()): Promise<void> {
  await db.transaction('rw', db.jobs, async () => {
    const job = await db.jobs.get(id);
    if (!job) return;
    const { deleted: _deleted, ...rest } = job;
    await db.jobs.put({ ...rest, revision: job.revision + 1 });
  });
}

/** Puts what a job is now into the trash as a copy, and another content in its place: its id and name stay. */
export async function replaceContent(
  id: string,
  entries: readonly Entry[],
  counts: JobRecord['counts'],
  view: Record<string, unknown>,
  db: Database = database()
): Promise<JobRecord> {
  return db.transaction('rw', db.jobs, db.entries, db.steps, db.views, db.pictures, async () => {
    const before = (await db.jobs.get(id))!;
    await duplicateJob(id, { name: `${before.name} before the reset`, demo: before.demo, deleted: now() }, db);
    for (const table of [db.entries, db.steps, db.views]) await table.where('job').equals(id).delete();
    await db.jobs.delete(id);
    const { name, demo, brief, doneWhen, revision } = before;
    return createJob({ id, name, demo, brief, doneWhen, counts, revision: revision + 1 }, entries, view, db);
  });
}

/** Takes jobs out for good. @param ids those of the trash that are meant; left out: all that are older than `TRASH_DAYS` */
export async function emptyTrash(ids?: readonly string[], db: Database = database()): Promise<void> {
  const oldest = new Date(Date.now() - TRASH_DAYS * 24 * 3600 * 1000).toISOString();
  await db.transaction('rw', [db.jobs, db.entries, db.steps, db.views, db.pictures, db.versions, db.versionContents], async () => {
    const gone = (await db.jobs.toArray()).filter((j) => j.deleted && (ids ? ids.includes(j.id) : j.deleted < oldest)).map((j) => j.id);
    await db.jobs.bulkDelete(gone);
    await db.pictures.bulkDelete(gone);
    await db.views.bulkDelete(gone);
    for (const id of gone) {
      await db.entries.where('job').equals(id).delete();
      await db.steps.where('job').equals(id).delete();
      const versions = await db.versions.where('job').equals(id).primaryKeys();
      await db.versions.bulkDelete(versions);
      await db.versionContents.bulkDelete(versions);
    }
  });
}
