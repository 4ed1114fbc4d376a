import { countSpread } from '../base/options.ts';

import { type Surface } from '../input/surface.ts';

import { SeamlessMap, type SizeWish } from '../map/seamless-map.ts';

import { timesMissed } from './cost.ts';

/** Sizes that are tried, in steps of a share of the wanted one to both sides of it. */
const TRIED_SIZES = [0, 1, -1, 2, -2, 3, -3, 4, -4, 5, -5, 6, -6, 7, -7, 8, -8];
const SIZE_STEP = 0.006;
/** Where a map has less than this share of the quads asked for, or is turned over as a whole, the size is corrected no further. */
const LEAST_STEP = 0.25;
/** How many of the roundings are read as quads: more of a range of counts. */
const [MOST_READ, MOST_OF_RANGE] = [3, 6];
/** With more whole unknowns the count jumps less from size to size, and rounding takes longer: fewer sizes are tried, and fewer read. */
export const MANY_WHOLES = 100;
const [FEWER_SIZES, FEWER_READ] = [5, 2];
/** With few of them the count jumps much: where it is missed, roundings next to the nearest are tried, for some of the sizes. */
const [FEW_WHOLES, MOST_NEXT, SIZES_NEXT] = [60, 8, 5];

/** Unknowns of the map rounded for a size, mm, how many triangles are folded over in it, and by what share its count of quads misses. */
export interface Rounding {
  size: number;
  /** as `RoundingOptions` has it */
  next: number;
  x: Float64Array;
  folded: number;
  count: number;
  /** quads that the boxes round the map's triangles would hold */
  spread: number;
  off: number;
}

/** Looks for the roundings of a map that come nearest to the quads asked for, among sizes round the wanted one. */
export class SizeSearch {
  constructor(
    private readonly surface: Surface,
    private readonly map: SeamlessMap
  ) {}

  /** The best roundings where rings close that miss themselves by up to one bound after the other; what a wider one leaves as it is comes once. */
  run(bounds: readonly number[]): Rounding[] {
    let before = '';
    return bounds.flatMap((within) => {
      const tries = this.triedSizes(within);
      const same = tries.map(({ size, count, folded }) => `${size} ${count} ${folded}`).join(' ');
      if (same === before) return [];
      before = same;
      return this.bestOf(tries, within);
    });
  }

  /** Solutions for sizes round the wanted one. */
  private triedSizes(within: number): Rounding[] {
    const { surface } = this;
    let size = surface.size;
    // with edge sizes asked for, the count falls out; with a count, the size is corrected to it
    if (!surface.options.edgeSizes)
      for (let i = 0; i < 3; i++) size *= Math.sqrt(Math.max(LEAST_STEP, this.rounded([{ size, within }])[0].count / surface.target));
    // rounding makes the count jump: sizes are taken from a wide range
    const steps = this.map.wholes > MANY_WHOLES ? TRIED_SIZES.slice(0, FEWER_SIZES) : TRIED_SIZES;
    // the outermost ones of a range of counts are its ends
    const step = Math.max(SIZE_STEP, Math.log(countSpread(surface.options)) / (steps.length - 1));
    return this.rounded(steps.map((k) => ({ size: size * (step > SIZE_STEP ? Math.exp(step * k) : 1 + SIZE_STEP * k), within })));
  }

  /** Those that meet the count, fewest folds first, then the others; poles kept apart. */
  private bestOf(tries: readonly Rounding[], within: number): Rounding[] {
    const missed = (t: Rounding) => timesMissed(t.off);
    const bestFirst = (list: readonly Rounding[]) => [...list].sort((a, b) => missed(a) - missed(b) || a.folded - b.folded || a.off - b.off);
    let found = bestFirst(tries);
    if (missed(found[0]) > 0 && this.map.wholes <= FEW_WHOLES) {
      const different = [...new Map(found.map((t) => [t.count, t])).values()].slice(0, SIZES_NEXT);
      const steps = Array.from({ length: MOST_NEXT }, (_, i) => i + 1);
      const others = different.flatMap(({ size }) => steps.map((next) => ({ size, within, next })));
      found = bestFirst([...found, ...this.rounded(others)]);
    }
    const best =
      countSpread(this.surface.options) > 1 ? bestFirst(leastOfBands(found)) : found.slice(0, this.map.wholes > MANY_WHOLES ? FEWER_READ : MOST_READ);
    const parted = this.rounded(best.map(({ size, next }) => ({ size, within, next, parted: true })));
    return best.map((t, i) => (missed(parted[i]) > missed(t) + 1 || parted[i].folded > 2 * t.folded + 10 ? t : parted[i]));
  }

  /** The map rounded for some sizes. */
  private rounded(wanted: readonly Omit<SizeWish, 'scale'>[]): Rounding[] {
    const { surface } = this;
    // bounds are those of the size that is aimed at, so that all sizes close the same rings
    const solved = this.map.solve(wanted.map((wish) => ({ ...wish, scale: wish.size / surface.size })));
    return solved.map((x, i) => {
      const { folded, area, spread } = this.map.tally(x);
      const count = area / 2;
      const { size, next = 0 } = wanted[i];
      return { size, next, x, folded, count, spread: spread / 2, off: surface.countOff(count) };
    });
  }
}

/** Of roundings, the best first, the best of each band of sizes: those of a range of counts are to come from all of it. */
function leastOfBands(found: readonly Rounding[]): Rounding[] {
  const bySize = [...found].sort((a, b) => a.size - b.size);
  const band = Math.ceil(bySize.length / MOST_OF_RANGE);
  return Array.from({ length: Math.ceil(bySize.length / band) }, (_, i) => {
    const own = new Set(bySize.slice(i * band, (i + 1) * band));
    return found.find((rounding) => own.has(rounding))!;
  });
}
