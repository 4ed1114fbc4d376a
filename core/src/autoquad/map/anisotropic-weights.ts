import { after } from '../base/working-mesh.ts';

/** Quads of which one side is more than so many times as long as the other count as if it were so many times. */
const MOST = 4;

/**
 * What u and v are to weigh in the next fit of a map, so that the quads' edges come out even. A fit of gradients minds quads that are too
 * narrow much more than those that are too wide: along a taper, as many quads lie across as suit its narrow end. Counted by edges,
 * sum over edges of (length / wanted - 1)^2, u weighs |grad v| / |grad u| times as much (iteratively reweighted least squares: Lawson 1961).
 * @param map u and v by half-edge start
 * @param meant u and v along a half-edge as they were aimed at
 * @returns weight of u and of v by triangle
 */
export function evenness(map: Float64Array, meant: (halfEdge: number) => [number, number]): Float64Array {
  const weights = new Float64Array(map.length / 3);
  for (let t = 0; 2 * t < weights.length; t++) {
    const [a, b] = [3 * t, 3 * t + 1];
    const [alongA, alongB] = [meant(a), meant(b)];
    // of the map against what was meant, but for a common factor
    const steepness = (k: number) => {
      const [onA, onB] = [map[2 * after(a) + k] - map[2 * a + k], map[2 * after(b) + k] - map[2 * b + k]];
      return Math.hypot(onA * alongB[1] - onB * alongA[1], onB * alongA[0] - onA * alongB[0]);
    };
    const ratio = Math.min(MOST, Math.max(1 / MOST, steepness(1) / steepness(0) || 1));
    weights[2 * t] = ratio;
    weights[2 * t + 1] = 1 / ratio;
  }
  return weights;
}
