import { inverseOfLower, rowProducts, columnProducts, dot } from '../../numeric/dense-lower.ts';
import { OpenWholes } from './open-wholes.ts';
import { WholeBasis } from './whole-basis.ts';
import { type WholeSum, valueOfSum, type WholeWishes, timesSum, DECIDED } from './whole-sums.ts';

const NO_WISHES: WholeWishes = { sized: [], nothing: [], lengths: [], apart: [], sides: [] };
/** Lengths that are rounded as such; those that would come out shorter than the third get that. */
const [SHORT, LONG, LEAST_LENGTH] = [1.5, 12, 4];
/** States of the unknowns that are kept: sizes next to each other give the same sums values. */
const MOST_KEPT = 8;
/** Times that pairs that have come out as nothing are parted and sums kept from below 1, and the squared standard deviations from which on they are left. */
const [MOST_MENDED, DEAR, DEAR_SIDE] = [4, 4, 8];
/** Sums that are left alone at most, one after the other, where values explode; then all that are not asked for by size are. */
const MOST_LEFT = 12;
/** Values within so many of their means have not exploded, however small these are. */
const LEAST_WILD = 20;

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
  /** sums that get no value, as with it others exploded */
  private readonly left = new Set<number>();

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
    this.left.clear();
    const early = [...sized.map(({ sum }) => sum), ...nothing, ...lengths];
    this.bySum = early.map((sum) => timesSum(inverse, count, sum));
    this.shared = this.bySum.map((a) => Float64Array.from(this.bySum, (b) => dot(a, 0, b, 0, count)));
    this.sums = [...early, ...apart.flat(), ...sides];
  }

  /** Which of the sums that were to come out as nothing are left as they come, as with them values exploded. */
  get leftOpen(): number[] {
    const first = this.wishes.sized.length;
    return [...this.left].map((s) => s - first).filter((i) => i >= 0 && i < this.wishes.nothing.length);
  }

  /** @param y L^-1 times the right-hand side */
  round(y: Float64Array, options: RoundingOptions = {}): Float64Array {
    const { count, inverse } = this;
    const means = new Float64Array(count);
    for (let k = 0; k < count; k++) for (let i = 0; i <= k; i++) means[i] += inverse[k * count + i] * y[k];
    for (;;) {
      const values = new Map<number, number>();
      const x = this.roundWith(values, y, means, options);
      if (!this.hasExploded(x, means)) return x;
      // what was asked for by size stays: that is told where it cannot be had
      const open = [...values.keys()].filter((s) => s >= this.wishes.sized.length);
      if (open.length === 0) return x;
      if (this.left.size >= MOST_LEFT) for (const s of open) this.left.add(s);
      else this.left.add(this.firstToExplode(values, means) ?? open[open.length - 1]);
    }
  }

  /** @param values gets the sums that were given values, in order */
  private roundWith(values: Map<number, number>, y: Float64Array, means: Float64Array, options: RoundingOptions): Float64Array {
    const { within = 0, scale = 1, parted = false, next = 0 } = options;
    for (const [s, value] of this.chosen(y, within / scale, scale)) values.set(s, value);
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

  /** Of sums with values the first with which others explode, by halving; those asked for by size are passed over. */
  private firstToExplode(values: ReadonlyMap<number, number>, means: Float64Array): number | undefined {
    const [sums, sizes] = [[...values.keys()], [...values.values()]];
    const explodes = (many: number) =>
      this.hasExploded(this.openWith(sums.slice(0, many)).round(means.slice(), sizes.slice(0, many), 0, this.room), means);
    let [sound, wild] = [0, sums.length];
    while (wild - sound > 1) {
      const middle = (sound + wild) >> 1;
      if (explodes(middle)) wild = middle;
      else sound = middle;
    }
    return sums.slice(wild - 1).find((s) => s >= this.wishes.sized.length);
  }

  /**
   * Whether whole values lie farther from their means than these, and what is asked for by size, are large: sums that nearly depend on each
   * other have been given values that do not go together.
   */
  private hasExploded(x: Float64Array, means: Float64Array): boolean {
    const asked = this.wishes.sized.reduce((sum, { size }) => sum + size, 0);
    const most = asked + means.reduce((largest, mean) => Math.max(largest, Math.abs(mean)), LEAST_WILD);
    return x.some((value, k) => !(Math.abs(value - means[k]) <= most));
  }

  /** Gives values to sums that have come out below 1 and are not to. */
  private keepSides(values: Map<number, number>, x: Float64Array, means: Float64Array, basis: WholeBasis): void {
    const first = this.sums.length - this.wishes.sides.length;
    this.wishes.sides.forEach((sum, i) => {
      if (values.has(first + i) || this.left.has(first + i) || valueOfSum(sum, x) >= 1) return;
      const off = Math.max(0, 1 - valueOfSum(sum, means));
      if (off ** 2 / basis.variance(sum) < DEAR_SIDE) values.set(first + i, 1);
    });
  }

  /** Gives a value to one of two sums that have both come out as nothing, the one that it costs less. */
  private part(values: Map<number, number>, x: Float64Array, means: Float64Array, basis: WholeBasis): void {
    const { apart } = this.wishes;
    apart.forEach((pair, i) => {
      const s = this.bySum.length + 2 * i;
      if ([s, s + 1].some((k) => values.has(k) || this.left.has(k)) || pair.some((sum) => valueOfSum(sum, x) !== 0)) return;
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
    let left = [...bySum.keys()].filter((s) => !this.left.has(s));
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
