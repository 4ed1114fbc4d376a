import type { Shown } from '@ulvrin/core';
import { proxy, wrap, type Remote } from 'comlink';
import TaskWorker from './task.worker.ts?worker';
import type { Tasks } from './task.worker.ts';

/** Thrown to whoever waits for a task that was stopped. */
export class TaskStopped extends Error {}

interface Hand {
  worker: Worker;
  tasks: Remote<Tasks>;
  /** comes as an error when the worker fails to load, breaks, or sends what cannot be read */
  failed: Promise<never>;
  /** comes when the worker has been ended */
  ended: Promise<void>;
  end(): void;
}

function newHand(): Hand {
  const worker = new TaskWorker();
  const failed = new Promise<never>((_, reject) => {
    worker.onerror = (event) => reject(new Error(event.message || 'The worker could not be started.'));
    worker.onmessageerror = () => reject(new Error('The worker sent what cannot be read.'));
  });
  // a worker that fails while nobody waits is found out by the next who does
  failed.catch(() => undefined);
  let end!: () => void;
  const ended = new Promise<void>((resolve) => {
    end = () => {
      worker.terminate();
      resolve();
    };
  });
  return { worker, tasks: wrap<Tasks>(worker), failed, ended, end };
}

const isBroken = ({ failed }: Hand): Promise<boolean> =>
  Promise.race([failed, Promise.resolve(false)]).then(
    () => false,
    () => true
  );

/** The worker whose last task came to its end: it has what it made still at hand for the next one. */
let idle: Hand | undefined;
/** How many tasks are at work. */
let running = 0;

/**
 * Has the worker that the next task will get do something for it ahead; that task waits for it, and what stops the task stops it too.
 * @returns nothing where a task is running, or the work was stopped
 */
export async function workAhead<Result>(start: (tasks: Remote<Tasks>) => Promise<Result>): Promise<Result | undefined> {
  if (running > 0) return undefined;
  const hand = (idle ??= newHand());
  try {
    return (await Promise.race([start(hand.tasks), hand.ended, hand.failed])) ?? undefined;
  } catch (error) {
    // what broke is not handed on to the next task
    if (idle === hand && (await isBroken(hand))) {
      hand.end();
      idle = undefined;
    }
    throw error;
  }
}

/** One background computation in a worker: its phase, how far it is, how long it has run, and Stop. */
export class RunningTask<Result> {
  phase = $state('Starting');
  fraction = $state(0);
  seconds = $state(0);
  /** what can be shown of the result before it is there: poles that quads will have, then edges of quads before they are evened out */
  shown: Shown = $state.raw({});
  readonly result: Promise<Result>;
  private readonly hand: Hand;
  private broken = false;
  private readonly timer: ReturnType<typeof setInterval>;
  private reject!: (reason: Error) => void;

  constructor(
    readonly name: string,
    start: (tasks: Remote<Tasks>, tell: (phase: string, fraction: number, shown?: Shown) => void) => Promise<Result>
  ) {
    const begun = performance.now();
    this.timer = setInterval(() => (this.seconds = (performance.now() - begun) / 1000), 100);
    const tell = proxy((phase: string, fraction: number, shown?: Shown) => {
      if (shown?.poles || shown?.edges) this.shown = { poles: shown.poles ?? this.shown.poles, edges: shown.edges ?? this.shown.edges };
      this.phase = phase;
      this.fraction = fraction;
    });
    this.hand = idle ?? newHand();
    idle = undefined;
    running++;
    const failed = new Promise<never>((_, reject) => {
      this.reject = (reason) => {
        this.broken = true;
        reject(reason);
      };
      this.hand.failed.catch((reason: Error) => this.reject(reason));
    });
    this.result = Promise.race([start(this.hand.tasks, tell), failed]).finally(() => this.end());
  }

  /** Ends the computation at once; whoever waits gets `TaskStopped`. */
  stop(): void {
    this.reject(new TaskStopped(`${this.name} was stopped; nothing was changed.`));
  }

  private end(): void {
    clearInterval(this.timer);
    running--;
    if (this.broken || idle) this.hand.end();
    else idle = this.hand;
  }
}

/** A worker that stays, for measuring against a reference that it keeps. */
export function measuringWorker(): Pick<Hand, 'tasks' | 'failed' | 'end'> {
  return newHand();
}
