/** The inverse of a lower triangle, row by row like itself. @param lower size x size numbers; above the diagonal they mean nothing */
export function inverseOfLower(lower: Float64Array, size: number): Float64Array {
  const inverse = new Float64Array(size * size);
  const row = new Float64Array(size);
  for (let i = 0; i < size; i++) {
    row.fill(0);
    for (let k = 0; k < i; k++) {
      const l = lower[i * size + k];
      if (l !== 0) for (let j = 0; j <= k; j++) row[j] -= l * inverse[k * size + j];
    }
    for (let j = 0; j < i; j++) inverse[i * size + j] = row[j] / lower[i * size + i];
    inverse[i * size + i] = 1 / lower[i * size + i];
  }
  return inverse;
}

/** L Lt of a lower triangle. */
export function rowProducts(lower: Float64Array, size: number): Float64Array {
  const all = new Float64Array(size * size);
  for (let i = 0; i < size; i++) for (let j = 0; j <= i; j++) all[i * size + j] = all[j * size + i] = dot(lower, i * size, lower, j * size, j + 1);
  return all;
}

/** Lt L of a lower triangle. */
export function columnProducts(lower: Float64Array, size: number): Float64Array {
  const all = new Float64Array(size * size);
  for (let k = 0; k < size; k++)
    for (let i = 0; i <= k; i++) {
      const a = lower[k * size + i];
      if (a !== 0) for (let j = 0; j <= i; j++) all[i * size + j] += a * lower[k * size + j];
    }
  for (let i = 0; i < size; i++) for (let j = 0; j < i; j++) all[j * size + i] = all[i * size + j];
  return all;
}

/**
 * Sums of products of the first entries of a matrix's row with those of other rows: four at a time, as a single sum waits for itself.
 * @param steps how many entries
 * @param sums gets one by row of `others`
 */
export function rowDots(matrix: Float64Array, size: number, row: number, others: Int32Array, steps: number, sums: Float64Array): void {
  const own = row * size;
  let n = 0;
  for (; n + 3 < others.length; n += 4) {
    const a = others[n] * size;
    const b = others[n + 1] * size;
    const c = others[n + 2] * size;
    const d = others[n + 3] * size;
    let sumA = 0;
    let sumB = 0;
    let sumC = 0;
    let sumD = 0;
    for (let k = 0; k < steps; k++) {
      const x = matrix[own + k];
      sumA += x * matrix[a + k];
      sumB += x * matrix[b + k];
      sumC += x * matrix[c + k];
      sumD += x * matrix[d + k];
    }
    sums[n] = sumA;
    sums[n + 1] = sumB;
    sums[n + 2] = sumC;
    sums[n + 3] = sumD;
  }
  for (; n < others.length; n++) sums[n] = dot(matrix, own, matrix, others[n] * size, steps);
}

/** Sum of products of `size` entries of a from i on and of b from j on. */
export function dot(a: Float64Array, i: number, b: Float64Array, j: number, size: number): number {
  let sum = 0;
  for (let k = 0; k < size; k++) sum += a[i + k] * b[j + k];
  return sum;
}
