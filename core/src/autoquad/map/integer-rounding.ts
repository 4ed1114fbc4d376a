/** A sum of whole unknowns: their numbers and coefficients. */
export type WholeSum = readonly (readonly [number, number])[];

/** A sum that is to come out so large, whichever way it runs. */
export interface WholeWish {
  sum: WholeSum;
  size: number;
}

export const valueOfSum = (sum: WholeSum, x: Float64Array): number => {
  let value = 0;
  for (const [k, c] of sum) value += c * x[k];
  return value;
};

/** What sums of whole unknowns are to come out as; an earlier one goes before a later one, and all before single unknowns. */
export interface WholeWishes {
  sized: readonly WholeWish[];
  /** nothing, one after the other, where that costs little */
  nothing: readonly WholeSum[];
  /** what they are nearest to as they stand, so that what is rounded along them does not add up; the shortest first, up to `LONG` */
  lengths: readonly WholeSum[];
  /** pairs that are not both nothing, where that costs little */
  apart: readonly (readonly [WholeSum, WholeSum])[];
  /** at least 1, where that costs little */
  sides: readonly WholeSum[];
}

const NO_WISHES: WholeWishes = { sized: [], nothing: [], lengths: [], apart: [], sides: [] };
/** Lengths that are rounded as such; those that would come out shorter than the third get that. */
const [SHORT, LONG, LEAST_LENGTH] = [1.5, 12, 4];
/** Share of a variance below which a sum is decided by those that have their values. */
const DECIDED = 1e-9;
/** States of the unknowns that are kept: sizes next to each other give the same sums values. */
const MOST_KEPT = 8;
/** Times that pairs that have come out as nothing are parted and sums kept from below 1, and the squared standard deviations from which on they are left. */
const [MOST_MENDED, DEAR, DEAR_SIDE] = [4, 4, 8];

/** How unknowns are rounded. */
export interface RoundingOptions {
  /** sums that are so many standard deviations off nothing are made nothing, the nearest first */
  within?: number;
  /** what bounds are meant for, over this right-hand side */
  scale?: number;
  /** whether pairs are parted, which takes several times as long */
  parted?: boolean;
  /** 0 for what is nearest, n for the n-th of those that are one step of one unknown away, the nearest first */
  next?: number;
}

/**
 * Least squares over whole numbers: the unknown nearest to a whole number is fixed, the others follow by their exact conditional
 * mean, and so on; then single ones and pairs move by one where that comes nearer. Sums that are wished for are made unknowns
 * first, and unknowns are exchanged for sums of them that depend on each other the least (a reduced basis of the lattice); all
 * that does not depend on the right-hand side is computed once.
 */
export class WholeRounding {
  /** inverse of L, row by row */
  private readonly inverse: Float64Array;
  private wishes = NO_WISHES;
  /** sums that may get values: first those of `bySum`, then pairs to be parted, then sides */
  private sums: WholeSum[] = [];
  /** by sum, but for pairs and sides, L^-1 times its coefficients: its mean is their product with y */
  private bySum: Float64Array[] = [];
  /** by two of them their covariance */
  private shared: Float64Array[] = [];
  /** by the sums that have values what is left; by none first */
  private readonly kept: Map<string, OpenWholes>;
  /** room for a matrix while rounding */
  private readonly room: Float64Array;

  /** @param lower factor L of the normal equations' matrix L Lt, row by row */
  constructor(
    lower: Float64Array,
    private readonly count: number
  ) {
    this.inverse = inverseOfLower(lower, count);
    const basis = new WholeBasis(count, rowProducts(lower, count), columnProducts(this.inverse, count));
    basis.shorten();
    this.kept = new Map([['', new OpenWholes(basis)]]);
    this.room = new Float64Array(count * count);
  }

  /** Says what sums are to come out as, in place of what was said before. */
  ask(wishes: WholeWishes): void {
    const { count, inverse, kept } = this;
    const { sized, nothing, lengths, apart, sides } = (this.wishes = wishes);
    for (const key of [...kept.keys()].slice(1)) kept.delete(key);
    const early = [...sized.map(({ sum }) => sum), ...nothing, ...lengths];
    this.bySum = early.map((sum) => timesSum(inverse, count, sum));
    this.shared = this.bySum.map((a) => Float64Array.from(this.bySum, (b) => dot(a, 0, b, 0, count)));
    this.sums = [...early, ...apart.flat(), ...sides];
  }

