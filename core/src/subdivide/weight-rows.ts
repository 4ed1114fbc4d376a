/**
 * Sparse rows of weights: point i is the sum of `weight[k] * source[index[k]]` for k from `start[i]` to `start[i + 1]`.
 */
export interface WeightRows {
  start: Int32Array;
  index: Int32Array;
  weight: Float64Array;
}

/** out = rows * source, three coordinates a point. */
export function applyRows(rows: WeightRows, source: Float64Array, out: Float64Array): void {
  const { start, index, weight } = rows;
  const count = start.length - 1;
  let k = 0;
  for (let i = 0; i < count; i++) {
    let x = 0;
    let y = 0;
    let z = 0;
    for (const end = start[i + 1]; k < end; k++) {
      const w = weight[k];
      const s = 3 * index[k];
      x += w * source[s];
      y += w * source[s + 1];
      z += w * source[s + 2];
    }
    out[3 * i] = x;
    out[3 * i + 1] = y;
    out[3 * i + 2] = z;
  }
}

/** The same for some rows only. */
export function applySomeRows(rows: WeightRows, some: ArrayLike<number>, source: Float64Array, out: Float64Array): void {
  for (let n = 0; n < some.length; n++) applyRow(rows, some[n], source, out, some[n]);
}

/** Point `to` of `out` by row i. */
export function applyRow(rows: WeightRows, i: number, source: Float64Array, out: Float64Array, to: number): void {
  const { start, index, weight } = rows;
  let x = 0;
  let y = 0;
  let z = 0;
  for (let k = start[i]; k < start[i + 1]; k++) {
    const w = weight[k];
    const s = 3 * index[k];
    x += w * source[s];
    y += w * source[s + 1];
    z += w * source[s + 2];
  }
  out[3 * to] = x;
  out[3 * to + 1] = y;
  out[3 * to + 2] = z;
}

/**
 * For each source point the rows that use it: `row[start[s] .. start[s + 1]]`.
 * @param weight gets their weights, where these are wanted
 */
export function usersOf(rows: WeightRows, sources: number, weight?: Float64Array): { start: Int32Array; row: Int32Array } {
  const start = new Int32Array(sources + 1);
  for (let k = 0; k < rows.index.length; k++) start[rows.index[k] + 1]++;
  for (let s = 0; s < sources; s++) start[s + 1] += start[s];
  const cursor = start.slice();
  const row = new Int32Array(rows.index.length);
  for (let i = 0; i + 1 < rows.start.length; i++)
    for (let k = rows.start[i]; k < rows.start[i + 1]; k++) {
      const at = cursor[rows.index[k]]++;
      row[at] = i;
      if (weight) weight[at] = rows.weight[k];
    }
  return { start, row };
}

/** The same weights the other way round: by source point the points that it has a share in. */
export function transposed(rows: WeightRows, sources: number): WeightRows {
  const weight = new Float64Array(rows.index.length);
  const { start, row } = usersOf(rows, sources, weight);
  return { start, index: row, weight };
}

/** Rows of `outer` expressed in the sources of `inner`: outer * inner. */
export function composeRows(outer: WeightRows, inner: WeightRows, sources: number): WeightRows {
  const sum = new Float64Array(sources);
  const mark = new Int32Array(sources).fill(-1);
  const used = new Int32Array(sources);
  const rows = new RowBuilder(outer.start.length - 1, 2 * outer.index.length);
  for (let i = 0; i + 1 < outer.start.length; i++) {
    let count = 0;
    for (let k = outer.start[i]; k < outer.start[i + 1]; k++) {
      const j = outer.index[k];
      for (let m = inner.start[j]; m < inner.start[j + 1]; m++) {
        const s = inner.index[m];
        if (mark[s] !== i) {
          mark[s] = i;
          sum[s] = 0;
          used[count++] = s;
        }
        sum[s] += outer.weight[k] * inner.weight[m];
      }
    }
    for (let n = 0; n < count; n++) rows.append(used[n], sum[used[n]]);
    rows.endRow();
  }
  return rows.done();
}

/** Collects rows one after the other; weights that meet in one index add up. */
export class RowBuilder {
  private start: Int32Array;
  private index: Int32Array;
  private weight: Float64Array;
  private row = 0;
  private at = 0;

  constructor(rows: number, capacity: number) {
    this.start = new Int32Array(rows + 1);
    this.index = new Int32Array(capacity);
    this.weight = new Float64Array(capacity);
  }

  add(source: number, weight: number): void {
    for (let k = this.start[this.row]; k < this.at; k++)
      if (this.index[k] === source) {
        this.weight[k] += weight;
        return;
      }
    this.append(source, weight);
  }

  /** Like `add`, for a source that is certainly new in this row. */
  append(source: number, weight: number): void {
    if (this.at === this.index.length) this.grow();
    this.index[this.at] = source;
    this.weight[this.at++] = weight;
  }

  endRow(): void {
    this.start[++this.row] = this.at;
  }

  private grow(): void {
    const index = new Int32Array(2 * this.at + 64);
    const weight = new Float64Array(2 * this.at + 64);
    index.set(this.index);
    weight.set(this.weight);
    this.index = index;
    this.weight = weight;
  }

  done(): WeightRows {
    return { start: this.start, index: this.index.slice(0, this.at), weight: this.weight.slice(0, this.at) };
  }
}
