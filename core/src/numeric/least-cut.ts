/**
 * Cuts a polygon from corner to corner into quads and triangles at the least cost (dynamic programming over its diagonals, after Klincsek 1980,
 * "Minimal triangulations of polygonal domains", which does it for triangles). Time grows with the fourth power of the corners.
 * @param n corners, counted from 0 on the way round
 * @param faceCost of a face with these three or four corners, in order; Infinity where there may be none
 * @param cutCost of a cut between two corners that are not next to each other; Infinity where there may be none
 * @returns corners of each face; nothing where the polygon cannot be cut so
 */
export function leastCut(
  n: number,
  faceCost: (corners: readonly number[]) => number,
  cutCost: (i: number, j: number) => number
): number[][] | undefined {
  if (n < 3) return undefined;
  /** by first and last corner: the cost of the piece beyond the line that joins them, with that of the line, and its face along the line */
  const cost = new Float64Array(n * n);
  const faceAt: (readonly number[] | undefined)[] = [];
  for (let span = 2; span < n; span++)
    for (let i = 0; i + span < n; i++) {
      const j = i + span;
      const line = span === n - 1 ? 0 : cutCost(i, j);
      let best = Infinity;
      const consider = (corners: readonly number[]) => {
        let sum = 0;
        for (let c = 0; c + 1 < corners.length; c++) sum += cost[corners[c] * n + corners[c + 1]];
        if (sum >= best) return;
        sum += faceCost(corners);
        if (sum >= best) return;
        best = sum;
        faceAt[i * n + j] = corners;
      };
      for (let k = i + 1; line < Infinity && k < j; k++) {
        // quads alone where the number of sides allows it
        if (span % 2 === 0) consider([i, k, j]);
        for (let l = k + 1; l < j; l++) consider([i, k, l, j]);
      }
      cost[i * n + j] = best + line;
    }
  if (!Number.isFinite(cost[n - 1])) return undefined;
  const faces: number[][] = [];
  const collect = (i: number, j: number) => {
    const face = faceAt[i * n + j];
    if (j - i < 2 || !face) return;
    faces.push([...face]);
    for (let c = 0; c + 1 < face.length; c++) collect(face[c], face[c + 1]);
  };
  collect(0, n - 1);
  return faces;
}
