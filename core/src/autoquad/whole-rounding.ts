/** A sum of whole unknowns: their numbers and coefficients. */
export type WholeSum = readonly (readonly [number, number])[];

/** A sum that is to come out so large, whichever way it runs. */
export interface WholeWish {
  sum: WholeSum;
  size: number;
}

const offWhole = (x: number) => Math.abs(x - Math.round(x));

export const valueOfSum = (sum: WholeSum, x: Float64Array): number => {
  let value = 0;
  for (const [k, c] of sum) value += c * x[k];
  return value;
};

/** Variance below which a sum is decided already. */
const DECIDED = 1e-7;

/**
 * Least squares over whole numbers, greedily: the unknown nearest to a whole number is fixed, the others follow by their
 * exact conditional mean, and so on. The covariance is computed once for all right-hand sides.
 */
export class WholeRounding {
  private readonly inverse: Float64Array;
  private readonly covariance: Float64Array;

  /** @param trailing lower factor L of the Schur complement S = L Lt, row by row */
  constructor(
    trailing: Float64Array,
    private readonly count: number
  ) {
    const inverse = new Float64Array(count * count);
    const row = new Float64Array(count);
    for (let i = 0; i < count; i++) {
      row.fill(0);
      for (let k = 0; k < i; k++) {
        const l = trailing[i * count + k];
        if (l !== 0) for (let j = 0; j <= k; j++) row[j] -= l * inverse[k * count + j];
      }
      for (let j = 0; j < i; j++) inverse[i * count + j] = row[j] / trailing[i * count + i];
      inverse[i * count + i] = 1 / trailing[i * count + i];
    }
    const covariance = new Float64Array(count * count);
    for (let k = 0; k < count; k++)
      for (let i = 0; i <= k; i++) {
        const a = inverse[k * count + i];
        if (a !== 0) for (let j = 0; j <= k; j++) covariance[i * count + j] += a * inverse[k * count + j];
      }
    this.inverse = inverse;
    this.covariance = covariance;
  }

  /**
   * @param y L^-1 times the right-hand side
   * @param first sums of unknowns that get their size before all else
   * @param nothing sums that are made nothing then, one after the other
   * @param near where they come so near it
   */
  round(y: Float64Array, first: readonly WholeWish[], nothing: readonly WholeSum[], near: number): Float64Array {
    const { count, inverse } = this;
    const x = new Float64Array(count);
    for (let k = 0; k < count; k++) for (let i = 0; i <= k; i++) x[i] += inverse[k * count + i] * y[k];
    const open = new OpenWholes(x, this.covariance.slice(), count);
    for (const { sum, size } of first) open.fixSum(sum, size * (valueOfSum(sum, open.means()) < 0 ? -1 : 1));
    const left = new Set(nothing);
    while (left.size > 0) {
      let [next, least]: [WholeSum | undefined, number] = [undefined, near];
      const means = open.means();
      for (const sum of left) {
        const off = Math.abs(valueOfSum(sum, means));
        if (off < least) [next, least] = [sum, off];
      }
      if (!next) break;
      left.delete(next);
      open.fixSum(next, 0);
    }
    return open.roundRest();
  }
}

/**
 * Whole unknowns with the mean and covariance of those that are still open. So that a sum gets a value and all unknowns are whole
 * afterwards, the sum becomes one of the unknowns in place of one that it has (its coefficients brought to their common factor as in
 * Euclid's algorithm, which keeps whole numbers whole both ways).
 */
class OpenWholes {
  /** unknown p stands for itself plus k times unknown i from then on */
  private readonly changes: { p: number; i: number; k: number }[] = [];
  private readonly fixed: Uint8Array;

  /** @param covariance of which the lower triangle counts; changed, as `x` is */
  constructor(
    private readonly x: Float64Array,
    private readonly covariance: Float64Array,
    private readonly count: number
  ) {
    this.fixed = new Uint8Array(count);
  }

  /** Means of the unknowns as they were at first. */
  means(): Float64Array {
    return this.asAtFirst(this.x.slice());
  }

