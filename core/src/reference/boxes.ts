/* Boxes in flat arrays: least x, y, z, then largest. */

/** Squared distance of a point to the box that begins at i. */
export function boxDistance2(box: Float64Array, i: number, x: number, y: number, z: number): number {
  const dx = beyond(box[i], box[i + 3], x);
  const dy = beyond(box[i + 1], box[i + 4], y);
  const dz = beyond(box[i + 2], box[i + 5], z);
  return dx * dx + dy * dy + dz * dz;
}

/** How far along a ray the box that begins at i is entered; infinite where it is passed by. @param inverse of the ray's direction */
export function boxEntry(box: Float64Array, i: number, origin: ArrayLike<number>, inverse: ArrayLike<number>): number {
  let [enter, leave] = [0, Infinity];
  for (let k = 0; k < 3; k++) {
    const [a, b] = [(box[i + k] - origin[k]) * inverse[k], (box[i + 3 + k] - origin[k]) * inverse[k]];
    // a ray within a side of the box gives what is no number there: that side does not part them
    if (a !== a || b !== b) continue;
    enter = Math.max(enter, Math.min(a, b));
    leave = Math.min(leave, Math.max(a, b));
  }
  return enter <= leave ? enter : Infinity;
}

/** How far x lies beyond a range. */
function beyond(low: number, high: number, x: number): number {
  const below = low - x;
  const above = x - high;
  const most = below > above ? below : above;
  return most > 0 ? most : 0;
}
