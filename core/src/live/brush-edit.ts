import { BrushStroke, type BrushSettings } from '../even/brush-stroke.ts';
import { type Dab } from '../even/dabs.ts';
import { type NetLines } from '../even/held-lines.ts';
import { heedLocks } from '../even/locks.ts';
import { spreadAt } from '../even/even-out.ts';
import { netOf, type VertexNet } from '../even/vertex-net.ts';
import { type Cage } from '../mesh/cage.ts';
import { enclosedVolume } from '../mesh/topology.ts';
import { changeInWords, lengthInWords } from '../numeric/length-words.ts';
import { StrokeEdit } from './stroke-edit.ts';

/** Vertices whose edges are measured after every touch, at most. */
const MOST_MEASURED = 10_000;

/** A stroke of a brush that moves vertices. */
export class BrushEdit extends StrokeEdit {
  private stroke: BrushStroke;
  private readonly net: VertexNet;
  /** vertices that it has come by */
  private readonly touched = new Set<number>();
  private greatestMove = 0;
  /** of the whole cage as it was, mm3; nothing where it is open */
  private readonly volume: number | undefined;

  constructor(
    from: Cage,
    private readonly lines: NetLines,
    private readonly settings: BrushSettings
  ) {
    super(from);
    this.net = netOf(from);
    this.stroke = this.begun();
    this.volume = [...from.edges()].some((e) => from.isBorderEdge(e)) ? undefined : enclosedVolume(from);
  }

  /** How far the stroke has moved vertices, and what it has done to the volume. */
  get notes(): readonly string[] {
    if (this.done === 0) return [];
    const moved = `Moved by ${lengthInWords(this.greatestMove)} at most${this.spread}`;
    return [this.volume ? `${moved}; volume ${changeInWords((100 * this.stroke.gained) / this.volume, 3)}.` : `${moved}.`];
  }

  /** How even edges were where it came by, and are now; nothing where these are too many to be told while it is drawn. */
  private get spread(): string {
    if (this.touched.size > MOST_MEASURED) return '';
    const touched = Int32Array.from(this.touched);
    const [before, now] = [this.from, this.cage].map(({ positions }) => spreadAt(this.net, positions, touched).toFixed(2));
    return `; spread ${before} to ${now}`;
  }

  private begun(): BrushStroke {
    return new BrushStroke({ net: this.net, lines: this.lines, positions: this.cage.positions }, this.settings);
  }

  protected beginAnew(): Iterable<number> {
    this.cage.positions.set(this.from.positions);
    this.stroke = this.begun();
    this.greatestMove = 0;
    this.touched.clear();
    return this.cage.vertices();
  }

  protected take(dab: Dab): Iterable<number> {
    const touched = this.stroke.dab(dab);
    const held = heedLocks(this.from, this.cage);
    const moved = held.length > 0 ? [...touched, ...held] : touched;
    const [p, q] = [this.from.positions, this.cage.positions];
    for (const v of moved) this.touched.add(v);
    for (const v of moved)
      this.greatestMove = Math.max(this.greatestMove, Math.hypot(q[3 * v] - p[3 * v], q[3 * v + 1] - p[3 * v + 1], q[3 * v + 2] - p[3 * v + 2]));
    return moved;
  }
}
