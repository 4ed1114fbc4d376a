import { catmullClarkRows } from './catmull-clark.ts';
import { type LevelTopology } from './level-topology.ts';
import { MarkedSet, type Refinement } from './refinement.ts';
import { otherEnd, vertexRings, type VertexRings } from './vertex-rings.ts';
import { applyRow, type WeightRows } from './weight-rows.ts';

/**
 * One Catmull-Clark step. Smooth points are computed from the connectivity, so that only points near creases, corners
 * and borders need stored weights: a table for all of them would be ten times as large and twice as slow.
 */
export class CatmullClarkRefinement implements Refinement {
  /** edges at each vertex */
  private readonly valence: Int32Array;
  /** points with rules of their own, and the rows they follow */
  private readonly special: Int32Array;
  private readonly specialRows: WeightRows;
  private live?: LiveParts;

  constructor(private readonly level: LevelTopology) {
    const { vertices, edges, edgeVertices, edgeFaces, edgeSharpness, vertexSharpness } = level;
    this.valence = new Int32Array(vertices);
    const sharpEdges = new Uint16Array(vertices);
    const special: number[] = [];
    const specialEdges: number[] = [];
    for (let e = 0; e < edges; e++) {
      const a = edgeVertices[2 * e];
      const b = edgeVertices[2 * e + 1];
      this.valence[a]++;
      this.valence[b]++;
      if (edgeFaces[2 * e + 1] >= 0 && edgeSharpness[e] === 0) continue;
      sharpEdges[a]++;
      sharpEdges[b]++;
      specialEdges.push(vertices + e);
    }
    for (let v = 0; v < vertices; v++) if (sharpEdges[v] > 1 || vertexSharpness[v] > 0 || this.valence[v] === 0) special.push(v);
    for (const p of specialEdges) special.push(p);
    this.special = Int32Array.from(special);
    this.specialRows = catmullClarkRows(level, this.special);
  }

  apply(source: Float64Array, out: Float64Array): void {
    // the places of vertex points first hold the sums of neighbours and face points
    out.fill(0, 0, 3 * this.level.vertices);
    this.facePoints(source, out);
    this.edgePoints(source, out);
    const { vertices } = this.level;
    for (let v = 0; v < vertices; v++) {
      const n = this.valence[v];
      const keep = (n - 2) / n;
      const share = 1 / (n * n);
      const i = 3 * v;
      out[i] = keep * source[i] + share * out[i];
      out[i + 1] = keep * source[i + 1] + share * out[i + 1];
      out[i + 2] = keep * source[i + 2] + share * out[i + 2];
    }
    for (let i = 0; i < this.special.length; i++) applyRow(this.specialRows, i, source, out, this.special[i]);
  }

  private facePoints(source: Float64Array, out: Float64Array): void {
    const { vertices, edges, faceStart, faceVertices } = this.level;
    const faces = faceStart.length - 1;
    for (let f = 0, at = 3 * (vertices + edges); f < faces; f++, at += 3) {
      const start = faceStart[f];
      const end = faceStart[f + 1];
      let x = 0;
      let y = 0;
      let z = 0;
      for (let c = start; c < end; c++) {
        const s = 3 * faceVertices[c];
        x += source[s];
        y += source[s + 1];
        z += source[s + 2];
      }
      const share = 1 / (end - start);
      out[at] = x *= share;
      out[at + 1] = y *= share;
      out[at + 2] = z *= share;
      for (let c = start; c < end; c++) {
        const s = 3 * faceVertices[c];
        out[s] += x;
        out[s + 1] += y;
        out[s + 2] += z;
      }
    }
  }

  private edgePoints(source: Float64Array, out: Float64Array): void {
    const { vertices, edges, edgeVertices, edgeFaces } = this.level;
    const faceBase = 3 * (vertices + edges);
    for (let e = 0, at = 3 * vertices; e < edges; e++, at += 3) {
      const a = 3 * edgeVertices[2 * e];
      const b = 3 * edgeVertices[2 * e + 1];
      const f = faceBase + 3 * edgeFaces[2 * e];
      // on a border the second face is not there; the point is a special one and overwritten
      const g = edgeFaces[2 * e + 1] < 0 ? f : faceBase + 3 * edgeFaces[2 * e + 1];
      const ax = source[a];
      const ay = source[a + 1];
      const az = source[a + 2];
      const bx = source[b];
      const by = source[b + 1];
      const bz = source[b + 2];
      out[at] = 0.25 * (ax + bx + out[f] + out[g]);
      out[at + 1] = 0.25 * (ay + by + out[f + 1] + out[g + 1]);
      out[at + 2] = 0.25 * (az + bz + out[f + 2] + out[g + 2]);
      out[a] += bx;
      out[a + 1] += by;
      out[a + 2] += bz;
      out[b] += ax;
      out[b + 1] += ay;
      out[b + 2] += az;
    }
  }

