import { goDown } from '../../numeric/lbfgs.ts';

/** Triangles of a map that is linear in some unknowns, of which some may move. */
export interface MapPatch {
  /** by triangle, its area, and the inverse of the matrix whose columns are its first two edges from corner 0 as they are meant, row by row */
  area: Float64Array;
  inverse: Float64Array;
  /** by triangle u of both edges, v of both edges, in the map as it stands */
  edges: Float64Array;
  /** by triangle where its terms begin: u's first, then v's from `startV` on */
  startU: Int32Array;
  startV: Int32Array;
  /** of each term the unknown, and by how much its moving changes both edges */
  unknown: Int32Array;
  onFirst: Float64Array;
  onSecond: Float64Array;
  /** how many unknowns may move */
  count: number;
}

/** Once all triangles have more than this share of the area that is meant, they are unfolded. */
const UNFOLDED = 0.02;
/** Rounds of so many steps each; after the first ones it ends where a round gains less than the share. */
const [ROUNDS, STEPS, PATIENT, GAIN] = [12, 30, 4, 3e-3];
/** How near to nothing areas may come, and what share of the worst area of those turned over counts as nothing. */
const [LEAST, SHARE] = [1e-3, 0.2];

/**
 * Moves unknowns so that triangles which are turned over in a map come right, and all are distorted the least (Garanzha, Kaporin,
 * Kudryavtseva, Protais, Ray, Sokolov 2021): shape and area count over how large a triangle is, where no size is less than a small one
 * that shrinks as they come right.
 * @returns by how much each unknown is to move, and the smallest share of its area that a triangle has then
 */
export function unfold(patch: MapPatch): { moves: Float64Array; least: number } {
  const moves = new Float64Array(patch.count);
  const distortion = new Distortion(patch);
  let value = distortion.at(moves, new Float64Array(patch.count));
  for (let round = 0; round < ROUNDS && distortion.least <= UNFOLDED; round++) {
    distortion.soften();
    const before = round > 0 ? value : Infinity;
    value = goDown((z, gradient) => distortion.at(z, gradient), moves, STEPS);
    distortion.at(moves, new Float64Array(patch.count));
    if (round > PATIENT && before - value < GAIN * before) break;
  }
  return { moves, least: distortion.least };
}

/** What speaks against how triangles lie in the map. */
class Distortion {
  /** smallest share of its area that a triangle had last */
  least = 0;
  private softness = 1;

  constructor(private readonly patch: MapPatch) {}

  /** Sets what counts as nothing by the triangles as they are. */
  soften(): void {
    this.softness = this.least > 0 ? LEAST : Math.hypot(LEAST, SHARE * this.least);
  }

  /** @param gradient gets the slopes */
  at(z: Float64Array, gradient: Float64Array): number {
    const { area, inverse: m, edges, startU, startV, unknown, onFirst, onSecond } = this.patch;
    const soft2 = this.softness ** 2;
    gradient.fill(0);
    let sum = 0;
    let least = Infinity;
    for (let t = 0; t < area.length; t++) {
      const i = 4 * t;
      let u1 = edges[i];
      let u2 = edges[i + 1];
      let v1 = edges[i + 2];
      let v2 = edges[i + 3];
      for (let e = startU[t]; e < startV[t]; e++) {
        u1 += onFirst[e] * z[unknown[e]];
        u2 += onSecond[e] * z[unknown[e]];
      }
      for (let e = startV[t]; e < startU[t + 1]; e++) {
        v1 += onFirst[e] * z[unknown[e]];
        v2 += onSecond[e] * z[unknown[e]];
      }
      const a = u1 * m[i] + u2 * m[i + 2];
      const b = u1 * m[i + 1] + u2 * m[i + 3];
      const c = v1 * m[i] + v2 * m[i + 2];
      const d = v1 * m[i + 1] + v2 * m[i + 3];
      const share = a * d - b * c;
      if (share < least) least = share;
      const root = Math.sqrt(soft2 + share * share);
      const small = share > 0 ? (share + root) / 2 : soft2 / (root - share) / 2;
      const distortion = (a * a + b * b + c * c + d * d + share * share + 1) / small;
      sum += area[t] * distortion;
      const even = (2 * area[t]) / small;
      const odd = area[t] * ((2 * share - (distortion * small) / root) / small);
      const ga = even * a + odd * d;
      const gb = even * b - odd * c;
      const gc = even * c - odd * b;
      const gd = even * d + odd * a;
      const g1 = ga * m[i] + gb * m[i + 1];
      const g2 = ga * m[i + 2] + gb * m[i + 3];
      for (let e = startU[t]; e < startV[t]; e++) gradient[unknown[e]] += onFirst[e] * g1 + onSecond[e] * g2;
      const h1 = gc * m[i] + gd * m[i + 1];
      const h2 = gc * m[i + 2] + gd * m[i + 3];
      for (let e = startV[t]; e < startU[t + 1]; e++) gradient[unknown[e]] += onFirst[e] * h1 + onSecond[e] * h2;
    }
    this.least = least;
    return sum;
  }
}
