/** Share of a variance below which a sum is decided by those that have their values. */
export const DECIDED = 1e-9;

/** A sum of whole unknowns: their numbers and coefficients. */
export type WholeSum = readonly (readonly [number, number])[];

/** A sum that is to come out so large, whichever way it runs. */
export interface WholeWish {
  sum: WholeSum;
  size: number;
}

/** What a sum comes to where unknown k is `x[k]`. */
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

/** A square matrix times the coefficients of a sum. */
export function timesSum(matrix: Float64Array, size: number, sum: WholeSum): Float64Array {
  const product = new Float64Array(size);
  for (const [k, c] of sum) for (let i = 0, at = k; i < size; i++, at += size) product[i] += c * matrix[at];
  return product;
}
