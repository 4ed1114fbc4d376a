import { messageOf } from '$lib/job/refusal-of.ts';
import type { Notes } from '$lib/job/notes.svelte.ts';
import { TaskStopped, type RunningTask } from './task-runner.svelte.ts';

/** What is told to whoever would change the job under a task. */
export const BUSY = 'A task is running: stop it first, or wait until it is done.';

/** The one task that may run for a job at a time; the card shows it. */
export class Background {
  task: RunningTask<unknown> | undefined = $state.raw();

  constructor(private readonly notes: Notes) {}

  /** Shows a task until it ends; what comes of it is taken up, what went wrong is told. */
  async run<Result>(task: RunningTask<Result>, taken: (result: Result) => void): Promise<void> {
    this.task = task as RunningTask<unknown>;
    try {
      const result = await task.result;
      this.notes.attempt(() => taken(result));
    } catch (error) {
      this.notes.tell(error instanceof TaskStopped ? 'info' : 'error', messageOf(error));
    } finally {
      this.task = undefined;
    }
  }
}
