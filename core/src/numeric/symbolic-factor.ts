import { type SymmetricMatrix } from './symmetric-matrix.ts';

/** Columns that one panel holds at most: wider ones are cut, so that most work is done between panels. */
const PANEL = 24;
/** Share of a panel that may be nothing. */
const EMPTY = 0.25;

/** First columns of panels, and the size: columns that follow each other up the tree, with nearly the same rows. */
export function panelStarts(parent: Int32Array, counts: Int32Array): Int32Array {
  const size = counts.length;
  const firsts: number[] = [];
  let entries = 0;
  for (let j = 0; j < size; j++) {
    const first = firsts[firsts.length - 1];
    const width = j - first + 1;
    const all = width * counts[j] + (width * (width - 1)) / 2;
    entries += counts[j];
    if (j > 0 && parent[j - 1] === j && width <= PANEL && entries >= (1 - EMPTY) * all) continue;
    firsts.push(j);
    entries = counts[j];
  }
  return Int32Array.from([...firsts, size]);
}

/** Upper triangle of the permuted matrix by columns, by rows of the factor. */
export function permuted(m: SymmetricMatrix, order: Int32Array): SymmetricMatrix {
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

/** The parent of each column in the elimination tree, -1 at a root (Davis 2006). @param upper columns with rows above the diagonal */
export function eliminationTree(upper: SymmetricMatrix): Int32Array {
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

/** Entries in each column of L, the diagonal among them: row k has one in every column on the tree paths from its entries. */
export function columnCounts(upper: SymmetricMatrix, parent: Int32Array): Int32Array {
  const counts = new Int32Array(upper.size).fill(1);
  const mark = new Int32Array(upper.size).fill(-1);
  for (let k = 0; k < upper.size; k++) {
    mark[k] = k;
    for (let p = upper.start[k]; p < upper.start[k + 1]; p++)
      for (let i = upper.row[p]; mark[i] !== k; i = parent[i]) {
        mark[i] = k;
        counts[i]++;
      }
  }
  return counts;
}
