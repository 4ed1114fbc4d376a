import { dot } from '../../numeric/dense-lower.ts';
import { type WholeSum, timesSum } from './whole-sums.ts';

/** Sweeps over all pairs at most. */
export const SWEEPS = 30;
/** Unknowns are exchanged where they share more than so much of the precision of one of them; a half is the least. */
const TIED = 0.51;

/**
 * Whole unknowns, exchanged for sums of themselves that keep whole numbers whole both ways, with their covariance and its inverse, the
 * precision. Where one has its value, the precision of the others is what is left of the matrix, and the covariance follows from it.
 */
export class WholeBasis {
  /** row c: coefficients of unknown c, as it is now, in the unknowns as they were at first */
  readonly parts: Float64Array;
  /** unknown p stands for itself plus k times unknown i from then on */
  readonly changes: { p: number; i: number; k: number }[] = [];
  /** unknowns that get a value: a sum is `own` times it plus those with values before */
  readonly taken: { p: number; own: number; before: [number, number][] }[] = [];
  readonly isTaken: Uint8Array;

  /** @param precision,covariance whole symmetric matrices, row by row; changed */
  constructor(
    readonly count: number,
    readonly precision: Float64Array,
    readonly covariance: Float64Array
  ) {
    this.isTaken = new Uint8Array(count);
    this.parts = new Float64Array(count * count);
    for (let k = 0; k < count; k++) this.parts[k * count + k] = 1;
  }

  copy(): WholeBasis {
    const copy = new WholeBasis(this.count, this.precision.slice(), this.covariance.slice());
    copy.parts.set(this.parts);
    copy.isTaken.set(this.isTaken);
    copy.changes.push(...this.changes);
    copy.taken.push(...this.taken);
    return copy;
  }

  /** Variance of a sum as those that are taken leave it. */
  variance(sum: WholeSum): number {
    const { count, parts, covariance, isTaken } = this;
    const open = timesSum(parts, count, sum).map((c, k) => (isTaken[k] ? 0 : c));
    let variance = 0;
    open.forEach((c, k) => {
      if (c !== 0) variance += c * dot(covariance, k * count, open, 0, count);
    });
    return Math.max(variance, 0);
  }

  /** Makes a sum one of the unknowns, its coefficients brought to their common factor as in Euclid's algorithm, and takes it out. */
  take(sum: WholeSum): void {
    const { count, parts, precision, isTaken } = this;
    const coefficients = timesSum(parts, count, sum);
    const before: [number, number][] = [];
    let open: number[] = [];
    coefficients.forEach((c, k) => {
      if (c === 0) return;
      if (isTaken[k]) before.push([k, c]);
      else open.push(k);
    });
    const size = (k: number) => Math.abs(coefficients[k]);
    const own = (k: number) => precision[k * count + k];
    while (open.length > 1) {
      const p = open.reduce((best, k) => (size(k) < size(best) || (size(k) === size(best) && own(k) < own(best)) ? k : best));
      for (const i of open) {
        if (i === p) continue;
        const k = Math.round(coefficients[i] / coefficients[p]);
        this.change(p, i, k);
        coefficients[i] -= k * coefficients[p];
      }
      open = open.filter((k) => coefficients[k] !== 0);
    }
    // nothing is left of one that those before it decide; it keeps its place among the values
    const p = open.length > 0 ? open[0] : -1;
    this.taken.push({ p, own: coefficients[p], before });
    if (p < 0) return;
    isTaken[p] = 1;
    const known = this.covariance.slice(p * count, (p + 1) * count);
    // those that are taken have no use for theirs
    const others = Int32Array.from(isTaken.keys()).filter((i) => isTaken[i] === 0);
    for (const i of others) {
      const share = known[i] / known[p];
      const row = i * count;
      for (const j of others) this.covariance[row + j] -= share * known[j];
    }
  }

  /**
   * Exchanges unknowns, pair by pair as Lagrange does it, until they depend on each other the least. Otherwise sums get large
   * coefficients as more of them become unknowns, and what is rounded one after the other ends far from what is nearest.
   */
  shorten(): void {
    const { count, precision, isTaken } = this;
    for (let sweep = 0, changed = true; changed && sweep < SWEEPS; sweep++) {
      changed = false;
      for (let p = 0; p < count; p++) {
        if (isTaken[p]) continue;
        const row = p * count;
        const own = precision[row + p];
        const bound = TIED * own;
        for (let i = 0; i < count; i++) {
          const shared = precision[row + i];
          if ((shared <= bound && shared >= -bound) || i === p || isTaken[i]) continue;
          this.change(p, i, Math.round(shared / own));
          changed = true;
        }
      }
    }
  }

  private change(p: number, i: number, k: number): void {
    if (k === 0) return;
    const { precision, covariance, parts, count } = this;
    this.changes.push({ p, i, k });
    addRow(precision, count, i, p, -k);
    addRow(covariance, count, p, i, k);
    for (let j = 0; j < count; j++) parts[i * count + j] -= k * parts[p * count + j];
  }
}

/** Row and column `to` of a symmetric matrix get k times row and column `from`. */
function addRow(m: Float64Array, count: number, to: number, from: number, k: number): void {
  for (let j = 0; j < count; j++) m[to * count + j] += k * m[from * count + j];
  for (let j = 0; j < count; j++) m[j * count + to] += k * m[j * count + from];
}
