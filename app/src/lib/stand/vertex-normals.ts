import type { SlotsByPoint } from './followers.ts';

/** The vector along the normal of a triangle as long as twice its area. @param t place of its first point in `index` */
function areaVector(positions: Float32Array, index: ArrayLike<number>, t: number): [number, number, number] {
  const [a, b, c] = [3 * index[t], 3 * index[t + 1], 3 * index[t + 2]];
  const ux = positions[b] - positions[a];
  const uy = positions[b + 1] - positions[a + 1];
  const uz = positions[b + 2] - positions[a + 2];
  const vx = positions[c] - positions[a];
  const vy = positions[c + 1] - positions[a + 1];
  const vz = positions[c + 2] - positions[a + 2];
  return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
}

function makeUnit(out: Float32Array, v: number): void {
  const [x, y, z] = [out[3 * v], out[3 * v + 1], out[3 * v + 2]];
  const length = Math.sqrt(x * x + y * y + z * z) || 1;
  out[3 * v] = x / length;
  out[3 * v + 1] = y / length;
  out[3 * v + 2] = z / length;
}

/**
 * Unit normals at the points of a triangle mesh: the mean of those of the triangles there, by their areas.
 * @param positions x, y, z of each point
 * @param index three points a triangle
 * @param out gets x, y, z of each normal
 */
export function vertexNormals(positions: Float32Array, index: ArrayLike<number>, out: Float32Array): void {
  out.fill(0);
  for (let t = 0; t < index.length; t += 3) {
    const [x, y, z] = areaVector(positions, index, t);
    for (let k = t; k < t + 3; k++) {
      const v = 3 * index[k];
      out[v] += x;
      out[v + 1] += y;
      out[v + 2] += z;
    }
  }
  for (let v = 0; v < out.length / 3; v++) makeUnit(out, v);
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
  { start, slot }: SlotsByPoint,
  moved: ArrayLike<number>,
  out: Float32Array
): Int32Array {
  const round = new Set<number>();
  const firstOf = (corner: number) => corner - (corner % 3);
  for (let n = 0; n < moved.length; n++)
    for (let i = start[moved[n]]; i < start[moved[n] + 1]; i++) {
      const t = firstOf(slot[i]);
      round
        .add(index[t])
        .add(index[t + 1])
        .add(index[t + 2]);
    }
  for (const v of round) {
    out.fill(0, 3 * v, 3 * v + 3);
    for (let i = start[v]; i < start[v + 1]; i++) {
      const [x, y, z] = areaVector(positions, index, firstOf(slot[i]));
      out[3 * v] += x;
      out[3 * v + 1] += y;
      out[3 * v + 2] += z;
    }
    makeUnit(out, v);
  }
  return Int32Array.from(round);
}
