import { falloffShare, type Ramp } from '../select/falloff.ts';
import { type Dab } from './dabs.ts';
import { type MovingSurface, type Touched } from './passes.ts';
import { normalAt } from './vertex-net.ts';

/** What a brush takes hold of. */
export interface TouchSettings {
  /** mm */
  radius: number;
  /** all vertices in the direction of the touch; otherwise what hangs together and looks the same way */
  through: boolean;
  /** how much a vertex may follow, 0 to 1 */
  follows(v: number): number;
  /** how vertices follow with their distance */
  ramp?: Ramp;
}

/** Finds what lies under the touches of a stroke, one after the other. */
export class BrushTouch {
  /** by vertex, the touch that came by it last */
  private readonly stamp: Int32Array;
  private time = 0;
  /** the vertex nearest to the last touch */
  private seed = -1;
  private readonly normal = new Float64Array(3);

  constructor(
    private readonly surface: Pick<MovingSurface, 'net' | 'positions'>,
    private readonly settings: TouchSettings
  ) {
    this.stamp = new Int32Array(surface.net.slots);
  }

  /** Vertices under a touch, each with its share. */
  at({ at, normal }: Pick<Dab, 'at' | 'normal'>): Touched {
    const { radius, through, follows, ramp } = this.settings;
    const { positions: p } = this.surface;
    const vertices: number[] = [];
    const weights: number[] = [];
    const take = (v: number, distance: number) => {
      const weight = falloffShare(distance, radius, ramp) * follows(v);
      if (weight <= 0) return;
      vertices.push(v);
      weights.push(weight);
    };
    if (through)
      for (let v = 0; v < this.surface.net.slots; v++) {
        const [x, y, z] = [p[3 * v] - at[0], p[3 * v + 1] - at[1], p[3 * v + 2] - at[2]];
        const along = x * normal[0] + y * normal[1] + z * normal[2];
        const off2 = x * x + y * y + z * z - along * along;
        if (off2 < radius * radius) take(v, Math.sqrt(Math.max(0, off2)));
      }
    else this.grow(at, normal, take);
    return { vertices: Int32Array.from(vertices), weights: Float64Array.from(weights) };
  }

  /** Vertices under a touch, or the nearest one where there is none. */
  nearTo(dab: Pick<Dab, 'at' | 'normal'>): Iterable<number> {
    const { vertices } = this.at(dab);
    return vertices.length > 0 || this.seed < 0 ? vertices : [this.seed];
  }

  /** What hangs together within the radius and looks the way the touch does. */
  private grow(at: readonly number[], looks: readonly number[], take: (v: number, distance: number) => void): void {
    const { net, positions: p } = this.surface;
    const { radius } = this.settings;
    const distance2 = (v: number) => (p[3 * v] - at[0]) ** 2 + (p[3 * v + 1] - at[1]) ** 2 + (p[3 * v + 2] - at[2]) ** 2;
    const seed = this.nearest(distance2);
    if (seed < 0) return;
    const time = ++this.time;
    const open = [seed];
    this.stamp[seed] = time;
    while (open.length > 0) {
      const v = open.pop()!;
      const far2 = distance2(v);
      if (far2 >= radius * radius && v !== seed) continue;
      normalAt(net, p, v, this.normal);
      // what is turned away lies on another side
      if (this.normal[0] * looks[0] + this.normal[1] * looks[1] + this.normal[2] * looks[2] < 0) continue;
      take(v, Math.sqrt(far2));
      for (let i = net.start[v]; i < net.start[v + 1]; i++) {
        const w = net.ring[i];
        if (this.stamp[w] === time) continue;
        this.stamp[w] = time;
        open.push(w);
      }
    }
  }

  /** The vertex nearest to a touch: from neighbour to neighbour from the one before, or among all of them. */
  private nearest(distance2: (v: number) => number): number {
    const { net } = this.surface;
    let best = this.seed;
    if (best >= 0) {
      for (let least = distance2(best), came = true; came;) {
        came = false;
        for (let i = net.start[best]; i < net.start[best + 1] && !came; i++) {
          const other = distance2(net.ring[i]);
          if (other >= least) continue;
          [best, least, came] = [net.ring[i], other, true];
        }
      }
      if (distance2(best) < this.settings.radius ** 2) return (this.seed = best);
    }
    best = -1;
    let least = Infinity;
    for (let v = 0; v < net.slots; v++) {
      if (net.start[v] === net.start[v + 1]) continue;
      const own = distance2(v);
      if (own < least) [best, least] = [v, own];
    }
    return (this.seed = best);
  }
}
