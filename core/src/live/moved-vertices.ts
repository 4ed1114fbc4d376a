import { heedLocks, locksOf } from '../even/locks.ts';
import { type Cage } from '../mesh/cage.ts';
import { between, type Triple } from '../numeric/vectors.ts';
import { type Counterparts } from '../select/counterparts.ts';
import { type LiveEdit, type LiveStep } from './live-edit.ts';

/** A mirror at 0 along an axis (0, 1 or 2), and each vertex's image in it. */
export interface Mirrored {
  axis: number;
  counterparts: Counterparts;
}

/** Vertices that follow one change of place, each by a share of it, and their images in a mirror; found once, placed as often as wanted. */
export class MovedVertices {
  /** all that may come to lie elsewhere */
  readonly ids: Int32Array;
  /** images that follow others */
  readonly followed: number;
  private readonly from: Float64Array;
  private readonly leads: readonly (readonly [vertex: number, image: number])[];

  /** @param weights by vertex, how much it follows: 1 wholly */
  constructor(
    cage: Cage,
    private readonly weights: ReadonlyMap<number, number>,
    private readonly mirrored?: Mirrored
  ) {
    this.from = Float64Array.from([...weights.keys()].flatMap((v) => cage.position(v)));
    this.leads = mirrored ? leadsOf(cage, weights, mirrored) : [];
    this.followed = this.leads.filter(([v, w]) => v !== w).length;
    this.ids = Int32Array.from(new Set([...weights.keys(), ...this.leads.map(([, w]) => w)]));
  }

  /** Puts them where a function of their first place says. @param positions x, y, z by vertex id; written to */
  place(positions: Float64Array, change: (p: Triple) => Triple): void {
    let i = 0;
    for (const [v, weight] of this.weights) {
      const at: Triple = [this.from[i], this.from[i + 1], this.from[i + 2]];
      i += 3;
      const to = change([...at]);
      positions.set(weight === 1 ? to : between(at, to, weight), 3 * v);
    }
    if (!this.mirrored) return;
    const { axis } = this.mirrored;
    for (const [v, w] of this.leads) {
      const to = [...positions.subarray(3 * v, 3 * v + 3)];
      to[axis] = w === v ? 0 : -to[axis];
      positions.set(to, 3 * w);
    }
  }
}

/** Of each pair of images the one that leads; vertices on the mirror lead themselves. */
function leadsOf(cage: Cage, weights: ReadonlyMap<number, number>, { axis, counterparts }: Mirrored): [number, number][] {
  const { positions } = cage;
  return [...weights].flatMap(([v, weight]): [number, number][] => {
    const w = counterparts.get(v);
    // of two that are both moved, the one that follows more leads, then the one on the positive side
    if (w === undefined || (w !== v && (weights.get(w) ?? 0) > weight)) return [];
    if (w !== v && weights.get(w) === weight && positions[3 * v + axis] < positions[3 * w + axis]) return [];
    return [[v, w]];
  });
}

/** Vertices moved live, by a change of place that each step says. */
export class MovingVertices implements LiveEdit {
  readonly cage: Cage;
  /** those that moved ones are locked with among them */
  private readonly moved: Int32Array;

  /** @param changeOf the change of place that some numbers mean */
  constructor(
    private readonly from: Cage,
    private readonly vertices: MovedVertices,
    private readonly changeOf: (input: Record<string, unknown>) => (p: Triple) => Triple,
    readonly notes: readonly string[] = []
  ) {
    this.cage = from.clone();
    const locked = locksOf(from).flatMap((lock) => lock.vertices);
    this.moved = locked.length > 0 ? Int32Array.from(new Set([...vertices.ids, ...locked])) : vertices.ids;
  }

  step(input: Record<string, unknown>): LiveStep {
    // what locks moved in the step before
    if (this.moved !== this.vertices.ids) this.cage.positions.set(this.from.positions);
    this.vertices.place(this.cage.positions, this.changeOf(input));
    heedLocks(this.from, this.cage);
    return { moved: this.moved, topologyChanged: false };
  }
}
