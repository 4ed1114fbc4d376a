import { BrushStroke, type BrushSettings } from '../even/brush-stroke.ts';
import { dabAt, dabsIn } from '../even/dabs.ts';
import { type NetLines } from '../even/held-lines.ts';
import { netOf } from '../even/vertex-net.ts';
import { type Cage } from '../mesh/cage.ts';
import { type LiveEdit, type LiveStep } from './live-edit.ts';

/** A stroke of a brush over a cage: each step takes the touches that have come since the one before. */
export class BrushEdit implements LiveEdit {
  readonly cage: Cage;
  readonly notes: readonly string[] = [];
  private stroke: BrushStroke;
  private done = 0;

  constructor(
    private readonly from: Cage,
    private readonly lines: NetLines,
    private readonly settings: BrushSettings
  ) {
    this.cage = from.clone();
    this.stroke = this.begun();
  }

  private begun(): BrushStroke {
    return new BrushStroke({ net: netOf(this.cage), lines: this.lines, positions: this.cage.positions }, this.settings);
  }

  /** @param input its `dabs`, those of earlier steps first */
  step(input: Record<string, unknown>): LiveStep {
    const dabs = input.dabs as readonly number[];
    const moved = new Set<number>();
    if (dabsIn(dabs) < this.done) {
      // a stroke that begins anew begins on what was there before
      this.cage.positions.set(this.from.positions);
      this.stroke = this.begun();
      this.done = 0;
      for (const v of this.cage.vertices()) moved.add(v);
    }
    for (; this.done < dabsIn(dabs); this.done++) for (const v of this.stroke.dab(dabAt(dabs, this.done))) moved.add(v);
    return { moved: Int32Array.from(moved), topologyChanged: false };
  }
}