  /** @param y L^-1 times the right-hand side */
  round(y: Float64Array, { within = 0, scale = 1, parted = false, next = 0 }: RoundingOptions = {}): Float64Array {
    const { count, inverse } = this;
    const means = new Float64Array(count);
    for (let k = 0; k < count; k++) for (let i = 0; i <= k; i++) means[i] += inverse[k * count + i] * y[k];
    const values = this.chosen(y, within / scale, scale);
    for (let round = 0; ; round++) {
      const open = this.openWith([...values.keys()]);
      const x = open.round(means.slice(), [...values.values()], next, this.room);
      const known = values.size;
      if (round < MOST_MENDED) {
        this.keepSides(values, x, means, open.basis);
        if (parted) this.part(values, x, means, open.basis);
      }
      if (values.size === known) return x;
    }
  }

  /** Gives values to sums that have come out below 1 and are not to. */
  private keepSides(values: Map<number, number>, x: Float64Array, means: Float64Array, basis: WholeBasis): void {
    const first = this.sums.length - this.wishes.sides.length;
    this.wishes.sides.forEach((sum, i) => {
      if (values.has(first + i) || valueOfSum(sum, x) >= 1) return;
      const off = Math.max(0, 1 - valueOfSum(sum, means));
      if (off ** 2 / basis.variance(sum) < DEAR_SIDE) values.set(first + i, 1);
    });
  }

  /** Gives a value to one of two sums that have both come out as nothing, the one that it costs less. */
  private part(values: Map<number, number>, x: Float64Array, means: Float64Array, basis: WholeBasis): void {
    const { apart } = this.wishes;
    apart.forEach((pair, i) => {
      const s = this.bySum.length + 2 * i;
      if (values.has(s) || values.has(s + 1) || pair.some((sum) => valueOfSum(sum, x) !== 0)) return;
      const [u, v] = pair.map((sum) => valueOfSum(sum, means));
      const cost = [u, v].map((mean, k) => (1 - Math.min(1, Math.abs(mean))) ** 2 / basis.variance(pair[k]));
      const k = cost[0] < cost[1] ? 0 : 1;
      if (cost[k] < DEAR) values.set(s + k, [u, v][k] < 0 ? -1 : 1);
    });
  }

  /** What is left to be rounded where these sums have values. */
  private openWith(chosen: readonly number[]): OpenWholes {
    const { kept, sums } = this;
    const key = (size: number) => chosen.slice(0, size).join(' ');
    let from = chosen.length;
    while (!kept.has(key(from))) from--;
    const known = kept.get(key(from))!;
    // what was used last is left out last; the state without any sums stays
    if (from > 0) {
      kept.delete(key(from));
      kept.set(key(from), known);
    }
    if (from === chosen.length) return known;
    const basis = known.basis.copy();
    for (const s of chosen.slice(from)) basis.take(sums[s]);
    basis.shorten();
    const open = new OpenWholes(basis);
    if (kept.size === MOST_KEPT) kept.delete([...kept.keys()][1]);
    kept.set(key(chosen.length), open);
    return open;
  }

  /** Sums that are to have values, in the order in which they get them; each by what those before it leave open. */
  private chosen(y: Float64Array, within: number, scale: number): Map<number, number> {
    const { bySum, count } = this;
    const { sized, nothing } = this.wishes;
    const mean = bySum.map((row) => dot(row, 0, y, 0, count));
    const shared = this.shared.map((row) => row.slice());
    const values = new Map<number, number>();
    let left = [...bySum.keys()];
    const settle = (s: number, value: number) => {
      left = left.filter((t) => t !== s);
      const row = shared[s];
      if (row[s] <= DECIDED * this.shared[s][s]) return;
      values.set(s, value);
      const step = (value - mean[s]) / row[s];
      for (const t of left) {
        mean[t] += row[t] * step;
        const share = row[t] / row[s];
        const own = shared[t];
        for (const u of left) own[u] -= share * row[u];
      }
    };
    sized.forEach(({ size }, s) => settle(s, size * (mean[s] < 0 ? -1 : 1)));
    const firstLength = sized.length + nothing.length;
    for (;;) {
      let [next, least] = [-1, within];
      for (const s of left) {
        const off = s < firstLength ? Math.abs(mean[s]) / Math.sqrt(Math.max(shared[s][s], DECIDED * this.shared[s][s])) : Infinity;
        if (off < least) [next, least] = [s, off];
      }
      if (next < 0) break;
      settle(next, 0);
    }
    const length = (s: number) => Math.abs(mean[s]);
    const lengths = [...left].filter((s) => s >= firstLength && length(s) * scale > SHORT && length(s) * scale < LONG);
    for (const s of lengths.sort((a, b) => length(a) - length(b))) settle(s, Math.sign(mean[s]) * Math.max(LEAST_LENGTH, length(s)));
    return values;
  }
}

