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
