import type { Condition } from '@ulvrin/core';
import Dexie, { type Table } from 'dexie';
import type { Branch, Change, Destination, Entry, Layer, NamedSet, Routine, Spare } from '@ulvrin/core';

/** What the jobs page shows of a job, and what opening it needs besides its entries. */
export interface JobRecord {
  id: string;
  name: string;
  /** id of the demo job it is a copy of */
  demo?: string;
  brief?: string;
  /** when it is done: the brief as a checklist */
  doneWhen?: readonly Condition[];
  /** last change, ISO 8601 */
  changed: string;
  /** counts up with every save: a page that does not know the last one does not write */
  revision: number;
  /** ids of the entries of the logbook, in order */
  order: number[];
  /** how many of them are in force */
  cursor: number;
  sets: readonly NamedSet[];
  /** ids of parts that are not shown */
  hidden: readonly string[];
  /** ids of parts that nothing may change */
  locked?: readonly string[];
  /** groups of parts */
  layers?: readonly Layer[];
  /** other ways it took, and what the present one is called */
  branches?: readonly BranchRecord[];
  branch?: string;
  /** how many steps of the journal are done */
  position: number;
  counts: { faces: number; quads: number; triangles: number };
  /** new jobs are started from it; it stays as it is */
  template?: boolean;
  /** when it went to the trash, ISO 8601 */
  deleted?: string;
}

/** Another way that a job took; its entries are rows as those of the logbook are, so that listing jobs does not read them. */
export type BranchRecord = Omit<Branch, 'entries'> & { order: number[] };

/** An entry of the logbook, or of another way, or one that only steps of the journal know any more. */
export type EntryRecord = Entry & { job: string };

/** A step of the journal; the stored results of its entries are in the table of entries. */
export interface StepRecord {
  job: string;
  /** counts up within a job */
  seq: number;
  label: string;
  changes: Change[];
}

/** How a job is looked at: written often, and lost without harm. */
export interface ViewRecord {
  job: string;
  view: Record<string, unknown>;
}

/** A small picture of a job, as a data address. */
export interface PictureRecord {
  job: string;
  picture: string;
}

/** A file that was brought in before. */
export interface FileRecord {
  name: string;
  /** bytes */
  size: number;
  /** when, ISO 8601 */
  at: string;
}

/** What is in such a file; a row of its own, so that listing files does not read it. */
export interface ContentRecord {
  name: string;
  content: Uint8Array<ArrayBuffer>;
}

/** A job as it was at a time; its content is a row of its own. */
export interface VersionRecord {
  id: string;
  job: string;
  /** when, ISO 8601 */
  at: string;
  /** left out where it was kept by itself */
  name?: string;
  /** how many entries there were */
  entries: number;
  bytes: number;
}

/** A spare on the shelf, with a picture as a data address where there is one. */
export interface SpareRecord {
  id: string;
  /** when it was kept, ISO 8601 */
  at: string;
  name: string;
  spare: Spare;
  picture?: string;
}

/** A job's row as versions 1 and 2 had it. */
interface OldJob extends Omit<JobRecord, 'deleted'> {
  picture?: string;
  view?: { sets?: NamedSet[]; hidden?: string[] } & Record<string, unknown>;
  deleted?: boolean;
}

/**
 * Jobs in the browser. Entries are rows of their own, so that a large stored result is written once.
 * Version 1 kept the picture in the job's row, which was read and written with every change; version 2 moves it out. Version 3
 * moves the view out, keeps the order of entries, the journal's steps and a revision, and gives deleted jobs a date; version 4 adds
 * files that were brought in, version 5 destinations, routines and versions, version 6 spares.
 */
export class Database extends Dexie {
  jobs!: Table<JobRecord, string>;
  entries!: Table<EntryRecord, [string, number]>;
  steps!: Table<StepRecord, [string, number]>;
  views!: Table<ViewRecord, string>;
  pictures!: Table<PictureRecord, string>;
  files!: Table<FileRecord, string>;
  contents!: Table<ContentRecord, string>;
  places!: Table<Destination, string>;
  routines!: Table<Routine, string>;
  versions!: Table<VersionRecord, string>;
  spares!: Table<SpareRecord, string>;
  versionContents!: Table<{ id: string; content: Uint8Array<ArrayBuffer> }, string>;

  constructor(name = 'ulvrin') {
    super(name);
    this.version(1).stores({ jobs: 'id, changed', entries: '[job+id], job' });
    this.version(2)
      .stores({ jobs: 'id, changed, demo', entries: '[job+id], job', pictures: 'job' })
      .upgrade(async (change) => {
        const jobs = (await change.table('jobs').toArray()) as OldJob[];
        for (const { picture, ...job } of jobs) {
          if (picture) await change.table('pictures').put({ job: job.id, picture });
          await change.table('jobs').put(job);
        }
      });
    this.version(3)
      .stores({ jobs: 'id, changed, demo', entries: '[job+id], job', steps: '[job+seq], job', views: 'job', pictures: 'job' })
      .upgrade(async (change) => {
        const jobs = (await change.table('jobs').toArray()) as OldJob[];
        for (const { view, deleted, picture: _picture, ...job } of jobs) {
          const keys = (await change.table('entries').where('job').equals(job.id).primaryKeys()) as unknown as [string, number][];
          const order = keys.map(([, id]) => id).sort((a, b) => a - b);
          const { sets = [], hidden = [], ...rest } = view ?? {};
          const row: JobRecord = { ...job, revision: 1, order, sets, hidden, position: job.cursor };
          await change.table('jobs').put(deleted ? { ...row, deleted: new Date().toISOString() } : row);
          await change.table('views').put({ job: job.id, view: rest });
        }
      });
    this.version(4).stores({ files: 'name, at', contents: 'name' });
    this.version(5).stores({ places: 'id, name', routines: 'name', versions: 'id, job', versionContents: 'id' });
    this.version(6).stores({ spares: 'id, name' });
  }
}

let opened: Database | undefined;
export const database = (): Database => (opened ??= new Database());

/** Calls back when another tab keeps an older version of the storage open, so that this one waits. */
export const whenBlocked = (told: () => void): void => void database().on('blocked', told);
