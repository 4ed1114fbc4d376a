import { BrushStroke, type BrushSettings } from '../even/brush-stroke.ts';
import { type Dab } from '../even/dabs.ts';
import { type NetLines } from '../even/held-lines.ts';
import { netOf } from '../even/vertex-net.ts';
import { type Cage } from '../mesh/cage.ts';
import { enclosedVolume } from '../mesh/topology.ts';
import { changeInWords, lengthInWords } from '../numeric/length-words.ts';
import { StrokeEdit } from './stroke-edit.ts';

/** A stroke of a brush that moves vertices. */
export class BrushEdit extends StrokeEdit {
  private stroke: BrushStroke;
  private greatestMove = 0;
  /** of the whole cage as it was, mm3; nothing where it is open */
  private readonly volume: number | undefined;

  constructor(
    from: Cage,
    private readonly lines: NetLines,
    private readonly settings: BrushSettings
  ) {
    super(from);
    this.stroke = this.begun();
    this.volume = [...from.edges()].some((e) => from.isBorderEdge(e)) ? undefined : enclosedVolume(from);
  }

  /** How far the stroke has moved vertices, and what it has done to the volume. */
  get notes(): readonly string[] {
    if (this.done === 0) return [];
    const moved = `Moved by ${lengthInWords(this.greatestMove)} at most`;
    return [this.volume ? `${moved}; volume ${changeInWords((100 * this.stroke.gained) / this.volume, 3)}.` : `${moved}.`];
  }

  private begun(): BrushStroke {
    return new BrushStroke({ net: netOf(this.cage), lines: this.lines, positions: this.cage.positions }, this.settings);
  }

  protected beginAnew(): Iterable<number> {
    this.cage.positions.set(this.from.positions);
    this.stroke = this.begun();
    this.greatestMove = 0;
    return this.cage.vertices();
  }

  protected take(dab: Dab): Iterable<number> {
    const moved = this.stroke.dab(dab);
    const [p, q] = [this.from.positions, this.cage.positions];
    for (const v of moved)
      this.greatestMove = Math.max(this.greatestMove, Math.hypot(q[3 * v] - p[3 * v], q[3 * v + 1] - p[3 * v + 1], q[3 * v + 2] - p[3 * v + 2]));
    return moved;
  }
}
