/**
 * A symmetric matrix in compressed columns: the lower triangle, diagonal included, rows of a column in any order
 * and without repeats.
 */
export interface SymmetricMatrix {
  size: number;
  start: Int32Array;
  row: Int32Array;
  value: Float64Array;
}

/** Sums entries (i, j, value); (i, j) and (j, i) are the same place. */
export class SymmetricBuilder {
  private rows: Int32Array;
  private columns: Int32Array;
  private values: Float64Array;
  private count = 0;

  constructor(
    readonly size: number,
    capacity: number
  ) {
    this.rows = new Int32Array(capacity);
    this.columns = new Int32Array(capacity);
    this.values = new Float64Array(capacity);
  }

  add(i: number, j: number, value: number): void {
    if (this.count === this.rows.length) this.grow();
    this.rows[this.count] = i > j ? i : j;
    this.columns[this.count] = i > j ? j : i;
    this.values[this.count++] = value;
  }

  private grow(): void {
    const n = 2 * this.count + 64;
    const rows = new Int32Array(n);
    const columns = new Int32Array(n);
    const values = new Float64Array(n);
    rows.set(this.rows);
    columns.set(this.columns);
    values.set(this.values);
    this.rows = rows;
    this.columns = columns;
    this.values = values;
  }

  done(): SymmetricMatrix {
    const { size, count } = this;
    const start = new Int32Array(size + 1);
    for (let k = 0; k < count; k++) start[this.columns[k] + 1]++;
    for (let j = 0; j < size; j++) start[j + 1] += start[j];
    const cursor = start.slice();
    const row = new Int32Array(count);
    const value = new Float64Array(count);
    for (let k = 0; k < count; k++) {
      const at = cursor[this.columns[k]]++;
      row[at] = this.rows[k];
      value[at] = this.values[k];
    }
    return summed({ size, start, row, value });
  }
}

function summed(m: SymmetricMatrix): SymmetricMatrix {
  const place = new Int32Array(m.size).fill(-1);
  const start = new Int32Array(m.size + 1);
  let at = 0;
  for (let j = 0; j < m.size; j++) {
    const first = at;
    for (let k = m.start[j]; k < m.start[j + 1]; k++) {
      const i = m.row[k];
      if (place[i] >= first) m.value[place[i]] += m.value[k];
      else {
        place[i] = at;
        m.row[at] = i;
        m.value[at++] = m.value[k];
      }
    }
    start[j + 1] = at;
  }
  return { size: m.size, start, row: m.row.slice(0, at), value: m.value.slice(0, at) };
}

/**
 * An elimination order by nested dissection (George 1973): the graph is halved by the middle level of a breadth-first
 * search from a far vertex, the separator comes last. The last `tail` unknowns stay last.
 * @returns order[k] = the unknown eliminated as k-th
 */
export function nestedDissection(m: SymmetricMatrix, tail = 0): Int32Array {
  const { start, neighbour } = adjacency(m, m.size - tail);
  const n = m.size - tail;
  const order = new Int32Array(m.size);
  for (let k = n; k < m.size; k++) order[k] = k;
  const part = new Int32Array(n);
  const level = new Int32Array(n).fill(-1);
  let parts = 0;
  // work list of vertex sets and the end of the place they fill in `order`
  const work: { set: Int32Array; end: number }[] = [{ set: Int32Array.from({ length: n }, (_, i) => i), end: n }];
  const queue = new Int32Array(n);
  const search = (seed: number, id: number): number => {
    level[seed] = 0;
    queue[0] = seed;
    let size = 1;
    for (let at = 0; at < size; at++)
      for (let k = start[queue[at]]; k < start[queue[at] + 1]; k++) {
        const w = neighbour[k];
        if (part[w] === id && level[w] < 0) {
          level[w] = level[queue[at]] + 1;
          queue[size++] = w;
        }
      }
    return size;
  };
  while (work.length > 0) {
    const { set, end } = work.pop()!;
    if (set.length <= 40) {
      leastFirst(set, start, neighbour, order, end);
      continue;
    }
    const id = ++parts;
    for (const v of set) part[v] = id;
    let size = search(set[0], id);
    if (size < set.length) {
      // not connected: the piece found, and the rest
      const piece = queue.slice(0, size);
      for (const v of piece) part[v] = 0;
      const rest = set.filter((v) => part[v] === id);
      for (const v of set) level[v] = -1;
      work.push({ set: piece, end }, { set: rest, end: end - size });
      continue;
    }
    for (let round = 0; round < 2; round++) {
      const far = queue[size - 1];
      for (const v of set) level[v] = -1;
      size = search(far, id);
    }
    const middle = level[queue[size >> 1]];
    const low: number[] = [];
    const high: number[] = [];
    const separator: number[] = [];
    for (const v of set) (level[v] < middle ? low : level[v] > middle ? high : separator).push(v);
    if (low.length === 0 || high.length === 0) {
      for (const v of set) level[v] = -1;
      leastFirst(set, start, neighbour, order, end);
      continue;
    }
    // separator vertices without a neighbour on the far side belong to the near side
    const kept = separator.filter((v) => {
      let touches = false;
      for (let k = start[v]; k < start[v + 1] && !touches; k++) touches = part[neighbour[k]] === id && level[neighbour[k]] > middle;
      if (!touches) low.push(v);
      return touches;
    });
    kept.forEach((v, i) => (order[end - kept.length + i] = v));
    for (const v of set) level[v] = -1;
    for (const v of kept) part[v] = 0;
    work.push({ set: Int32Array.from(low), end: end - kept.length }, { set: Int32Array.from(high), end: end - kept.length - low.length });
  }
  return order;
}

