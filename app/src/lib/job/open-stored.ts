import { operationById } from '@ulvrin/core';
import { OpenJob } from './open-job.svelte.ts';
import { loadJob, type StoredJob } from '$lib/platform/storage/job-store.ts';
import { readySolids } from '$lib/platform/solids.ts';
import { openedLogbook } from '$lib/document/opened-logbook.ts';

/** Why a job cannot be shown. */
export interface Missing {
  why: 'unknown' | 'deleted' | 'closed' | 'failed';
  error?: unknown;
}

/** Opens a stored job; the library for solids must be there before entries that need it are replayed. @param tell what is being replayed */
export async function openStored(id: string, tell: (what: string) => void): Promise<OpenJob | Missing> {
  let stored: StoredJob | undefined;
  try {
    stored = await loadJob(id);
  } catch (error) {
    return { why: 'closed', error };
  }
  if (!stored || stored.job.deleted) return { why: stored ? 'deleted' : 'unknown' };
  const ready = readySolids().catch(() => undefined);
  if (stored.entries.some((e) => operationById(e.operation)?.kind === 'parts')) await ready;
  const made = new OpenJob(stored, await openedLogbook(stored, tell));
  await made.keeper.begin();
  return made;
}
