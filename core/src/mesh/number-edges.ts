import { type PolygonMesh } from './polygon-mesh.ts';

/** Corners at one vertex from which on its edges are looked up, not searched. */
const LARGE_FAN = 200;

/**
 * Numbers the edges of polygons without hashing: corners are bucketed by the smaller end of their edge (counting sort).
 * @returns per corner the edge index, and the edge count; corners of one edge share its index however many there are
 */
export function numberEdges(mesh: PolygonMesh): { cornerEdge: Int32Array; edges: number } {
  const { faceStart, faceVertices } = mesh;
  const corners = faceVertices.length;
  const vertices = mesh.positions.length / 3;
  const bucket = new Int32Array(vertices + 1);
  const low = new Int32Array(corners);
  const high = new Int32Array(corners);
  for (let f = 0; f + 1 < faceStart.length; f++)
    for (let c = faceStart[f], end = faceStart[f + 1]; c < end; c++) {
      const a = faceVertices[c];
      const b = faceVertices[c + 1 < end ? c + 1 : faceStart[f]];
      low[c] = a < b ? a : b;
      high[c] = a < b ? b : a;
      bucket[low[c] + 1]++;
    }
  for (let v = 0; v < vertices; v++) bucket[v + 1] += bucket[v];
  const order = new Int32Array(corners);
  const cursor = bucket.slice();
  for (let c = 0; c < corners; c++) order[cursor[low[c]]++] = c;
  const cornerEdge = new Int32Array(corners);
  let edges = 0;
  for (let v = 0; v < vertices; v++) {
    // a fan of many thousand faces at one vertex would be looked through for each of them
    const seen = bucket[v + 1] - bucket[v] > LARGE_FAN ? new Map<number, number>() : undefined;
    for (let i = bucket[v]; i < bucket[v + 1]; i++) {
      const c = order[i];
      if (seen) {
        let e = seen.get(high[c]);
        if (e === undefined) seen.set(high[c], (e = edges++));
        cornerEdge[c] = e;
        continue;
      }
      let j = bucket[v];
      while (j < i && high[order[j]] !== high[c]) j++;
      cornerEdge[c] = j < i ? cornerEdge[order[j]] : edges++;
    }
  }
  return { cornerEdge, edges };
}
