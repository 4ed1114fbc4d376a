import type { Part, PolygonMesh } from '@ulvrin/core';
import { measuringWorker } from '$lib/tasks/task-runner.svelte.ts';
import type { Deviations } from '$lib/tasks/task.worker.ts';

/** Distances of a cage and of its smooth surface to a reference, measured by a worker that keeps the reference. */
export class DeviationMeter {
  found: Deviations | undefined = $state.raw();
  private readonly worker = measuringWorker();
  private kept: PolygonMesh | undefined;
  private turn = 0;

  /** Measures anew; of calls that overtake each other only the last one counts. */
  async measure(reference: PolygonMesh | undefined, part: Part | undefined): Promise<void> {
    const mine = ++this.turn;
    if (!reference || !part?.cage) {
      this.found = undefined;
      return;
    }
    const { tasks } = this.worker;
    if (this.kept !== reference) {
      this.kept = reference;
      await tasks.setReference(reference);
      if (mine !== this.turn) return;
    }
    const { scheme, borderCorners, plan } = part;
    const found = await tasks.deviations(part.cage.toPolygons(), { scheme, borderCorners, plan: $state.snapshot(plan) });
    if (mine === this.turn) this.found = found;
  }

  end(): void {
    this.worker.end();
  }
}
