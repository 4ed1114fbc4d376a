import { type Dab, dabAt, dabsIn } from '../even/dabs.ts';
import { type Cage } from '../mesh/cage.ts';
import { type LiveEdit, type LiveStep } from './live-edit.ts';

/** A stroke over a surface: each step takes the touches that have come since the one before. */
export abstract class Stroke {
  /** touches taken so far */
  protected done = 0;

  abstract get notes(): readonly string[];

  /** Begins on what was there before. @returns vertices that have come to lie elsewhere */
  protected abstract beginAnew(): Iterable<number>;

  /** Takes a touch. @returns vertices that may lie elsewhere */
  protected abstract take(dab: Dab): Iterable<number>;

  /** @param input its `dabs`, those of earlier steps first; fewer of them begin anew */
  step(input: Record<string, unknown>): LiveStep {
    const dabs = input.dabs as readonly number[];
    const moved = new Set<number>();
    const note = (vertices: Iterable<number>) => {
      for (const v of vertices) moved.add(v);
    };
    if (dabsIn(dabs) < this.done) {
      note(this.beginAnew());
      this.done = 0;
    }
    for (; this.done < dabsIn(dabs); this.done++) note(this.take(dabAt(dabs, this.done)));
    return { moved: Int32Array.from(moved), topologyChanged: false };
  }
}

/** A stroke over a cage. */
export abstract class StrokeEdit extends Stroke implements LiveEdit {
  readonly cage: Cage;

  constructor(protected readonly from: Cage) {
    super();
    this.cage = from.clone();
  }
}
