/** Coordinates of a map are multiples of this, so that sums and orientation tests are exact. */
export const GRID = 2 ** -16;

/** Half a whole plus a grid step: no ordinary vertex lies on a line through cell centres. */
export function offHalves(x: number): number {
  return x - Math.floor(x) === 0.5 ? x + GRID : x;
}

/**
 * Twice the signed area of each triangle in the map; negative: turned over.
 * @param uv by half-edge start
 */
export function mapAreas(uv: Float64Array): Float64Array {
  const areas = new Float64Array(uv.length / 6);
  for (let t = 0; t < areas.length; t++) {
    const i = 6 * t;
    areas[t] = (uv[i + 2] - uv[i]) * (uv[i + 5] - uv[i + 1]) - (uv[i + 3] - uv[i + 1]) * (uv[i + 4] - uv[i]);
  }
  return areas;
}
