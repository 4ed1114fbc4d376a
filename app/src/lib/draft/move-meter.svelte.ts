import { changedSurface, type Cage, type SurfaceSettings } from '@ulvrin/core';
import { measuringWorker } from '$lib/tasks/task-runner.svelte.ts';

/** A cage before and after what is tried out, and how each is subdivided. */
export interface Change {
  before: Cage;
  after: Cage;
  settings: SurfaceSettings;
  settingsAfter: SurfaceSettings;
}

/** How far the smooth surface would move, measured in a worker while the page goes on; of all that is asked for only the last is kept. */
export class MoveMeter {
  private measured: { change: Change; mm: number | undefined } | undefined = $state.raw();
  private wanted: Change | undefined;
  private running = false;
  private worker: ReturnType<typeof measuringWorker> | undefined;

  /** What was measured for just this, in mm; nothing where that is not known. */
  of(change: Change | undefined): number | undefined {
    return change && this.measured?.change === change ? this.measured.mm : undefined;
  }

  /** Has it measured, unless it is already. */
  async ask(change: Change): Promise<void> {
    this.wanted = change;
    if (this.running) return;
    this.running = true;
    while (this.wanted && this.measured?.change !== this.wanted) {
      const now: Change = this.wanted;
      let mm: number | undefined;
      try {
        const changed = changedSurface(now.before, now.after, now.settings, now.settingsAfter);
        this.worker ??= measuringWorker();
        mm = await Promise.race([this.worker.tasks.largestMove(changed), this.worker.failed]);
      } catch {
        // without it the forecast says nothing of the surface
        this.end();
      }
      this.measured = { change: now, mm };
    }
    this.running = false;
  }

  /** Gives the worker up. */
  end(): void {
    this.worker?.end();
    this.worker = undefined;
  }
}
