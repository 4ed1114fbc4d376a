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
  /** three numbers a quad */
  private readonly normals: Float64Array;
  /** quads at each point */
  private readonly at: number[][];

  constructor(private readonly patch: Patch) {
    const { quads, places } = patch;
    this.at = places.map(() => []);
    this.normals = new Float64Array(3 * quads.length);
    quads.forEach((quad, q) => {
      for (const p of quad) this.at[p].push(q);
      const [a, b, c, d] = quad.map((p) => places[p]);
      this.normals.set(cross(subtract(c, a), subtract(d, b)), 3 * q);
    });
    this.evenOutNormals();
  }

  private evenOutNormals(): void {
    const { quads, places } = this.patch;
    const { normals } = this;
    const atPoint = new Float64Array(3 * places.length);
    for (let round = 0; round < EVENED; round++) {
      atPoint.fill(0);
      for (let q = 0; q < quads.length; q++) for (const p of quads[q]) for (let k = 0; k < 3; k++) atPoint[3 * p + k] += normals[3 * q + k];
      normals.fill(0);
      for (let q = 0; q < quads.length; q++) for (const p of quads[q]) for (let k = 0; k < 3; k++) normals[3 * q + k] += atPoint[3 * p + k];
    }
    for (let q = 0; q < quads.length; q++) normals.set(unit(this.normal(q)), 3 * q);
  }

  private normal = (q: number): Triple => [this.normals[3 * q], this.normals[3 * q + 1], this.normals[3 * q + 2]];

  /** Scaled Jacobian of a quad: the least sine of its corners, seen along its direction; below 0 one turns the wrong way. */
  of(q: number): number {
    const { places } = this.patch;
    const quad = this.patch.quads[q];
    const [nx, ny, nz] = [this.normals[3 * q], this.normals[3 * q + 1], this.normals[3 * q + 2]];
    let least = 1;
    const last = places[quad[3]];
    const first = places[quad[0]];
    let [bx, by, bz] = [first[0] - last[0], first[1] - last[1], first[2] - last[2]];
    let before = Math.sqrt(bx * bx + by * by + bz * bz);
    for (let i = 0; i < 4; i++) {
      const [p, next] = [places[quad[i]], places[quad[(i + 1) & 3]]];
      const [x, y, z] = [next[0] - p[0], next[1] - p[1], next[2] - p[2]];
      const long = Math.sqrt(x * x + y * y + z * z);
      // beside the doubled point of a triangle there is no corner to measure
      if (long !== 0 && before !== 0) {
        const sine = ((by * z - bz * y) * nx + (bz * x - bx * z) * ny + (bx * y - by * x) * nz) / (long * before);
        if (sine < least) least = sine;
      }
      [bx, by, bz, before] = [x, y, z, long];
    }
    return least;
  }

  /** Least and mean scaled Jacobian. */
  summary(): { worst: number; mean: number } {
    const count = this.patch.quads.length;
    let [worst, sum] = [1, 0];
    for (let q = 0; q < count; q++) {
      const own = this.of(q);
      worst = Math.min(worst, own);
      sum += own;
    }
    return { worst, mean: sum / (count || 1) };
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
    const worst = () => {
      let least = 1;
      for (const q of around) least = Math.min(least, this.of(q));
      return least;
    };
    const before = worst();
    if (around.length === 0 || before >= (quads.length > MANY ? GOOD_OF_MANY : GOOD)) return false;
    const at = places[p];
    const normal = unit(around.reduce<Triple>((sum, q) => add(sum, this.normal(q)), [0, 0, 0]));
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