  update(changed: Int32Array, source: Float64Array, out: Float64Array): Int32Array {
    const { level } = this;
    const { vertices, edges, faceStart, faceVertices, faceEdges } = level;
    const { rings, points, specialRow } = (this.live ??= liveParts(level, this.special));
    points.clear();
    for (const v of changed) {
      points.add(v);
      for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) points.add(vertices + rings.edge[k]);
      for (let k = rings.cornerStart[v]; k < rings.cornerStart[v + 1]; k++) {
        const f = rings.cornerFace[rings.corner[k]];
        points.add(vertices + edges + f);
        for (let c = faceStart[f]; c < faceStart[f + 1]; c++) {
          points.add(faceVertices[c]);
          points.add(vertices + faceEdges[c]);
        }
      }
    }
    const list = Int32Array.from(points.members);
    // edge and vertex points read face points
    for (const p of list) if (p >= vertices + edges) this.oneFacePoint(p, source, out);
    for (const p of list) {
      if (p >= vertices + edges) continue;
      if (specialRow[p] >= 0) applyRow(this.specialRows, specialRow[p], source, out, p);
      else if (p >= vertices) this.oneEdgePoint(p, source, out);
      else this.oneVertexPoint(p, rings, source, out);
    }
    return list;
  }

  private oneFacePoint(p: number, source: Float64Array, out: Float64Array): void {
    const { vertices, edges, faceStart, faceVertices } = this.level;
    const f = p - vertices - edges;
    for (let k = 0; k < 3; k++) {
      let sum = 0;
      for (let c = faceStart[f]; c < faceStart[f + 1]; c++) sum += source[3 * faceVertices[c] + k];
      out[3 * p + k] = sum / (faceStart[f + 1] - faceStart[f]);
    }
  }

  private oneEdgePoint(p: number, source: Float64Array, out: Float64Array): void {
    const { vertices, edges, edgeVertices, edgeFaces } = this.level;
    const e = p - vertices;
    const [a, b] = [3 * edgeVertices[2 * e], 3 * edgeVertices[2 * e + 1]];
    const [f, g] = [3 * (vertices + edges + edgeFaces[2 * e]), 3 * (vertices + edges + edgeFaces[2 * e + 1])];
    for (let k = 0; k < 3; k++) out[3 * p + k] = 0.25 * (source[a + k] + source[b + k] + out[f + k] + out[g + k]);
  }

  private oneVertexPoint(v: number, rings: VertexRings, source: Float64Array, out: Float64Array): void {
    const { level } = this;
    const n = this.valence[v];
    const faceBase = level.vertices + level.edges;
    for (let k = 0; k < 3; k++) {
      let sum = 0;
      for (let i = rings.edgeStart[v]; i < rings.edgeStart[v + 1]; i++) sum += source[3 * otherEnd(level, rings.edge[i], v) + k];
      for (let i = rings.cornerStart[v]; i < rings.cornerStart[v + 1]; i++) sum += out[3 * (faceBase + rings.cornerFace[rings.corner[i]]) + k];
      out[3 * v + k] = ((n - 2) / n) * source[3 * v + k] + sum / (n * n);
    }
  }

  rows(): WeightRows {
    return catmullClarkRows(this.level);
  }
}

/** What only moving single vertices needs; made at the first such move. */
interface LiveParts {
  rings: VertexRings;
  points: MarkedSet;
  /** row of a vertex or edge point with a rule of its own, or -1 */
  specialRow: Int32Array;
}

function liveParts(level: LevelTopology, special: Int32Array): LiveParts {
  const specialRow = new Int32Array(level.vertices + level.edges).fill(-1);
  special.forEach((p, i) => (specialRow[p] = i));
  return { rings: vertexRings(level), points: new MarkedSet(level.vertices + level.edges + level.faceStart.length - 1), specialRow };
}
