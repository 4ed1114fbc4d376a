import { dot, rowDots } from '../../numeric/dense-lower.ts';
import { WholeBasis, SWEEPS } from './whole-basis.ts';
import { valueOfSum, DECIDED } from './whole-sums.ts';

/** What is left to be rounded of a basis, with its covariance. */
export class OpenWholes {
  private readonly open: Int32Array;
  private readonly precision: Float64Array;
  private readonly covariance: Float64Array;

  constructor(readonly basis: WholeBasis) {
    const { count, isTaken } = basis;
    this.open = Int32Array.from({ length: count }, (_, k) => k).filter((k) => !isTaken[k]);
    this.precision = this.openPart(basis.precision);
    this.covariance = this.openPart(basis.covariance);
  }

  private openPart(matrix: Float64Array): Float64Array {
    const { open, basis } = this;
    const part = new Float64Array(open.length * open.length);
    let at = 0;
    for (const i of open) for (const j of open) part[at++] = matrix[i * basis.count + j];
    return part;
  }

  /**
   * @param means of the unknowns as they were at first; changed
   * @param values of the sums that were taken out
   * @param next as `RoundingOptions` has it
   * @param room for a matrix; changed
   * @returns whole values of the unknowns as they were at first
   */
  round(means: Float64Array, values: readonly number[], next: number, room: Float64Array): Float64Array {
    const { basis, open, covariance } = this;
    const { count, precision, parts } = basis;
    for (const { p, i, k } of basis.changes) means[p] += k * means[i];
    const step = new Float64Array(count);
    basis.taken.forEach(({ p, own, before }, s) => {
      if (p < 0) return;
      const value = Math.round((values[s] - valueOfSum(before, means)) / own);
      step[p] = value - means[p];
      means[p] = value;
    });
    const size = open.length;
    const pull = Float64Array.from(open, (k) => -dot(precision, k * count, step, 0, count));
    const x = Float64Array.from(open, (k, i) => means[k] + dot(covariance, i * size, pull, 0, size));
    const ideal = x.slice();
    roundGreedily(x, covariance, room);
    const slope = comeNearer(x, ideal, this.precision);
    if (next > 0) this.stepAway(x, slope, next);
    x.forEach((value, i) => (means[open[i]] = value));
    const first = new Float64Array(count);
    for (let c = 0; c < count; c++) for (let k = 0, at = c * count; k < count; k++) first[k] += parts[at + k] * means[c];
    return first;
  }

  /** Moves the unknown by one that is the n-th cheapest to move. */
  private stepAway(x: Float64Array, slope: Float64Array, next: number): void {
    const size = x.length;
    const steps = [...x.keys()].flatMap((i) => [1, -1].map((by) => ({ i, by, cost: this.precision[i * size + i] + 2 * by * slope[i] })));
    const step = steps.sort((a, b) => a.cost - b.cost)[next - 1];
    if (step) x[step.i] += step.by;
  }
}

/**
 * Rounds what is nearest to a whole number first, and moves the others to their means then.
 * @param known room for a matrix: the covariance that is left is what it was less the products of its rows
 */
function roundGreedily(x: Float64Array, covariance: Float64Array, known: Float64Array): void {
  const size = x.length;
  const products = new Float64Array(size);
  let open = Int32Array.from(x.keys());
  for (let steps = 0; steps < size; steps++) {
    let p = -1;
    let least = Infinity;
    for (const k of open) {
      const off = Math.abs(x[k] - Math.round(x[k]));
      if (off < least) {
        p = k;
        least = off;
      }
    }
    open = open.filter((k) => k !== p);
    const step = Math.round(x[p]) - x[p];
    x[p] = Math.round(x[p]);
    const row = p * size;
    const variance = covariance[row + p] - dot(known, row, known, row, steps);
    const deviation = Math.sqrt(Math.max(variance, DECIDED * covariance[row + p]));
    rowDots(known, size, p, open, steps, products);
    for (let n = 0; n < open.length; n++) {
      const i = open[n];
      const share = (covariance[row + i] - products[n]) / deviation;
      known[i * size + steps] = share;
      x[i] += (share / deviation) * step;
    }
  }
}

/**
 * Moves single unknowns, and pairs of them by one each, while that brings whole values nearer to what is ideal.
 * @returns half the slope of the distance there, squared as the precision has it
 */
function comeNearer(x: Float64Array, ideal: Float64Array, precision: Float64Array): Float64Array {
  const size = x.length;
  const off = x.map((value, i) => value - ideal[i]);
  const slope = Float64Array.from({ length: size }, (_, i) => dot(precision, i * size, off, 0, size));
  const own = Float64Array.from({ length: size }, (_, i) => precision[i * size + i]);
  // less is noise of the sums
  const least = 1e-9 * own.reduce((most, value) => Math.max(most, value), 0);
  const move = (i: number, by: number) => {
    x[i] += by;
    for (let j = 0; j < size; j++) slope[j] += by * precision[i * size + j];
  };
  const movedSingle = (i: number) => {
    const by = -Math.round(slope[i] / own[i]);
    const better = by * (by * own[i] + 2 * slope[i]) < -least;
    if (better) move(i, by);
    return better;
  };
  const movedPair = (i: number, j: number) => {
    const shared = precision[i * size + j];
    const a = slope[i] - Math.abs(slope[j] + shared) < -slope[i] - Math.abs(slope[j] - shared) ? 1 : -1;
    const better = own[i] + own[j] + 2 * (a * slope[i] - Math.abs(slope[j] + a * shared)) < -least;
    if (better) {
      move(i, a);
      move(j, slope[j] < 0 ? 1 : -1);
    }
    return better;
  };
  for (let sweep = 0, moved = true; moved && sweep < SWEEPS; sweep++) {
    moved = false;
    for (let i = 0; i < size; i++) if (movedSingle(i)) moved = true;
    if (moved) continue;
    for (let i = 0; i < size; i++) for (let j = 0; j < i; j++) if (movedPair(i, j)) moved = true;
  }
  return slope;
}
