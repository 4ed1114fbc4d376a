/** Bits of a cell's number along an axis, and how many cells lie along one. */
const AXIS_BITS = 10;
const CELLS = 1 << AXIS_BITS;

/** By a number along an axis its bits, two zeros between each and the next. */
const spread = Uint32Array.from({ length: CELLS }, (_, n) => {
  let bits = 0;
  for (let k = 0; k < AXIS_BITS; k++) bits |= ((n >> k) & 1) << (3 * k);
  return bits;
});

/**
 * Sorts things by the cells of a grid of 1024 to a side over all of them, along a curve on which those near each other in space mostly lie
 * near each other (Morton 1966): a cell's number has the bits of its three coordinates in turn.
 * @param things their numbers; sorted in place
 * @param place coordinate of a thing along each axis
 * @returns the cell of each, as they are sorted; equal ones lie in the same cell
 */
export function sortInSpace(things: Int32Array, place: readonly ((thing: number) => number)[]): Uint32Array {
  const count = things.length;
  const low = [Infinity, Infinity, Infinity];
  let widest = 0;
  const along = place.map((at, k) => {
    const own = new Float64Array(count);
    let high = -Infinity;
    for (let i = 0; i < count; i++) {
      const x = at(things[i]);
      own[i] = x;
      if (x < low[k]) low[k] = x;
      if (x > high) high = x;
    }
    widest = Math.max(widest, high - low[k]);
    return own;
  });
  const scale = widest > 0 ? (CELLS - 1e-3) / widest : 0;
  let cells = new Uint32Array(count);
  along.forEach((own, k) => {
    for (let i = 0; i < count; i++) cells[i] |= spread[((own[i] - low[k]) * scale) | 0] << k;
  });
  let [order, cellsTo, orderTo] = [things.slice(), new Uint32Array(count), new Int32Array(count)];
  // by as many bits at a time as there are along an axis, the lowest first
  for (let shift = 0; shift < 3 * AXIS_BITS; shift += AXIS_BITS) {
    const start = new Int32Array(CELLS + 1);
    for (let i = 0; i < count; i++) start[((cells[i] >>> shift) & (CELLS - 1)) + 1]++;
    for (let c = 0; c < CELLS; c++) start[c + 1] += start[c];
    for (let i = 0; i < count; i++) {
      const to = start[(cells[i] >>> shift) & (CELLS - 1)]++;
      cellsTo[to] = cells[i];
      orderTo[to] = order[i];
    }
    [cells, cellsTo, order, orderTo] = [cellsTo, cells, orderTo, order];
  }
  things.set(order);
  return cells;
}
