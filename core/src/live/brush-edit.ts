import { BrushStroke, type BrushSettings } from '../even/brush-stroke.ts';
import { type Dab } from '../even/dabs.ts';
import { spreadAt } from '../even/even-out.ts';
import { type NetLines } from '../even/held-lines.ts';
import { heedLocks } from '../even/locks.ts';
import { heedHold } from '../hand/held.ts';
import { netOf, type VertexNet } from '../even/vertex-net.ts';
import { sixfoldVolume } from '../even/volume.ts';
import { type Cage } from '../mesh/cage.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { changeInWords, lengthInWords } from '../numeric/length-words.ts';
import { type LiveEdit, type MeshEdit } from './live-edit.ts';
import { Stroke } from './stroke-edit.ts';

/** Vertices whose edges are measured after every touch, at most. */
const MOST_MEASURED = 10_000;

/** What is brushed: its net, the lines its vertices slide along, and their places: as they were, and as they become. */
interface Brushed {
  net: VertexNet;
  lines: NetLines;
  from: Float64Array;
  positions: Float64Array;
}

/** A stroke of a brush that moves vertices. */
abstract class MovingStroke extends Stroke {
  private stroke: BrushStroke;
  /** vertices that it has come by */
  private readonly touched = new Set<number>();
  private greatestMove = 0;
  /** of the whole as it was, mm3; nothing where it is open */
  private readonly volume: number | undefined;

  constructor(
    private readonly surface: Brushed,
    private readonly settings: BrushSettings
  ) {
    super();
    this.stroke = this.begun();
    const { net, from } = surface;
    if (!net.border.includes(1))
      this.volume =
        sixfoldVolume(
          net,
          from,
          Int32Array.from({ length: net.faceStart.length - 1 }, (_, f) => f)
        ) / 6;
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
    const { net, from, positions } = this.surface;
    const touched = Int32Array.from(this.touched);
    const [before, now] = [from, positions].map((p) => spreadAt(net, p, touched).toFixed(2));
    return `; spread ${before} to ${now}`;
  }

  private begun(): BrushStroke {
    const { net, lines, positions } = this.surface;
    return new BrushStroke({ net, lines, positions }, this.settings);
  }

  protected beginAnew(): Iterable<number> {
    const { from, positions } = this.surface;
    positions.set(from);
    this.stroke = this.begun();
    this.greatestMove = 0;
    const moved = [...this.touched];
    this.touched.clear();
    return moved;
  }

  protected take(dab: Dab): Iterable<number> {
    const touched = this.stroke.dab(dab);
    const held = this.held();
    const moved = held.length > 0 ? [...touched, ...held] : touched;
    const { from: p, positions: q } = this.surface;
    for (const v of moved) {
      this.touched.add(v);
      this.greatestMove = Math.max(this.greatestMove, Math.hypot(q[3 * v] - p[3 * v], q[3 * v + 1] - p[3 * v + 1], q[3 * v + 2] - p[3 * v + 2]));
    }
    return moved;
  }

  /** Has what holds vertices do so. @returns those it moved */
  protected held(): readonly number[] {
    return [];
  }
}

/** A stroke of a brush over a cage, whose locks hold; what is held to the reference stays on it. */
export class BrushEdit extends MovingStroke implements LiveEdit {
  readonly cage: Cage;

  constructor(
    private readonly before: Cage,
    lines: NetLines,
    settings: BrushSettings,
    private readonly reference?: PolygonMesh
  ) {
    const cage = before.clone();
    super({ net: netOf(before), lines, from: before.positions, positions: cage.positions }, settings);
    this.cage = cage;
  }

  protected override held(): readonly number[] {
    const locked = heedLocks(this.before, this.cage);
    return this.reference ? [...locked, ...heedHold(this.before, this.cage, this.reference)] : locked;
  }
}

/** A stroke of a brush over a dense mesh. */
export class MeshBrushEdit extends MovingStroke implements MeshEdit {
  readonly mesh: PolygonMesh;

  constructor(before: PolygonMesh, { net, lines }: Pick<Brushed, 'net' | 'lines'>, settings: BrushSettings) {
    const mesh = { ...before, positions: before.positions.slice() };
    super({ net, lines, from: before.positions, positions: mesh.positions }, settings);
    this.mesh = mesh;
  }
}
