import { Reference, type Part, type PolygonMesh } from '@ulvrin/core';
import { measuringWorker } from '$lib/tasks/task-runner.svelte.ts';
import type { Deviations } from '$lib/tasks/task.worker.ts';

/** A worker that says nothing for so many ms is replaced. */
const PATIENCE = 60_000;

interface Wanted {
  reference: PolygonMesh;
  /** nothing where there is no cage: the reference alone is made ready */
  part?: Part;
}

/**
 * Distances of a cage and of its smooth surface to a reference, measured by a worker that keeps the reference. While it
 * measures, of all that is asked for only the last is kept; the worker is replaced where it fails or goes silent.
 */
export class DeviationMeter {
  found: Deviations | undefined = $state.raw();
  /** why nothing is measured; nothing where all is well */
  problem: string | undefined = $state();
  private worker: ReturnType<typeof measuringWorker> | undefined;
  private kept: PolygonMesh | undefined;
  private wanted: Wanted | undefined;
  private running: Promise<void> | undefined;

  /** Measures anew, once what is under way has ended. @returns when the last one asked for is measured */
  measure(reference: PolygonMesh | undefined, part: Part | undefined): Promise<void> {
    this.wanted = reference && { reference, part: part?.cage && part };
    if (!this.wanted?.part) this.found = undefined;
    this.running ??= this.run().finally(() => (this.running = undefined));
    return this.running;
  }

  end(): void {
    this.wanted = undefined;
    this.worker?.end();
  }

  private async run(): Promise<void> {
    for (let now = this.wanted; now; now = this.wanted) {
      let found: Deviations | undefined;
      try {
        found = await this.measured(now);
        this.problem = undefined;
      } catch (error) {
        this.replaceWorker();
        this.problem = `The deviation could not be measured (${error instanceof Error ? error.message : String(error)}). It is measured again with the next change.`;
      }
      if (this.wanted !== now) continue;
      this.wanted = undefined;
      this.found = found;
    }
  }

  private async measured({ reference, part }: Wanted): Promise<Deviations | undefined> {
    this.worker ??= measuringWorker();
    const { tasks, failed } = this.worker;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const silent = new Promise<never>((_, reject) => (timer = setTimeout(() => reject(new Error('no answer came')), PATIENCE)));
    try {
      if (this.kept !== reference) {
        const made = await Promise.race([tasks.setReference(reference), failed, silent]);
        this.kept = reference;
        // picking on the stand and previews take up the tree that the worker built
        if (made) Reference.of(reference, made);
      }
      if (!part) return undefined;
      const { scheme, borderCorners, plan, cage } = part;
      return await Promise.race([tasks.deviations(cage!.toPolygons(), { scheme, borderCorners, plan: $state.snapshot(plan) }), failed, silent]);
    } finally {
      clearTimeout(timer);
    }
  }

  private replaceWorker(): void {
    this.worker?.end();
    this.worker = undefined;
    this.kept = undefined;
  }
}
