/**
 * Unit normals at the points of a triangle mesh: the mean of those of the triangles there, by their areas.
 * @param positions x, y, z of each point
 * @param index three points a triangle
 * @param out gets x, y, z of each normal
 */
export function vertexNormals(positions: Float32Array, index: ArrayLike<number>, out: Float32Array): void {
  out.fill(0);
  for (let t = 0; t < index.length; t += 3) {
    const [a, b, c] = [3 * index[t], 3 * index[t + 1], 3 * index[t + 2]];
    const ux = positions[b] - positions[a];
    const uy = positions[b + 1] - positions[a + 1];
    const uz = positions[b + 2] - positions[a + 2];
    const vx = positions[c] - positions[a];
    const vy = positions[c + 1] - positions[a + 1];
    const vz = positions[c + 2] - positions[a + 2];
    const x = uy * vz - uz * vy;
    const y = uz * vx - ux * vz;
    const z = ux * vy - uy * vx;
    out[a] += x;
    out[a + 1] += y;
    out[a + 2] += z;
    out[b] += x;
    out[b + 1] += y;
    out[b + 2] += z;
    out[c] += x;
    out[c + 1] += y;
    out[c + 2] += z;
  }
  for (let i = 0; i < out.length; i += 3) {
    const length = Math.sqrt(out[i] * out[i] + out[i + 1] * out[i + 1] + out[i + 2] * out[i + 2]) || 1;
    out[i] /= length;
    out[i + 1] /= length;
    out[i + 2] /= length;
  }
}

/**
 * The same where some points have moved: those of all triangles round these points alone are written.
 * @param cornersOf by point the places in `index` that name it
 * @param moved points
 * @returns points whose normals were written
 */
export function normalsRound(
  positions: Float32Array,
  index: ArrayLike<number>,
  { start, slot }: { start: Int32Array; slot: Int32Array },
  moved: ArrayLike<number>,
  out: Float32Array
): Int32Array {
  const round = new Set<number>();
  for (let n = 0; n < moved.length; n++)
    for (let i = start[moved[n]]; i < start[moved[n] + 1]; i++) {
      const t = slot[i] - (slot[i] % 3);
      round
        .add(index[t])
        .add(index[t + 1])
        .add(index[t + 2]);
    }
  for (const v of round) {
    out.fill(0, 3 * v, 3 * v + 3);
    for (let i = start[v]; i < start[v + 1]; i++) {
      const t = slot[i] - (slot[i] % 3);
      const [a, b, c] = [3 * index[t], 3 * index[t + 1], 3 * index[t + 2]];
      const ux = positions[b] - positions[a];
      const uy = positions[b + 1] - positions[a + 1];
      const uz = positions[b + 2] - positions[a + 2];
      const vx = positions[c] - positions[a];
      const vy = positions[c + 1] - positions[a + 1];
      const vz = positions[c + 2] - positions[a + 2];
      out[3 * v] += uy * vz - uz * vy;
      out[3 * v + 1] += uz * vx - ux * vz;
      out[3 * v + 2] += ux * vy - uy * vx;
    }
    const [x, y, z] = [out[3 * v], out[3 * v + 1], out[3 * v + 2]];
    const length = Math.sqrt(x * x + y * y + z * z) || 1;
    out[3 * v] = x / length;
    out[3 * v + 1] = y / length;
    out[3 * v + 2] = z / length;
  }
  return Int32Array.from(round);
}