/**
 * Whole unknowns, exchanged for sums of themselves that keep whole numbers whole both ways, with their covariance and its inverse, the
 * precision. Where one has its value, the precision of the others is what is left of the matrix, and the covariance follows from it.
 */
class WholeBasis {
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

/** Sweeps over all pairs at most. */
const SWEEPS = 30;
/** Unknowns are exchanged where they share more than so much of the precision of one of them; a half is the least. */
const TIED = 0.51;

/** What is left to be rounded of a basis, with its covariance. */
class OpenWholes {
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

function inverseOfLower(lower: Float64Array, size: number): Float64Array {
  const inverse = new Float64Array(size * size);
  const row = new Float64Array(size);
  for (let i = 0; i < size; i++) {
    row.fill(0);
    for (let k = 0; k < i; k++) {
      const l = lower[i * size + k];
      if (l !== 0) for (let j = 0; j <= k; j++) row[j] -= l * inverse[k * size + j];
    }
    for (let j = 0; j < i; j++) inverse[i * size + j] = row[j] / lower[i * size + i];
    inverse[i * size + i] = 1 / lower[i * size + i];
  }
  return inverse;
}

/** L Lt of a lower triangle. */
function rowProducts(lower: Float64Array, size: number): Float64Array {
  const all = new Float64Array(size * size);
  for (let i = 0; i < size; i++) for (let j = 0; j <= i; j++) all[i * size + j] = all[j * size + i] = dot(lower, i * size, lower, j * size, j + 1);
  return all;
}

/** Lt L of a lower triangle. */
function columnProducts(lower: Float64Array, size: number): Float64Array {
  const all = new Float64Array(size * size);
  for (let k = 0; k < size; k++)
    for (let i = 0; i <= k; i++) {
      const a = lower[k * size + i];
      if (a !== 0) for (let j = 0; j <= i; j++) all[i * size + j] += a * lower[k * size + j];
    }
  for (let i = 0; i < size; i++) for (let j = 0; j < i; j++) all[j * size + i] = all[i * size + j];
  return all;
}

/** A square matrix times the coefficients of a sum. */
function timesSum(matrix: Float64Array, size: number, sum: WholeSum): Float64Array {
  const product = new Float64Array(size);
  for (const [k, c] of sum) for (let i = 0, at = k; i < size; i++, at += size) product[i] += c * matrix[at];
  return product;
}

/**
 * Sums of products of the first entries of a matrix's row with those of other rows: four at a time, as a single sum waits for itself.
 * @param steps how many entries
 * @param sums gets one by row of `others`
 */
function rowDots(matrix: Float64Array, size: number, row: number, others: Int32Array, steps: number, sums: Float64Array): void {
  const own = row * size;
  let n = 0;
  for (; n + 3 < others.length; n += 4) {
    const a = others[n] * size;
    const b = others[n + 1] * size;
    const c = others[n + 2] * size;
    const d = others[n + 3] * size;
    let sumA = 0;
    let sumB = 0;
    let sumC = 0;
    let sumD = 0;
    for (let k = 0; k < steps; k++) {
      const x = matrix[own + k];
      sumA += x * matrix[a + k];
      sumB += x * matrix[b + k];
      sumC += x * matrix[c + k];
      sumD += x * matrix[d + k];
    }
    sums[n] = sumA;
    sums[n + 1] = sumB;
    sums[n + 2] = sumC;
    sums[n + 3] = sumD;
  }
  for (; n < others.length; n++) sums[n] = dot(matrix, own, matrix, others[n] * size, steps);
}

/** Sum of products of `size` entries of a from i on and of b from j on. */
function dot(a: Float64Array, i: number, b: Float64Array, j: number, size: number): number {
  let sum = 0;
  for (let k = 0; k < size; k++) sum += a[i + k] * b[j + k];
  return sum;
}
