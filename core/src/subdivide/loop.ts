import { type LevelTopology } from './level-topology.ts';
import { otherEnd, sharpSpokes, vertexRings, type SharpSpokes, type VertexRings } from './vertex-rings.ts';
import { RowBuilder, type WeightRows } from './weight-rows.ts';

/** Weight rows of one Loop step (Loop 1987) with creases after Hoppe and others 1994, in the order of `refineTriangles`. */
export function loopRows(level: LevelTopology): WeightRows {
  const rings = vertexRings(level);
  const rows = new RowBuilder(level.vertices + level.edges, 7 * level.vertices + 4 * level.edges);
  const spokes: SharpSpokes = { count: 0, first: 0, second: 0, mean: 0 };
  for (let v = 0; v < level.vertices; v++) {
    vertexRow(level, rings, v, sharpSpokes(level, rings, v, spokes), rows);
    rows.endRow();
  }
  for (let e = 0; e < level.edges; e++) {
    edgeRow(level, e, rows);
    rows.endRow();
  }
  return rows.done();
}

function edgeRow(level: LevelTopology, e: number, rows: RowBuilder): void {
  const { edgeVertices, edgeFaces, faceVertices } = level;
  const sharp = edgeFaces[2 * e + 1] < 0 ? 1 : Math.min(1, level.edgeSharpness[e]);
  const a = edgeVertices[2 * e];
  const b = edgeVertices[2 * e + 1];
  rows.append(a, 0.5 * sharp + 0.375 * (1 - sharp));
  rows.append(b, 0.5 * sharp + 0.375 * (1 - sharp));
  if (sharp === 1) return;
  for (let side = 0; side < 2; side++) {
    const f = edgeFaces[2 * e + side];
    for (let c = 3 * f; c < 3 * f + 3; c++) {
      const v = faceVertices[c];
      if (v !== a && v !== b) rows.add(v, 0.125 * (1 - sharp));
    }
  }
}

/** Loop's weight of each neighbour of an interior vertex of valence n. */
export function loopBeta(n: number): number {
  const c = 0.375 + 0.25 * Math.cos((2 * Math.PI) / n);
  return (0.625 - c * c) / n;
}

function vertexRow(level: LevelTopology, rings: VertexRings, v: number, spokes: SharpSpokes, rows: RowBuilder): void {
  const n = rings.edgeStart[v + 1] - rings.edgeStart[v];
  const own = Math.min(1, level.vertexSharpness[v]);
  if (n === 0 || own === 1) {
    rows.append(v, 1);
    return;
  }
  const crease = spokes.count < 2 ? 0 : Math.min(1, spokes.mean);
  const smooth = (1 - own) * (1 - crease);
  if (smooth > 0) {
    const beta = loopBeta(n);
    rows.append(v, smooth * (1 - n * beta));
    for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) rows.append(otherEnd(level, rings.edge[k], v), smooth * beta);
  }
  const share = (1 - own) * crease;
  if (share > 0 && spokes.count > 2) rows.add(v, share);
  else if (share > 0) {
    rows.add(v, 0.75 * share);
    rows.add(otherEnd(level, spokes.first, v), 0.125 * share);
    rows.add(otherEnd(level, spokes.second, v), 0.125 * share);
  }
  if (own > 0) rows.add(v, own);
}
