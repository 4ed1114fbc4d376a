import Dexie, { type Table } from 'dexie';
import type { Entry } from '@ulvrin/core';

/** What the jobs page shows of a job, and what opening it needs besides its entries. */
export interface JobRecord {
  id: string;
  name: string;
  /** id of the demo job it is a copy of */
  demo?: string;
  brief?: string;
  /** last change, ISO 8601 */
  changed: string;
  /** how many entries are in force */
  cursor: number;
  counts: { faces: number; quads: number; triangles: number };
  view?: Record<string, unknown>;
  /** deleted, kept until the page is left so that it can be undone */
  deleted?: boolean;
}

export type EntryRecord = Entry & { job: string };

/** A small picture of a job, as a data address. */
export interface PictureRecord {
  job: string;
  picture: string;
}

/**
 * Jobs in the browser. Entries are rows of their own, so that a large cast is written once.
 * Version 1 kept the picture in the job's row, which was read and written with every change; version 2 moves it out.
 */
export class Database extends Dexie {
  jobs!: Table<JobRecord, string>;
  entries!: Table<EntryRecord, [string, number]>;
  pictures!: Table<PictureRecord, string>;

  constructor(name = 'ulvrin') {
    super(name);
    this.version(1).stores({ jobs: 'id, changed', entries: '[job+id], job' });
    this.version(2)
      .stores({ jobs: 'id, changed, demo', entries: '[job+id], job', pictures: 'job' })
      .upgrade(async (change) => {
        const jobs = (await change.table('jobs').toArray()) as (JobRecord & { picture?: string })[];
        for (const { picture, ...job } of jobs) {
          if (picture) await change.table('pictures').put({ job: job.id, picture });
          await change.table('jobs').put(job);
        }
      });
  }
}

let opened: Database | undefined;
export const database = (): Database => (opened ??= new Database());
