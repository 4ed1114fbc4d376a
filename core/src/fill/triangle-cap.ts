import { cross, dot, length, subtract, unit, type Triple } from '../numeric/vectors.ts';

/**
 * Triangles over a closed row of points with the flattest joints and, of those, the least area (Liepa 2003, after Barequet and
 * Sharir 1995), by dynamic programming over its pieces.
 * @param outside per side of the row the normal of the face beyond it, where there is one
 * @returns point numbers, three a triangle
 */
export function triangleCap(points: readonly Triple[], outside: readonly (Triple | undefined)[], byArea: boolean): [number, number, number][] {
  const n = points.length;
  const worst = new Float64Array(n * n);
  const area = new Float64Array(n * n);
  const middle = new Int32Array(n * n).fill(-1);
  const normal = (i: number, m: number, k: number) => cross(subtract(points[m], points[i]), subtract(points[k], points[i]));
  /** normal of what lies on the other side of line (i, k) within its piece */
  const beyond = (i: number, k: number): Triple | undefined =>
    k - i === 1 ? outside[i] : middle[i * n + k] < 0 ? undefined : normal(i, middle[i * n + k], k);
  const bend = (a: Triple, b: Triple | undefined) => (b === undefined ? 0 : 1 - Math.max(-1, Math.min(1, dot(unit(a), unit(b)))));
  for (let gap = 2; gap < n; gap++)
    for (let i = 0; i + gap < n; i++) {
      const k = i + gap;
      let [bestWorst, bestArea, bestMiddle] = [Infinity, Infinity, -1];
      for (let m = i + 1; m < k; m++) {
        const face = normal(i, m, k);
        let bent = Math.max(worst[i * n + m], worst[m * n + k], bend(face, beyond(i, m)), bend(face, beyond(m, k)));
        if (i === 0 && k === n - 1) bent = Math.max(bent, bend(face, outside[n - 1]));
        const size = area[i * n + m] + area[m * n + k] + length(face) / 2;
        const better = byArea ? size < bestArea - 1e-12 : bent < bestWorst - 1e-9 || (bent < bestWorst + 1e-9 && size < bestArea);
        if (better) [bestWorst, bestArea, bestMiddle] = [bent, size, m];
      }
      worst[i * n + k] = bestWorst;
      area[i * n + k] = bestArea;
      middle[i * n + k] = bestMiddle;
    }
  const triangles: [number, number, number][] = [];
  const pieces: [number, number][] = [[0, n - 1]];
  for (const [i, k] of pieces) {
    const m = middle[i * n + k];
    if (k - i < 2 || m < 0) continue;
    triangles.push([i, m, k]);
    pieces.push([i, m], [m, k]);
  }
  return triangles;
}