function adjacency(m: SymmetricMatrix, limit: number): { start: Int32Array; neighbour: Int32Array } {
  const start = new Int32Array(limit + 1);
  const each = (use: (i: number, j: number) => void) => {
    for (let j = 0; j < limit; j++) for (let k = m.start[j]; k < m.start[j + 1]; k++) if (m.row[k] !== j && m.row[k] < limit) use(m.row[k], j);
  };
  each((i, j) => (start[i + 1]++, start[j + 1]++));
  for (let v = 0; v < limit; v++) start[v + 1] += start[v];
  const cursor = start.slice();
  const neighbour = new Int32Array(start[limit]);
  each((i, j) => ((neighbour[cursor[i]++] = j), (neighbour[cursor[j]++] = i)));
  return { start, neighbour };
}

/** A small set by minimum degree within the set (degrees are not updated: good enough for leaves). */
function leastFirst(set: Int32Array, start: Int32Array, neighbour: Int32Array, order: Int32Array, end: number): void {
  const inside = new Set(set);
  const degree = new Map<number, number>();
  for (const v of set) {
    let d = 0;
    for (let k = start[v]; k < start[v + 1]; k++) if (inside.has(neighbour[k])) d++;
    degree.set(v, d);
  }
  [...set].sort((a, b) => degree.get(a)! - degree.get(b)! || a - b).forEach((v, i) => (order[end - set.length + i] = v));
}

/** Thrown when a matrix is not positive definite; names the pivot. */
export class NotPositiveDefinite extends Error {}

/**
 * Sparse Cholesky factor L of P A Pt, left-looking by columns over the elimination tree (Davis 2006), for one matrix
 * and many right-hand sides.
 */
export class Cholesky {
  private readonly order: Int32Array;
  private readonly start: Int32Array;
  private readonly row: Int32Array;
  private readonly value: Float64Array;
  readonly size: number;

  /** @throws NotPositiveDefinite */
  constructor(matrix: SymmetricMatrix, order: Int32Array) {
    this.size = matrix.size;
    this.order = order;
    const upper = permuted(matrix, order);
    const parent = eliminationTree(upper);
    const start = columnStarts(upper, parent);
    this.start = start;
    this.row = new Int32Array(start[this.size]);
    this.value = new Float64Array(start[this.size]);
    this.factor(upper, parent);
  }

  /** Up-looking: row k of L is the sparse triangular solve along the tree paths of column k's entries. */
  private factor(upper: SymmetricMatrix, parent: Int32Array): void {
    const { size, start, row, value } = this;
    const filled = start.slice(0, size);
    const x = new Float64Array(size);
    const stack = new Int32Array(size);
    const path = new Int32Array(size);
    const mark = new Int32Array(size).fill(-1);
    for (let k = 0; k < size; k++) {
      let top = size;
      mark[k] = k;
      let pivot = 0;
      for (let p = upper.start[k]; p < upper.start[k + 1]; p++) {
        let i = upper.row[p];
        if (i === k) {
          pivot += upper.value[p];
          continue;
        }
        x[i] = upper.value[p];
        let length = 0;
        for (; mark[i] !== k; i = parent[i]) {
          path[length++] = i;
          mark[i] = k;
        }
        while (length > 0) stack[--top] = path[--length];
      }
      for (; top < size; top++) {
        const j = stack[top];
        const lkj = x[j] / value[start[j]];
        x[j] = 0;
        const end = filled[j];
        for (let p = start[j] + 1; p < end; p++) x[row[p]] -= value[p] * lkj;
        pivot -= lkj * lkj;
        row[end] = k;
        value[end] = lkj;
        filled[j] = end + 1;
      }
      if (!(pivot > 0)) throw new NotPositiveDefinite(`the matrix is not positive definite at unknown ${this.order[k]} (pivot ${pivot})`);
      row[filled[k]] = k;
      value[filled[k]++] = Math.sqrt(pivot);
    }
  }

