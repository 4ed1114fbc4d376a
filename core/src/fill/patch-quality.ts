import { planeAcross } from '../numeric/best-fit.ts';
import { add, cross, dot, length, mean, scaled, subtract, unit, type Triple } from '../numeric/vectors.ts';
import { type Patch } from './patch.ts';

/** Below this scaled Jacobian of a quad its corners inside are moved; in a patch of many quads only what is much poorer is. */
const [GOOD, GOOD_OF_MANY] = [0.7, 0.4];
const MANY = 1000;
const ROUNDS = 20;
/** Times normals are evened out, so that a quad that lies turned over is measured against those round it. */
const EVENED = 4;

/** Quads of a patch with a direction each that its corners are measured against. */
export class PatchQuality {
  private normals: Triple[];
  /** quads at each point */
  private readonly at: number[][];

  constructor(private readonly patch: Patch) {
    const { quads, places } = patch;
    this.at = places.map(() => []);
    quads.forEach((quad, q) => quad.forEach((p) => this.at[p].push(q)));
    this.normals = quads.map((quad) => {
      const [a, b, c, d] = quad.map((p) => places[p]);
      return cross(subtract(c, a), subtract(d, b));
    });
    for (let round = 0; round < EVENED; round++) {
      const atPoint = this.at.map((near) => near.reduce<Triple>((sum, q) => add(sum, this.normals[q]), [0, 0, 0]));
      this.normals = quads.map((quad) => quad.reduce<Triple>((sum, p) => add(sum, atPoint[p]), [0, 0, 0]));
    }
    this.normals = this.normals.map(unit);
  }

  /** Scaled Jacobian of a quad: the least sine of its corners, seen along its direction; below 0 one turns the wrong way. */
  of(q: number): number {
    const normal = this.normals[q];
    const corners = this.patch.quads[q].map((p) => this.patch.places[p]);
    const sides = corners.map((p, i) => subtract(corners[(i + 1) % 4], p));
    const lengths = sides.map(length);
    let least = 1;
    for (let i = 0; i < 4; i++) {
      const before = (i + 3) % 4;
      // beside the doubled point of a triangle there is no corner to measure
      if (lengths[i] === 0 || lengths[before] === 0) continue;
      least = Math.min(least, dot(cross(sides[before], sides[i]), normal) / (lengths[i] * lengths[before]));
    }
    return least;
  }

  /** Least and mean scaled Jacobian. */
  summary(): { worst: number; mean: number } {
    const each = this.patch.quads.map((_, q) => this.of(q));
    return { worst: each.reduce((a, b) => Math.min(a, b), 1), mean: each.reduce((a, b) => a + b, 0) / (each.length || 1) };
  }

  /** Moves points inside whose quads are poor, within the surface there, to where the poorest of them is best (Freitag 1997). Changes the patch. */
  improve(): void {
    const { rim, places } = this.patch;
    for (let round = 0, moved = true; moved && round < ROUNDS; round++) {
      moved = false;
      for (let p = rim; p < places.length; p++) if (this.improveAt(p, 0.4 * 0.85 ** round)) moved = true;
    }
  }

  private improveAt(p: number, reach: number): boolean {
    const { places, quads } = this.patch;
    const around = this.at[p];
    const worst = () => around.reduce((least, q) => Math.min(least, this.of(q)), 1);
    const before = worst();
    if (around.length === 0 || before >= (quads.length > MANY ? GOOD_OF_MANY : GOOD)) return false;
    const at = places[p];
    const normal = unit(around.reduce<Triple>((sum, q) => add(sum, this.normals[q]), [0, 0, 0]));
    const ends = around.map((q) => places[quads[q][(quads[q].indexOf(p) + 1) % 4]]);
    const middle = subtract(mean(ends), at);
    const { u, v } = planeAcross(at, normal);
    const step = reach * (ends.reduce((sum, e) => sum + length(subtract(e, at)), 0) / ends.length);
    const ways = [scaled(subtract(middle, scaled(normal, dot(middle, normal))), 0.5)];
    for (let k = 0; k < 8; k++) ways.push(add(scaled(u, step * Math.cos((k * Math.PI) / 4)), scaled(v, step * Math.sin((k * Math.PI) / 4))));
    let best = at;
    let most = before + 1e-3;
    for (const way of ways) {
      places[p] = add(at, way);
      const now = worst();
      if (now > most) [most, best] = [now, places[p]];
    }
    places[p] = best;
    return best !== at;
  }
}
