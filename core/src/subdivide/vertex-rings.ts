import { cornersAtVertices } from '../mesh/polygon-mesh.ts';
import { type LevelTopology } from './level-topology.ts';

/** Edges and face corners at every vertex: `edge[start[v] .. start[v + 1]]`, in no particular order. */
export interface VertexRings {
  edgeStart: Int32Array;
  edge: Int32Array;
  cornerStart: Int32Array;
  /** face corners (indices into faceVertices) at the vertex */
  corner: Int32Array;
  cornerFace: Int32Array;
}

export function vertexRings(level: LevelTopology): VertexRings {
  const { vertices, edges, edgeVertices, faceVertices, faceStart } = level;
  const edgeStart = new Int32Array(vertices + 1);
  for (let i = 0; i < 2 * edges; i++) edgeStart[edgeVertices[i] + 1]++;
  for (let v = 0; v < vertices; v++) edgeStart[v + 1] += edgeStart[v];
  const edge = new Int32Array(2 * edges);
  const edgeCursor = edgeStart.slice();
  for (let i = 0; i < 2 * edges; i++) edge[edgeCursor[edgeVertices[i]]++] = i >> 1;
  const { start: cornerStart, corner } = cornersAtVertices(faceVertices, vertices);
  const cornerFace = new Int32Array(faceVertices.length);
  for (let f = 0; f + 1 < faceStart.length; f++) cornerFace.fill(f, faceStart[f], faceStart[f + 1]);
  return { edgeStart, edge, cornerStart, corner, cornerFace };
}

/** How many sharp edges (borders count) meet at v, the two first of them, and the mean sharpness of the crease edges. */
export interface SharpSpokes {
  count: number;
  first: number;
  second: number;
  /** mean sharpness of the sharp edges, borders as 10 */
  mean: number;
}

export function sharpSpokes(level: LevelTopology, rings: VertexRings, v: number, into: SharpSpokes): SharpSpokes {
  into.count = 0;
  into.mean = 0;
  for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) {
    const e = rings.edge[k];
    const s = level.edgeFaces[2 * e + 1] < 0 ? 10 : level.edgeSharpness[e];
    if (s <= 0) continue;
    if (into.count === 0) into.first = e;
    else if (into.count === 1) into.second = e;
    into.count++;
    into.mean += s;
  }
  if (into.count > 0) into.mean /= into.count;
  return into;
}

/** The end of edge e that is not v. */
export function otherEnd(level: LevelTopology, e: number, v: number): number {
  return level.edgeVertices[2 * e] === v ? level.edgeVertices[2 * e + 1] : level.edgeVertices[2 * e];
}