  /** Solves A x = b. */
  solve(b: Float64Array): Float64Array {
    const x = this.forward(b);
    return this.backward(x, this.size);
  }

  /** y = L^-1 P b */
  forward(b: Float64Array): Float64Array {
    const { size, start, row, value, order } = this;
    const y = new Float64Array(size);
    for (let k = 0; k < size; k++) y[k] = b[order[k]];
    for (let j = 0; j < size; j++) {
      const yj = (y[j] /= value[start[j]]);
      for (let p = start[j] + 1; p < start[j + 1]; p++) y[row[p]] -= value[p] * yj;
    }
    return y;
  }

  /**
   * x = Pt L^-t y, taking the entries from `fixedFrom` on (in elimination order) as the solution's given values.
   */
  backward(y: Float64Array, fixedFrom: number): Float64Array {
    const { size, start, row, value, order } = this;
    const x = y.slice();
    for (let j = Math.min(size, fixedFrom) - 1; j >= 0; j--) {
      let sum = x[j];
      for (let p = start[j] + 1; p < start[j + 1]; p++) sum -= value[p] * x[row[p]];
      x[j] = sum / value[start[j]];
    }
    const out = new Float64Array(size);
    for (let k = 0; k < size; k++) out[order[k]] = x[k];
    return out;
  }

  /** The last `count` rows and columns of L, dense, row by row: the factor of their Schur complement. */
  trailing(count: number): Float64Array {
    const dense = new Float64Array(count * count);
    const first = this.size - count;
    for (let j = first; j < this.size; j++)
      for (let p = this.start[j]; p < this.start[j + 1]; p++) dense[(this.row[p] - first) * count + (j - first)] = this.value[p];
    return dense;
  }
}

/** Upper triangle of the permuted matrix by columns, which is what the up-looking factorisation reads. */
function permuted(m: SymmetricMatrix, order: Int32Array): SymmetricMatrix {
  const place = new Int32Array(m.size);
  order.forEach((v, k) => (place[v] = k));
  const start = new Int32Array(m.size + 1);
  for (let j = 0; j < m.size; j++) for (let k = m.start[j]; k < m.start[j + 1]; k++) start[Math.max(place[m.row[k]], place[j]) + 1]++;
  for (let j = 0; j < m.size; j++) start[j + 1] += start[j];
  const cursor = start.slice();
  const row = new Int32Array(m.row.length);
  const value = new Float64Array(m.row.length);
  for (let j = 0; j < m.size; j++)
    for (let k = m.start[j]; k < m.start[j + 1]; k++) {
      const a = place[m.row[k]];
      const b = place[j];
      const at = cursor[Math.max(a, b)]++;
      row[at] = Math.min(a, b);
      value[at] = m.value[k];
    }
  return { size: m.size, start, row, value };
}

function eliminationTree(upper: SymmetricMatrix): Int32Array {
  const parent = new Int32Array(upper.size).fill(-1);
  const ancestor = new Int32Array(upper.size).fill(-1);
  for (let k = 0; k < upper.size; k++)
    for (let p = upper.start[k]; p < upper.start[k + 1]; p++) {
      let i = upper.row[p];
      while (i !== -1 && i < k) {
        const up = ancestor[i];
        ancestor[i] = k;
        if (up === -1) parent[i] = k;
        i = up;
      }
    }
  return parent;
}

/** Column starts of L: row k has an entry in every column on the tree paths from its entries. */
function columnStarts(upper: SymmetricMatrix, parent: Int32Array): Int32Array {
  const start = new Int32Array(upper.size + 1);
  const mark = new Int32Array(upper.size).fill(-1);
  for (let k = 0; k < upper.size; k++) {
    mark[k] = k;
    start[k + 1]++;
    for (let p = upper.start[k]; p < upper.start[k + 1]; p++)
      for (let i = upper.row[p]; mark[i] !== k; i = parent[i]) {
        mark[i] = k;
        start[i + 1]++;
      }
  }
  for (let j = 0; j < upper.size; j++) start[j + 1] += start[j];
  return start;
}
