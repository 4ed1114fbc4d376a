import type { Remote } from 'comlink';
import { messageOf } from '$lib/job/refusal-of.ts';
import { RunningTask, TaskStopped } from './task-runner.svelte.ts';
import type { Tasks } from './task.worker.ts';

/** A task that a window runs for itself: what runs, to be shown with Stop, and why it could not be done. */
export class OwnTask<Result> {
  running: RunningTask<Result> | undefined = $state.raw();
  problem = $state('');

  /** Runs one at a time. @returns what came of it; nothing where it was stopped or could not be done, or another one runs */
  async run(
    name: string,
    start: (tasks: Remote<Tasks>, tell: (phase: string, fraction: number) => void) => Promise<Result>
  ): Promise<Result | undefined> {
    if (this.running) return undefined;
    this.problem = '';
    const own = new RunningTask<Result>(name, start);
    this.running = own;
    try {
      return await own.result;
    } catch (error) {
      if (!(error instanceof TaskStopped)) this.problem = messageOf(error);
      return undefined;
    } finally {
      if (this.running === own) this.running = undefined;
    }
  }

  stop(): void {
    this.running?.stop();
  }
}
