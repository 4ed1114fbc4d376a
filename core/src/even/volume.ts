import { FREE } from './held-lines.ts';
import { type MovingSurface, type Touched } from './passes.ts';
import { normalAt, type VertexNet } from './vertex-net.ts';

/** Times that what is left of a change of volume is made up for. */
const CORRECTED = 2;

/** Six times the volume between some faces and the origin, by signed tetrahedra, mm3. */
export function sixfoldVolume({ faceStart, corners }: VertexNet, p: Float64Array, faces: Int32Array): number {
  let sum = 0;
  for (const f of faces) {
    const o = 3 * corners[faceStart[f]];
    for (let i = faceStart[f] + 1; i + 1 < faceStart[f + 1]; i++) {
      const [a, b] = [3 * corners[i], 3 * corners[i + 1]];
      sum +=
        p[o] * (p[a + 1] * p[b + 2] - p[a + 2] * p[b + 1]) +
        p[o + 1] * (p[a + 2] * p[b] - p[a] * p[b + 2]) +
        p[o + 2] * (p[a] * p[b + 1] - p[a + 1] * p[b]);
    }
  }
  return sum;
}

/**
 * Does something with vertices, and moves them along their normals, each as it follows, so that the volume under them stays what it was. Where
 * only part of a surface moves, its outline stays, so that the volume it sweeps is known.
 * @param faces those with one of the vertices
 */
export function withVolumeKept(surface: MovingSurface, touched: Touched, faces: Int32Array, work: () => void): void {
  const { net, lines, positions: p } = surface;
  const before = sixfoldVolume(net, p, faces);
  work();
  const { vertices, weights } = touched;
  const normal = new Float64Array(3);
  const ways = new Float64Array(3 * vertices.length);
  const isFree = (v: number) => lines.kind[v] === FREE;
  vertices.forEach((v, i) => {
    normalAt(net, p, v, normal);
    for (let k = 0; k < 3; k++) ways[3 * i + k] = isFree(v) ? weights[i] * normal[k] : 0;
  });
  const move = (by: number) => vertices.forEach((v, i) => [0, 1, 2].forEach((k) => (p[3 * v + k] += by * ways[3 * i + k])));
  // what a small step of all of them gains tells how far they go (Newton's method)
  const step = 1e-4 * meanEdge(net, p, vertices);
  for (let time = 0; time < CORRECTED; time++) {
    const now = sixfoldVolume(net, p, faces);
    move(step);
    const slope = (sixfoldVolume(net, p, faces) - now) / step;
    move(-step - (slope > 0 ? (now - before) / slope : 0));
  }
}

/** Mean length of the edges at some vertices, mm. */
function meanEdge({ start, ring }: VertexNet, p: Float64Array, vertices: Int32Array): number {
  let [sum, count] = [0, 0];
  for (const v of vertices)
    for (let i = start[v]; i < start[v + 1]; i++) {
      const w = ring[i];
      sum += Math.hypot(p[3 * v] - p[3 * w], p[3 * v + 1] - p[3 * w + 1], p[3 * v + 2] - p[3 * w + 2]);
      count++;
    }
  return count > 0 ? sum / count : 0;
}
