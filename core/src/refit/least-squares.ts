import { Cholesky, NotPositiveDefinite } from '../numeric/cholesky.ts';
import { nestedDissection } from '../numeric/nested-dissection.ts';
import { SymmetricBuilder } from '../numeric/symmetric-matrix.ts';
import { type WeightRows } from '../subdivide/weight-rows.ts';

/** A point of the surface that is wished elsewhere. */
export interface Wish {
  /** row of its weights */
  row: number;
  /** how far it is to go, in mm */
  by: readonly number[];
  /** unit direction that matters alone (`across`), or that does not matter (`along`); neither: the point itself is wished there */
  across?: readonly number[];
  along?: readonly number[];
}

/**
 * Moves of the sources of weight rows that bring their points where they are wished, in the least squares, and of all such
 * moves the shortest (Tikhonov 1963, with a small weight).
 * @param unknownOf number of each source among the unknowns, -1 where it stays
 * @param held weight of staying, over the mean weight of the wishes
 * @param pulled for repeated use: how far each unknown has gone already, three numbers each
 * @returns three numbers an unknown
 */
export function shortestMoves(
  rows: WeightRows,
  wishes: readonly Wish[],
  unknownOf: Int32Array,
  unknowns: number,
  held: number,
  pulled?: Float64Array
): Float64Array {
  const matrix = new SymmetricBuilder(3 * unknowns, 64 * wishes.length);
  const right = new Float64Array(3 * unknowns);
  const trace = new Float64Array(3 * unknowns);
  const list: number[] = [];
  const weights: number[] = [];
  for (const wish of wishes) {
    list.length = weights.length = 0;
    for (let k = rows.start[wish.row]; k < rows.start[wish.row + 1]; k++) {
      const u = unknownOf[rows.index[k]];
      if (u < 0) continue;
      list.push(u);
      weights.push(rows.weight[k]);
    }
    const m = metric(wish);
    for (let r = 0; r < 3; r++) {
      const pull = m[3 * r] * wish.by[0] + m[3 * r + 1] * wish.by[1] + m[3 * r + 2] * wish.by[2];
      for (let i = 0; i < list.length; i++) right[3 * list[i] + r] += weights[i] * pull;
    }
    for (let i = 0; i < list.length; i++)
      for (let j = 0; j <= i; j++) {
        const w = weights[i] * weights[j];
        const same = i === j;
        for (let r = 0; r < 3; r++)
          for (let c = 0; c < (same ? r + 1 : 3); c++) {
            const value = w * m[3 * r + c];
            if (value === 0) continue;
            matrix.add(3 * list[i] + r, 3 * list[j] + c, value);
            if (same && r === c) trace[3 * list[i] + r] += value;
          }
      }
  }
  const hold = held * (trace.reduce((total, x) => total + x, 0) / (3 * unknowns) || 1);
  for (let k = 0; k < 3 * unknowns; k++) {
    matrix.add(k, k, hold);
    if (pulled) right[k] -= hold * pulled[k];
  }
  const done = matrix.done();
  return finite(new Cholesky(done, nestedDissection(done)).solve(right));
}

/** @throws NotPositiveDefinite where a solution holds what is no number: its matrix was singular but for rounding */
function finite(solution: Float64Array): Float64Array {
  const off = solution.findIndex((x) => !Number.isFinite(x));
  if (off >= 0) throw new NotPositiveDefinite(`the fit has no solution at unknown ${off}`);
  return solution;
}

/** What of a wish counts, as a symmetric 3 x 3 matrix. */
function metric({ across, along }: Wish): number[] {
  const one = [1, 0, 0, 0, 1, 0, 0, 0, 1];
  if (across) return one.map((_, k) => across[Math.floor(k / 3)] * across[k % 3]);
  if (along) return one.map((x, k) => x - along[Math.floor(k / 3)] * along[k % 3]);
  return one;
}

/** Solves for many wishes of whole points at once: the three axes share one matrix, which is factored once. */
export class PointFit {
  private readonly factor: Cholesky;

  /** @param used rows that will be wished for, every time all of them */
  constructor(
    private readonly rows: WeightRows,
    private readonly used: readonly number[],
    private readonly unknownOf: Int32Array,
    private readonly unknowns: number,
    held: number
  ) {
    const matrix = new SymmetricBuilder(unknowns, 100 * used.length);
    let trace = 0;
    for (const row of used)
      for (let i = rows.start[row]; i < rows.start[row + 1]; i++)
        for (let j = rows.start[row]; j <= i; j++) {
          const [a, b] = [unknownOf[rows.index[i]], unknownOf[rows.index[j]]];
          if (a < 0 || b < 0) continue;
          matrix.add(a, b, rows.weight[i] * rows.weight[j]);
          if (i === j) trace += rows.weight[i] ** 2;
        }
    for (let u = 0; u < unknowns; u++) matrix.add(u, u, (held * trace) / unknowns || 1);
    const done = matrix.done();
    this.factor = new Cholesky(done, nestedDissection(done));
  }

  /** @param by three numbers a used row: how far its point is to go. @returns three numbers an unknown */
  moves(by: Float64Array): Float64Array {
    const { rows, used, unknownOf, unknowns } = this;
    const out = new Float64Array(3 * unknowns);
    for (let axis = 0; axis < 3; axis++) {
      const right = new Float64Array(unknowns);
      used.forEach((row, n) => {
        for (let k = rows.start[row]; k < rows.start[row + 1]; k++) {
          const u = unknownOf[rows.index[k]];
          if (u >= 0) right[u] += rows.weight[k] * by[3 * n + axis];
        }
      });
      finite(this.factor.solve(right)).forEach((x, u) => (out[3 * u + axis] = x));
    }
    return out;
  }
}
