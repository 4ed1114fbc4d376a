import { type LevelTopology } from './level-topology.ts';
import { otherEnd, sharpSpokes, vertexRings, type SharpSpokes, type VertexRings } from './vertex-rings.ts';
import { RowBuilder, type WeightRows } from './weight-rows.ts';

/**
 * Weight rows of one Catmull-Clark step (Catmull, Clark 1978) with semi-sharp creases (DeRose, Kass, Truong 1998), in the
 * order of `refineQuads`: vertex points, edge points, face points.
 * @param some only the rows of these points, in this order
 */
export function catmullClarkRows(level: LevelTopology, some?: Int32Array): WeightRows {
  const { vertices, edges, faceStart, faceVertices } = level;
  const points = some ?? Int32Array.from({ length: vertices + edges + faceStart.length - 1 }, (_, p) => p);
  const rings = points.length > 0 ? vertexRings(level) : undefined;
  const rows = new RowBuilder(points.length, some ? 6 * some.length : 9 * vertices + 6 * edges + faceVertices.length);
  const spokes: SharpSpokes = { count: 0, first: 0, second: 0, mean: 0 };
  for (const p of points) {
    if (p < vertices) vertexRow(level, rings!, p, sharpSpokes(level, rings!, p, spokes), rows);
    else if (p < vertices + edges) edgeRow(level, p - vertices, rows);
    else {
      const f = p - vertices - edges;
      const share = 1 / (faceStart[f + 1] - faceStart[f]);
      for (let c = faceStart[f]; c < faceStart[f + 1]; c++) rows.append(faceVertices[c], share);
    }
    rows.endRow();
  }
  return rows.done();
}

/** Smooth: mean of the ends and both face points; sharp: the midpoint; in between: a blend. */
function edgeRow(level: LevelTopology, e: number, rows: RowBuilder): void {
  const { edgeVertices, edgeFaces, faceStart, faceVertices } = level;
  const border = edgeFaces[2 * e + 1] < 0;
  const sharp = border ? 1 : Math.min(1, level.edgeSharpness[e]);
  const a = edgeVertices[2 * e];
  const b = edgeVertices[2 * e + 1];
  rows.append(a, 0.5 * sharp + 0.25 * (1 - sharp));
  rows.append(b, 0.5 * sharp + 0.25 * (1 - sharp));
  if (sharp === 1) return;
  for (let side = 0; side < 2; side++) {
    const f = edgeFaces[2 * e + side];
    const share = (0.25 * (1 - sharp)) / (faceStart[f + 1] - faceStart[f]);
    for (let c = faceStart[f]; c < faceStart[f + 1]; c++) rows.add(faceVertices[c], share);
  }
}

/**
 * Vertex rule by the number of sharp edges: none or one smooth (a dart), two crease, three or more corner. Below
 * sharpness 1 the smooth rule is blended in; a vertex's own sharpness makes it a corner in the same way.
 */
function vertexRow(level: LevelTopology, rings: VertexRings, v: number, spokes: SharpSpokes, rows: RowBuilder): void {
  const own = Math.min(1, level.vertexSharpness[v]);
  if (rings.edgeStart[v] === rings.edgeStart[v + 1] || own === 1) {
    rows.append(v, 1);
    return;
  }
  const crease = spokes.count < 2 ? 0 : Math.min(1, spokes.mean);
  if (crease < 1) smoothVertex(level, rings, v, (1 - own) * (1 - crease), rows);
  if (crease > 0) {
    const share = (1 - own) * crease;
    if (spokes.count > 2) rows.add(v, share);
    else {
      rows.add(v, 0.75 * share);
      rows.add(otherEnd(level, spokes.first, v), 0.125 * share);
      rows.add(otherEnd(level, spokes.second, v), 0.125 * share);
    }
  }
  if (own > 0) rows.add(v, own);
}

/** (F + 2 R + (n - 3) P) / n with F the mean face point and R the mean edge midpoint. */
function smoothVertex(level: LevelTopology, rings: VertexRings, v: number, share: number, rows: RowBuilder): void {
  const n = rings.edgeStart[v + 1] - rings.edgeStart[v];
  rows.append(v, (share * (n - 2)) / n);
  const each = share / (n * n);
  for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) rows.append(otherEnd(level, rings.edge[k], v), each);
  for (let k = rings.cornerStart[v]; k < rings.cornerStart[v + 1]; k++) {
    const f = rings.cornerFace[rings.corner[k]];
    const part = each / (level.faceStart[f + 1] - level.faceStart[f]);
    for (let c = level.faceStart[f]; c < level.faceStart[f + 1]; c++) rows.add(level.faceVertices[c], part);
  }
}
