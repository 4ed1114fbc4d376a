import { eliminationTree, permuted } from './symbolic-factor.ts';
import { type SymmetricMatrix } from './symmetric-matrix.ts';

/** Sets of so many unknowns are not parted any more. */
const LEAF = 40;

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
    const id = ++parts;
    for (const v of set) part[v] = id;
    if (set.length <= LEAF) {
      order.set(leastFirst(set, start, neighbour, part), end - set.length);
      continue;
    }
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
      order.set(leastFirst(set, start, neighbour, part), end - set.length);
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
  return treeOrder(m, order, n);
}

/** The first unknowns in an order of the elimination tree in which all of a branch come one after the other: the factor has as many entries. */
function treeOrder(m: SymmetricMatrix, order: Int32Array, n: number): Int32Array {
  const parent = eliminationTree(permuted(m, order)).map((up) => (up < n ? up : -1));
  const [child, next] = [new Int32Array(n).fill(-1), new Int32Array(n).fill(-1)];
  const roots: number[] = [];
  for (let j = n - 1; j >= 0; j--)
    if (parent[j] < 0) roots.push(j);
    else {
      next[j] = child[parent[j]];
      child[parent[j]] = j;
    }
  const result = order.slice();
  let placed = 0;
  for (let root = roots.pop(); root !== undefined; root = roots.pop())
    for (let j = root, down = true; ;) {
      while (down && child[j] >= 0) j = child[j];
      result[placed++] = order[j];
      if (j === root) break;
      down = next[j] >= 0;
      j = down ? next[j] : parent[j];
    }
  return result;
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

/** A small set by minimum degree within the set (degrees are not updated: good enough for leaves). @param part a number that only its members have */
function leastFirst(set: Int32Array, start: Int32Array, neighbour: Int32Array, part: Int32Array): Int32Array {
  const keys = Float64Array.from(set, (v) => {
    let degree = 0;
    for (let k = start[v]; k < start[v + 1]; k++) if (part[neighbour[k]] === part[v]) degree++;
    // both in one number, which typed arrays sort fast
    return degree * part.length + v;
  }).sort();
  return Int32Array.from(keys, (key) => key % part.length);
}
