import { plainParts, takenUp, type Entry, type JobState, type Refusal, type Replayed, type Selection } from '@ulvrin/core';
import { refusalOf } from '$lib/job/refusal-of.ts';
import { measuringWorker } from '$lib/tasks/task-runner.svelte.ts';

/** What an operation would make, found out in the background. */
export interface SlowResult {
  /** what it was asked for: the running operation, the state and the selection, as they were */
  asked: Asked;
  result?: Replayed;
  refusal?: Refusal;
}

export interface Asked {
  running: object;
  state: JobState;
  selection: Selection;
}

/** Previews that take too long for the page's own thread: a worker makes the last one asked for. */
export class SlowPreview {
  made: SlowResult | undefined = $state.raw();
  private worker: ReturnType<typeof measuringWorker> | undefined;
  private asked: Asked | undefined;

  /** Has an entry performed on a state; what was asked before is given up. */
  async ask(asked: Asked, entry: Entry): Promise<void> {
    this.end();
    this.asked = asked;
    const worker = (this.worker = measuringWorker());
    let made: SlowResult;
    try {
      const performed = await Promise.race([worker.tasks.perform(plainParts(asked.state), entry), worker.failed]);
      made = { asked, result: takenUp(asked.state, performed) };
    } catch (error) {
      made = { asked, refusal: refusalOf(error) };
    }
    if (this.asked !== asked) return;
    this.end();
    this.made = made;
  }

  /** What was made for just this; nothing where it is not there yet. */
  for({ running, state, selection }: Asked): SlowResult | undefined {
    const asked = this.made?.asked;
    return asked && asked.running === running && asked.state === state && asked.selection === selection ? this.made : undefined;
  }

  /** Gives up what is under way. */
  end(): void {
    this.asked = undefined;
    this.worker?.end();
    this.worker = undefined;
  }
}
