import { error } from '@sveltejs/kit';
import { BatchError, InvalidParams, readBatch, RoutineError, twinsAmong, type BatchFile, type BatchReport, type BatchSettings } from '@ulvrin/core';
import Joi from 'joi';
import type { BatchState, FileState } from '$lib/batch/state.ts';

/** A batch as it is given: settings as plain data, and the names of the files that will come. */
export interface NewBatch {
  name: string;
  settings: object;
  files: string[];
}

/** What becomes of one file: the files made of it, and the report; or why it could not be done. */
export type Outcome = { files: BatchFile[]; report: BatchReport } | { problem: string };

/** How a file ended, beside what was made. */
export type Ending = { report: BatchReport } | { problem: string };

/** Does one file, in a thread. It does not throw: what goes wrong is told. @param stop ends it before it is done */
export type DoFile = (file: BatchFile, settings: BatchSettings, stop?: AbortSignal) => Promise<Outcome>;

/** Batches with their files, and those who work on them. Every file ends with one outcome, whoever is killed in the middle. */
export interface BatchQueue {
  /** where the work is done, in words */
  readonly where: string;
  /** @returns its id */
  start(batch: NewBatch): Promise<string>;
  /** Takes a file of a batch, and puts it in the queue; one that is here already stays as it is. @throws NotInBatch */
  take(id: string, file: BatchFile): Promise<void>;
  list(): Promise<BatchState[]>;
  /** All that was made until now, reports among it. @throws NotInBatch */
  made(id: string): Promise<BatchFile[]>;
  /** Takes a batch out, with all that was made; what is under way ends, on other servers a little later. */
  remove(id: string): Promise<void>;
}

/** Something asked of a batch that there is not, or for a file that is not one of its. */
export class NotInBatch extends Error {}
/** The queue cannot be reached; what is in it stays there. */
export class QueueAway extends Error {}

/** Files in a batch, at most. */
const MOST_FILES = 2000;

const schema = Joi.object({
  name: Joi.string().trim().min(1).max(120).required(),
  settings: Joi.object().required(),
  files: Joi.array()
    .items(
      Joi.string()
        .min(1)
        .max(200)
        .pattern(/^[^/\\\0]+$/, 'a name without folders')
        .invalid('.', '..')
    )
    .min(1)
    .max(MOST_FILES)
    .unique()
    .required()
});

/** A batch from plain data, its settings tried. @throws HttpError 400 in a sentence */
export function newBatch(data: unknown): NewBatch {
  const { value, error: wrong } = schema.validate(data);
  if (wrong) error(400, `This is no batch: ${wrong.details[0].message}.`);
  const batch = value as NewBatch;
  const twins = twinsAmong(batch.files);
  if (twins) error(400, twins);
  try {
    readBatch(batch.settings);
  } catch (reason) {
    if (reason instanceof BatchError || reason instanceof RoutineError || reason instanceof InvalidParams) error(400, reason.message);
    throw reason;
  }
  return batch;
}

/** An id that sorts by time, and that nobody guesses. */
export const newId = (): string => `${Date.now().toString(36)}-${crypto.randomUUID().slice(0, 12)}`;

/** Whether a text can be an id: nothing that names a folder elsewhere. */
export const isId = (text: string): boolean => /^[a-z0-9-]{1,60}$/.test(text);

/** What there is to keep of an outcome: the files, and how it ended. */
export const endingOf = (outcome: Outcome): { made: BatchFile[]; ending: Ending } =>
  'problem' in outcome ? { made: [], ending: outcome } : { made: outcome.files, ending: { report: outcome.report } };

/** How far a file is that ended so, or that did not end yet. */
export function fileState(name: string, ending: Ending | undefined, otherwise: 'awaited' | 'waiting' | 'running'): FileState {
  if (!ending) return { name, is: otherwise };
  return 'report' in ending ? { name, is: 'done', ...ending } : { name, is: 'failed', ...ending };
}

/** All that was made of a batch, and beside it the report of each file. @param read gets what was made by its name */
export async function madeFiles({ files }: BatchState, read: (name: string) => Uint8Array | Promise<Uint8Array>): Promise<BatchFile[]> {
  const reports = files.flatMap((f) => (f.is === 'done' ? [f.report] : []));
  const made = reports.flatMap((report) => report.files);
  return [
    ...(await Promise.all(made.map(async (name) => ({ name, bytes: await read(name) })))),
    ...reports.map((report) => ({ name: `${report.name}.json`, bytes: new TextEncoder().encode(JSON.stringify(report, undefined, 1)) }))
  ];
}
