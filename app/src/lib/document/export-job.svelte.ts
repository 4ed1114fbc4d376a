import { documentSettings, writeJobFile, type JobFile } from '@ulvrin/core';
import type { OpenJob } from '$lib/job/open-job.svelte.ts';
import { fileStem, saveFile } from '$lib/platform/save-file.ts';
import type { JobRecord } from '$lib/platform/storage/database.ts';
import { createJob, loadJob, newJobId, type StoredJob } from '$lib/platform/storage/job-store.ts';
import { noteExport } from '$lib/platform/storage/storage-state.ts';

const fileNameOf = (name: string): string => `${fileStem(name) || 'job'}.ulvrin`;

/** The job on the page as a file's content. */
export function fileOf({ document, cursor, entries, record, view }: OpenJob): JobFile {
  const { brief } = $state.snapshot(record) as typeof record;
  return { ...documentSettings(document), brief, cursor, entries, view: $state.snapshot(view) as unknown as Record<string, unknown> };
}

/** Saves the whole job as a file, logbook and references included. */
export function exportJob(job: OpenJob): void {
  saveFile(writeJobFile(fileOf(job)), fileNameOf(job.name));
  noteExport(job.record.id);
}

/** The same for a job as it is stored, without opening it: nothing of it is replayed. @returns whether there is such a job */
export async function exportStored(id: string, stored?: StoredJob): Promise<boolean> {
  const found = stored ?? (await loadJob(id));
  if (!found) return false;
  const { job, entries, branches, view } = found;
  const { brief, cursor, name } = job;
  saveFile(writeJobFile({ ...documentSettings({ ...job, branches }), brief, cursor, entries, view }), fileNameOf(name));
  noteExport(id);
  return true;
}

/** Makes a job of what a job file holds. @param own what it has in place of what the file says */
export const jobFromFile = ({ entries, view, ...rest }: JobFile, own: Partial<Omit<JobRecord, 'branches'>> = {}): Promise<JobRecord> =>
  createJob({ ...rest, ...own, id: newJobId() }, entries, view);

/** Keeps what is on the page as another job, where its own cannot be written any more. @returns the new job's id */
export async function keepAsNew(job: OpenJob): Promise<string> {
  const { counts } = $state.snapshot(job.record) as typeof job.record;
  return (await jobFromFile(fileOf(job), { name: `${job.name} (kept)`, counts })).id;
}
