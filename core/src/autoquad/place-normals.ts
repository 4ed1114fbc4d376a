import { type LevelTopology } from '../subdivide/level-topology.ts';

/** By place, the sum of its quads' normals, each as long as its quad is large. */
export function placeNormals({ faceVertices }: LevelTopology, p: Float64Array): Float64Array {
  const normals = new Float64Array(p.length);
  for (let i = 0; i < faceVertices.length; i += 4) {
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
    for (let k = i; k < i + 4; k++) {
      const v = 3 * faceVertices[k];
      normals[v] += uy * wz - uz * wy;
      normals[v + 1] += uz * wx - ux * wz;
      normals[v + 2] += ux * wy - uy * wx;
    }
  }
  return normals;
}
