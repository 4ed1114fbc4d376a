import { add, scaled, subtract, type Triple } from '../numeric/vectors.ts';
import { type Patch } from './patch.ts';

/** Some rows and columns of each block of a patch, and the quads between them. */
export interface CoarsePatch {
  /** by block: the columns and rows taken, the first and last among them */
  taken: { columns: number[]; rows: number[] }[];
  quads: number[][];
}

/** As many of the rows from 0 to `edges` as lie about `step` apart. Depends on these alone, so that blocks side by side take the same. */
export function everyRow(edges: number, step: number): number[] {
  const pieces = Math.max(1, Math.round(edges / step));
  return Array.from({ length: pieces + 1 }, (_, k) => Math.round((k * edges) / pieces));
}

/** Rows and columns between which about `wanted` points lie; nothing where quads belong to no block. */
export function coarsened({ blocks, quads, places }: Patch, wanted: number): CoarsePatch | undefined {
  const inBlocks = blocks.reduce((sum, at) => sum + (at.length - 1) * (at[0].length - 1), 0);
  if (inBlocks < quads.length) return undefined;
  const step = Math.sqrt(places.length / wanted);
  const taken = blocks.map((at) => ({ columns: everyRow(at.length - 1, step), rows: everyRow(at[0].length - 1, step) }));
  return {
    taken,
    quads: blocks.flatMap((at, b) => {
      const { columns, rows } = taken[b];
      return columns.slice(1).flatMap((i, k) =>
        rows.slice(1).map((j, l) => {
          const [i0, j0] = [columns[k], rows[l]];
          return [at[i0][j0], at[i][j0], at[i][j], at[i0][j]];
        })
      );
    })
  };
}

/**
 * Moves the points between the rows and columns taken along with them: by how far those have moved, on splines along both
 * directions of each block.
 */
export function refineFrom(patch: Patch, before: readonly Triple[], { taken }: CoarsePatch): void {
  patch.blocks.forEach((at, b) => {
    const { columns, rows } = taken[b];
    const moves = columns.map((i) => rows.map((j) => subtract(patch.places[at[i][j]], before[at[i][j]])));
    const known = new Set(columns.flatMap((i) => rows.map((j) => at[i][j])));
    // along the rows taken first, then across them
    const alongColumns = rows.map((_, l) =>
      splined(
        columns,
        moves.map((column) => column[l])
      )
    );
    for (let i = 0; i < at.length; i++) {
      const across = splined(
        rows,
        alongColumns.map((row) => row[i])
      );
      for (let j = 0; j < at[i].length; j++) {
        const p = at[i][j];
        if (p >= patch.rim && !known.has(p)) patch.places[p] = add(before[p], across[j]);
      }
    }
  });
}

/** Values at 0, 1, ... up to the last knot of the natural cubic spline through values at knots. */
function splined(knots: readonly number[], values: readonly Triple[]): Triple[] {
  const last = knots.length - 1;
  const bend = bends(knots, values);
  const result: Triple[] = [];
  for (let k = 0; k < last; k++) {
    const h = knots[k + 1] - knots[k];
    for (let x = knots[k]; x < knots[k + 1] || (k === last - 1 && x === knots[k + 1]); x++) {
      const t = (x - knots[k]) / h;
      const [a, b] = [1 - t, t];
      const [curl, curl2] = [((a ** 3 - a) * h * h) / 6, ((b ** 3 - b) * h * h) / 6];
      const [v, w, m, n] = [values[k], values[k + 1], bend[k], bend[k + 1]];
      const at = (axis: 0 | 1 | 2) => a * v[axis] + b * w[axis] + curl * m[axis] + curl2 * n[axis];
      result.push([at(0), at(1), at(2)]);
    }
  }
  return result;
}

/** Second derivatives of the natural cubic spline at its knots (a tridiagonal system, solved forwards and back). */
function bends(knots: readonly number[], values: readonly Triple[]): Triple[] {
  const last = knots.length - 1;
  const bend: Triple[] = knots.map(() => [0, 0, 0]);
  const factor = knots.map(() => 0);
  for (let k = 1; k < last; k++) {
    const [h, g] = [knots[k] - knots[k - 1], knots[k + 1] - knots[k]];
    const right = scaled(subtract(scaled(subtract(values[k + 1], values[k]), 1 / g), scaled(subtract(values[k], values[k - 1]), 1 / h)), 6);
    const pivot = 2 * (h + g) - h * factor[k - 1];
    factor[k] = g / pivot;
    bend[k] = scaled(subtract(right, scaled(bend[k - 1], h)), 1 / pivot);
  }
  for (let k = last - 1; k > 0; k--) bend[k] = subtract(bend[k], scaled(bend[k + 1], factor[k]));
  return bend;
}
