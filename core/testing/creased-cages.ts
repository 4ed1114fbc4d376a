import fc from 'fast-check';
import { type PolygonMesh } from '../src/mesh/polygon-mesh.ts';
import { anyCage } from './random-meshes.ts';

/** Polygons with some of their edges and vertices made sharp, chosen by numbers. */
export const creased = fc
  .record({ cage: anyCage, sharpness: fc.array(fc.constantFrom(0, 0, 0, 0.4, 1, 1.75, 2.5, 10), { minLength: 11, maxLength: 11 }) })
  .map(({ cage, sharpness }): PolygonMesh => {
    const edges = [...cage.edges()];
    edges.forEach((e, i) => (cage.layer('crease').data[e] = sharpness[i % 11]));
    [...cage.vertices()].forEach((v, i) => (cage.layer('corner').data[v] = i % 5 === 0 ? sharpness[(i + 3) % 11] : 0));
    return cage.toPolygons();
  });

/** Points of `points` that have none of `others` within 1e-10. */
export function unmatched(points: ArrayLike<number>, others: readonly number[][]): number {
  const byX = [...others].sort((a, b) => a[0] - b[0]);
  let lonely = 0;
  for (let i = 0; i < points.length; i += 3) {
    let low = 0;
    for (let high = byX.length; low < high;) {
      const middle = (low + high) >> 1;
      if (byX[middle][0] < points[i] - 1e-10) low = middle + 1;
      else high = middle;
    }
    let found = false;
    for (let k = low; k < byX.length && byX[k][0] <= points[i] + 1e-10 && !found; k++)
      found = Math.max(...byX[k].map((x, axis) => Math.abs(x - points[i + axis]))) < 1e-10;
    if (!found) lonely++;
  }
  return lonely;
}
