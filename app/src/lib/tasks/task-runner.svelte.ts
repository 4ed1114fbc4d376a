import type { PlannedPole } from '@ulvrin/core';
import { proxy, wrap, type Remote } from 'comlink';
import TaskWorker from './task.worker.ts?worker';
import type { Tasks } from './task.worker.ts';

/** Thrown to whoever waits for a task that was stopped. */
export class TaskStopped extends Error {}

interface Hand {
  worker: Worker;
  tasks: Remote<Tasks>;
}

const newHand = (): Hand => {
  const worker = new TaskWorker();
  return { worker, tasks: wrap<Tasks>(worker) };
};

/** The worker whose last task came to its end: it has what it made still at hand for the next one. */
let idle: Hand | undefined;

/** One background computation in a worker: its phase, how far it is, how long it has run, and Stop. */
export class RunningTask<Result> {
  phase = $state('Starting');
  fraction = $state(0);
  seconds = $state(0);
  /** poles that quads will have, as soon as they are known */
  poles: readonly PlannedPole[] | undefined = $state.raw();
  readonly result: Promise<Result>;
  private readonly hand: Hand;
  private broken = false;
  private readonly timer: ReturnType<typeof setInterval>;
  private reject!: (reason: Error) => void;

  constructor(
    readonly name: string,
    start: (tasks: Remote<Tasks>, tell: (phase: string, fraction: number, poles?: readonly PlannedPole[]) => void) => Promise<Result>
  ) {
    const begun = performance.now();
    this.timer = setInterval(() => (this.seconds = (performance.now() - begun) / 1000), 100);
    const tell = proxy((phase: string, fraction: number, poles?: readonly PlannedPole[]) => {
      if (poles) this.poles = poles;
      this.phase = phase;
      this.fraction = fraction;
    });
    this.hand = idle ?? newHand();
    idle = undefined;
    const failed = new Promise<never>((_, reject) => {
      this.reject = (reason) => {
        this.broken = true;
        reject(reason);
      };
      this.hand.worker.onerror = (event) => this.reject(new Error(event.message || 'The worker could not be started.'));
    });
    this.result = Promise.race([start(this.hand.tasks, tell), failed]).finally(() => this.end());
  }

  /** Ends the computation at once; whoever waits gets `TaskStopped`. */
  stop(): void {
    this.reject(new TaskStopped(`${this.name} was stopped; nothing was changed.`));
  }

  private end(): void {
    clearInterval(this.timer);
    if (this.broken || idle) this.hand.worker.terminate();
    else idle = this.hand;
  }
}

/** A worker that stays, for measuring against a reference that it keeps. */
export function measuringWorker(): { tasks: Remote<Tasks>; end: () => void } {
  const { worker, tasks } = newHand();
  return { tasks, end: () => worker.terminate() };
}
