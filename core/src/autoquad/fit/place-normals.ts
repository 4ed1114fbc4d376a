import { quadsAtVertices } from '../../mesh/polygon-mesh.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { type LevelTopology } from '../../subdivide/level-topology.ts';

/** By place, the sum of its quads' normals, each as long as its quad is large. */
export function placeNormals({ faceVertices }: LevelTopology, p: Float64Array): Float64Array {
  const normals = new Float64Array(p.length);
  const own = new Float64Array(3);
  for (let i = 0; i < faceVertices.length; i += 4) {
    own.fill(0);
    addNormal(faceVertices, p, i, own);
    for (let k = i; k < i + 4; k++) for (let c = 0; c < 3; c++) normals[3 * faceVertices[k] + c] += own[c];
  }
  return normals;
}

/** Adds the normal of the quad whose corners begin at i, as long as the quad is large. */
function addNormal(faceVertices: Int32Array, p: Float64Array, i: number, sum: Float64Array): void {
  const a = 3 * faceVertices[i];
  const b = 3 * faceVertices[i + 1];
  const c = 3 * faceVertices[i + 2];
  const d = 3 * faceVertices[i + 3];
  const ux = p[c] - p[a];
  const uy = p[c + 1] - p[a + 1];
  const uz = p[c + 2] - p[a + 2];
  const wx = p[d] - p[b];
  const wy = p[d + 1] - p[b + 1];
  const wz = p[d + 2] - p[b + 2];
  sum[0] += uy * wz - uz * wy;
  sum[1] += uz * wx - ux * wz;
  sum[2] += ux * wy - uy * wx;
}

/** @returns the same of single places: told a place, and where all are, it gives the sum there */
export function normalsAtPlaces({ faceVertices, vertices }: LevelTopology): (s: number, p: Float64Array) => Triple {
  const at = quadsAtVertices(faceVertices, vertices);
  const own = new Float64Array(3);
  return (s, p) => {
    own.fill(0);
    for (const q of at[s]) addNormal(faceVertices, p, 4 * q, own);
    return [own[0], own[1], own[2]];
  };
}
