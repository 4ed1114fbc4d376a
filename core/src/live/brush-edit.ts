import { BrushStroke, type BrushSettings } from '../even/brush-stroke.ts';
import { dabAt, dabsIn } from '../even/dabs.ts';
import { type NetLines } from '../even/held-lines.ts';
import { netOf } from '../even/vertex-net.ts';
import { type Cage } from '../mesh/cage.ts';
import { enclosedVolume } from '../mesh/topology.ts';
import { lengthInWords } from '../numeric/length-words.ts';
import { type LiveEdit, type LiveStep } from './live-edit.ts';

/** A stroke of a brush over a cage: each step takes the touches that have come since the one before. */
export class BrushEdit implements LiveEdit {
  readonly cage: Cage;
  private stroke: BrushStroke;
  private done = 0;
  private greatestMove = 0;
  /** of the whole cage as it was, mm3; nothing where it is open */
  private readonly volume: number | undefined;

  constructor(
    private readonly from: Cage,
    private readonly lines: NetLines,
    private readonly settings: BrushSettings
  ) {
    this.cage = from.clone();
    this.stroke = this.begun();
    this.volume = [...from.edges()].some((e) => from.isBorderEdge(e)) ? undefined : enclosedVolume(from);
  }

  /** How far the stroke has moved vertices, and what it has done to the volume. */
  get notes(): readonly string[] {
    if (this.done === 0) return [];
    const moved = `Moved by ${lengthInWords(this.greatestMove)} at most`;
    if (!this.volume) return [`${moved}.`];
    const percent = (100 * this.stroke.gained) / this.volume;
    return [`${moved}; volume ${percent < -0.0005 ? '-' : '+'}${Math.abs(percent).toFixed(3)} %.`];
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
      this.done = this.greatestMove = 0;
      for (const v of this.cage.vertices()) moved.add(v);
    }
    for (; this.done < dabsIn(dabs); this.done++) for (const v of this.stroke.dab(dabAt(dabs, this.done))) moved.add(v);
    const [p, q] = [this.from.positions, this.cage.positions];
    for (const v of moved)
      this.greatestMove = Math.max(this.greatestMove, Math.hypot(q[3 * v] - p[3 * v], q[3 * v + 1] - p[3 * v + 1], q[3 * v + 2] - p[3 * v + 2]));
    return { moved: Int32Array.from(moved), topologyChanged: false };
  }
}
