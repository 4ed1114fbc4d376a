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
