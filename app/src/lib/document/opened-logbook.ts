import { documentSettings, Logbook, replayAhead, type Performed } from '@ulvrin/core';
import type { StoredJob } from '$lib/platform/storage/job-store.ts';
import { RunningTask } from '$lib/tasks/task-runner.svelte.ts';

/** The logbook of a stored job; nothing of it is replayed yet. */
export const logbookOf = ({ job, entries, branches, journal }: StoredJob): Logbook =>
  new Logbook(entries, job.cursor, documentSettings({ ...job, branches }), journal);

/** Milliseconds that replaying may take before the page is drawn again. */
const SLICE = 50;

/** The same, replayed: entries that take long in a worker, the others a slice at a time, so that the page stays alive. */
export async function openedLogbook(stored: StoredJob, tell: (what: string) => void): Promise<Logbook> {
  const logbook = logbookOf(stored);
  let begun = performance.now();
  await replayAhead(logbook, {
    tell: async (title, index, of) => {
      if (performance.now() - begun < SLICE) return;
      tell(`entry ${index + 1} of ${of}: ${title}`);
      await new Promise((drawn) => setTimeout(drawn));
      begun = performance.now();
    },
    elsewhere: (parts, entry) => new RunningTask<Performed>(entry.operation, async (tasks) => tasks.perform(parts, entry)).result
  });
  return logbook;
}