  /** The sum gets a value, or one next to it where its coefficients have a common factor; nothing changes where it is decided already. */
  fixSum(sum: WholeSum, value: number): void {
    const { x, fixed } = this;
    const coefficients = this.asNow(sum);
    let rest = value;
    const open: number[] = [];
    coefficients.forEach((c, k) => {
      if (fixed[k]) rest -= c * x[k];
      else open.push(k);
    });
    if (open.length === 0) return;
    for (;;) {
      const p = open.reduce((best, k) => (Math.abs(coefficients.get(k)!) < Math.abs(coefficients.get(best)!) ? k : best));
      const own = coefficients.get(p)!;
      const others = open.filter((k) => k !== p && coefficients.get(k) !== 0);
      if (others.length === 0) {
        this.fix(p, Math.round(rest / own));
        return;
      }
      for (const i of others) {
        const k = Math.round(coefficients.get(i)! / own);
        this.change(p, i, k);
        coefficients.set(i, coefficients.get(i)! - k * own);
      }
      open.splice(0, open.length, p, ...others.filter((k) => coefficients.get(k) !== 0));
    }
  }

  /** Fixes what is open, the nearest to a whole number first. @returns all unknowns as they were at first */
  roundRest(): Float64Array {
    const { x, covariance, count, fixed } = this;
    // unknowns that are still open come first, in rows and columns alike, so that each update runs over contiguous rows
    const at = Int32Array.from({ length: count }, (_, k) => k);
    const toEnd = (place: number, last: number) => {
      swapSymmetric(covariance, count, last + 1, place, last);
      const k = at[place];
      at[place] = at[last];
      at[last] = k;
    };
    let open = count;
    for (let place = count - 1; place >= 0; place--) if (fixed[at[place]]) toEnd(place, --open);
    for (; open > 0; open--) {
      let next = 0;
      for (let k = 1; k < open; k++) if (offWhole(x[at[k]]) < offWhole(x[at[next]])) next = k;
      const last = open - 1;
      toEnd(next, last);
      const k = at[last];
      const step = Math.round(x[k]) - x[k];
      x[k] = Math.round(x[k]);
      const row = last * count;
      const variance = covariance[row + last];
      if (variance < DECIDED) continue;
      for (let i = 0; i < last; i++) {
        const share = covariance[row + i] / variance;
        if (share === 0) continue;
        x[at[i]] += share * step;
        // the lower triangle is enough
        for (let j = 0, to = i * count; j <= i; j++) covariance[to + j] -= share * covariance[row + j];
      }
    }
    return this.asAtFirst(x);
  }

  /** Takes the changes back; the array is overwritten. */
  private asAtFirst(x: Float64Array): Float64Array {
    for (let c = this.changes.length - 1; c >= 0; c--) {
      const { p, i, k } = this.changes[c];
      x[p] -= k * x[i];
    }
    return x;
  }

  /** Coefficients of a sum over the unknowns as they stand now. */
  private asNow(sum: WholeSum): Map<number, number> {
    const now = new Map(sum);
    for (const { p, i, k } of this.changes) {
      const c = now.get(p);
      if (!c) continue;
      const own = (now.get(i) ?? 0) - k * c;
      if (own === 0) now.delete(i);
      else now.set(i, own);
    }
    return now;
  }

  private change(p: number, i: number, k: number): void {
    if (k === 0) return;
    const { x, covariance, count } = this;
    this.changes.push({ p, i, k });
    x[p] += k * x[i];
    const entry = (a: number, b: number) => (a >= b ? a * count + b : b * count + a);
    const own = covariance[entry(p, p)] + 2 * k * covariance[entry(p, i)] + k * k * covariance[entry(i, i)];
    for (let j = 0; j < count; j++) if (j !== p) covariance[entry(p, j)] += k * covariance[entry(i, j)];
    covariance[entry(p, p)] = own;
  }

  private fix(p: number, value: number): void {
    const { x, covariance, count, fixed } = this;
    fixed[p] = 1;
    const step = value - x[p];
    x[p] = value;
    const share = Float64Array.from({ length: count }, (_, i) => covariance[p <= i ? i * count + p : p * count + i]);
    const variance = share[p];
    if (variance < DECIDED) return;
    for (let i = 0; i < count; i++) {
      if (share[i] === 0 || fixed[i]) continue;
      x[i] += (share[i] / variance) * step;
      const own = share[i] / variance;
      for (let j = 0, to = i * count; j <= i; j++) covariance[to + j] -= own * share[j];
    }
  }
}

/** Exchanges rows and columns a < b = size - 1 of the leading block of a symmetric matrix of which the lower triangle counts. */
function swapSymmetric(m: Float64Array, count: number, size: number, a: number, b: number): void {
  if (a === b) return;
  const exchange = (i: number, j: number) => {
    const kept = m[i];
    m[i] = m[j];
    m[j] = kept;
  };
  for (let k = 0; k < a; k++) exchange(a * count + k, b * count + k);
  for (let k = a + 1; k < size - 1; k++) exchange(k * count + a, b * count + k);
  exchange(a * count + a, b * count + b);
}
