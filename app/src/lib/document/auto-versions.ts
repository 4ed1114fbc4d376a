import { writeJobFile } from '@ulvrin/core';
import type { OpenJob } from '$lib/job/open-job.svelte.ts';
import { EVERY, HOUR, keepVersion, versionsOf } from '$lib/platform/storage/versions.ts';
import { fileOf } from './export-job.svelte.ts';

/** How often it is looked whether a version is due, ms. */
const LOOK = 5 * 60_000;

/** Keeps a version of an open job every hour that something is done. @returns ends it */
export function keepVersions(job: OpenJob): () => void {
  let kept = job.record.changed;
  const look = async () => {
    const { id, changed } = job.record;
    if (changed === kept || job.lookingOn !== undefined || job.entries.length === 0) return;
    const [last] = await versionsOf(id);
    if (last && Date.now() - new Date(last.at).getTime() < EVERY * HOUR) return;
    kept = changed;
    await keepVersion(id, writeJobFile(fileOf(job)), { entries: job.entries.length });
  };
  // where there is no room for it, the job itself is still saved, and says so where it cannot be
  const timer = setInterval(() => void look().catch(() => undefined), LOOK);
  return () => clearInterval(timer);
}
