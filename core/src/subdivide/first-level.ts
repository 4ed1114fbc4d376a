import { type Cage } from '../mesh/cage.ts';
import { changedHalves, changedValues, movedVertices } from '../mesh/difference.ts';
import { NONE } from '../mesh/half-edges.ts';
import { STAYS_SHARP, type BorderCorners } from './level-topology.ts';

/** Ids of elements whose points of the first level are new. */
export interface FirstLevelChange {
  vertices: number[];
  edges: number[];
  faces: number[];
  /** half-edges whose quad is new or gone: see `quadAt` */
  halves: number[];
}

/**
 * The first level of a cage's Catmull-Clark surface (Catmull, Clark 1978; creases after DeRose, Kass, Truong 1998), kept by
 * the ids of the cage's elements, so that it can follow a local change of topology: only what lies at a change is computed
 * again. `Subdivision` makes the same points for all levels, but from nothing.
 */
export class FirstLevel {
  /** three numbers a vertex, edge and face id */
  vertexPoints = new Float64Array(0);
  edgePoints = new Float64Array(0);
  facePoints = new Float64Array(0);
  private cage: Cage;

  constructor(
    cage: Cage,
    private readonly borderCorners: BorderCorners = 'sharp'
  ) {
    this.cage = cage;
    this.makeRoom();
    for (const f of cage.faces()) this.facePoint(f);
    for (const e of cage.edges()) this.edgePoint(e);
    for (const v of cage.vertices()) this.vertexPoint(v);
  }

  /** Ends of the quad that lies between half-edge h and the one behind it: a vertex, an edge, a face and an edge. */
  quadAt(h: number): { vertex: number; edge: number; face: number; before: number } {
    const { cage } = this;
    const next = cage.next[h];
    return { vertex: cage.origin[next], edge: next >> 1, face: cage.face[h], before: h >> 1 };
  }

  /** Goes over to a changed cage whose elements kept their ids where they are the same. */
  follow(cage: Cage): FirstLevelChange {
    const before = this.cage;
    this.cage = cage;
    this.makeRoom();
    const halves = changedHalves(before, cage);
    const faces = new Set<number>();
    const edges = new Set<number>();
    const vertices = new Set<number>();
    for (const h of halves) {
      for (const v of [h < before.origin.length ? before.origin[h] : NONE, cage.origin[h]]) if (cage.hasVertex(v)) vertices.add(v);
      if (!cage.hasEdge(h >> 1)) continue;
      edges.add(h >> 1);
      if (cage.face[h] !== NONE) faces.add(cage.face[h]);
    }
    for (const v of movedVertices(before, cage)) {
      vertices.add(v);
      for (const h of cage.spokes(v)) {
        edges.add(h >> 1);
        if (cage.face[h] !== NONE) faces.add(cage.face[h]);
      }
    }
    for (const e of changedValues(before, cage, 'crease')) if (cage.hasEdge(e)) edges.add(e);
    for (const v of changedValues(before, cage, 'corner')) if (cage.hasVertex(v)) vertices.add(v);
    for (const e of edges) vertices.add(cage.origin[2 * e]).add(cage.origin[2 * e + 1]);
    for (const f of faces)
      for (const h of cage.loopOf(cage.faceEdge[f])) {
        edges.add(h >> 1);
        vertices.add(cage.origin[h]);
      }
    for (const f of faces) this.facePoint(f);
    for (const e of edges) this.edgePoint(e);
    for (const v of vertices) this.vertexPoint(v);
    return { vertices: [...vertices], edges: [...edges], faces: [...faces], halves };
  }

  private makeRoom(): void {
    const { cage } = this;
    this.vertexPoints = withRoom(this.vertexPoints, 3 * cage.vertexEdge.length);
    this.edgePoints = withRoom(this.edgePoints, 3 * (cage.origin.length >> 1));
    this.facePoints = withRoom(this.facePoints, 3 * cage.faceEdge.length);
  }

  private facePoint(f: number): void {
    const { cage, facePoints } = this;
    const { positions, origin, next } = cage;
    const first = cage.faceEdge[f];
    let x = 0;
    let y = 0;
    let z = 0;
    let count = 0;
    let h = first;
    do {
      const i = 3 * origin[h];
      x += positions[i];
      y += positions[i + 1];
      z += positions[i + 2];
      count++;
      h = next[h];
    } while (h !== first);
    facePoints[3 * f] = x / count;
    facePoints[3 * f + 1] = y / count;
    facePoints[3 * f + 2] = z / count;
  }

  private sharpness(e: number): number {
    return this.cage.isBorderEdge(e) ? STAYS_SHARP : this.cage.value('crease', e);
  }

  private edgePoint(e: number): void {
    const { cage, edgePoints, facePoints } = this;
    const [a, b] = [3 * cage.origin[2 * e], 3 * cage.origin[2 * e + 1]];
    const sharp = Math.min(1, this.sharpness(e));
    const [f, g] = [3 * cage.face[2 * e], 3 * cage.face[2 * e + 1]];
    for (let k = 0; k < 3; k++) {
      const middle = (cage.positions[a + k] + cage.positions[b + k]) / 2;
      const smooth = sharp === 1 ? 0 : (2 * middle + facePoints[f + k] + facePoints[g + k]) / 4;
      edgePoints[3 * e + k] = sharp * middle + (1 - sharp) * smooth;
    }
  }

  /** The vertex rule by the number of sharp edges: up to one smooth, two crease, more corner; blended below sharpness 1. */
  private vertexPoint(v: number): void {
    const { cage, vertexPoints, facePoints } = this;
    const p = cage.positions;
    const first = cage.vertexEdge[v];
    let n = 0;
    let facesAt = 0;
    let sharpEdges = 0;
    let sharpSum = 0;
    const ends = [0, 0];
    const around = [0, 0, 0];
    if (first >= 0) {
      let h = first;
      do {
        const to = cage.origin[h ^ 1];
        const f = cage.face[h];
        for (let k = 0; k < 3; k++) around[k] += p[3 * to + k] + (f === NONE ? 0 : facePoints[3 * f + k]);
        if (f !== NONE) facesAt++;
        const s = this.sharpness(h >> 1);
        if (s > 0) {
          if (sharpEdges < 2) ends[sharpEdges] = to;
          sharpEdges++;
          sharpSum += s;
        }
        n++;
        h = cage.next[h ^ 1];
      } while (h !== first);
    }
    const isLoneCorner = this.borderCorners === 'sharp' && facesAt === 1;
    const own = n === 0 || isLoneCorner ? 1 : Math.min(1, cage.value('corner', v));
    const crease = sharpEdges < 2 ? 0 : Math.min(1, sharpSum / sharpEdges);
    for (let k = 0; k < 3; k++) {
      const at = p[3 * v + k];
      const smooth = n === 0 ? at : ((n - 2) / n) * at + around[k] / (n * n);
      const sharp = sharpEdges > 2 ? at : 0.75 * at + 0.125 * (p[3 * ends[0] + k] + p[3 * ends[1] + k]);
      vertexPoints[3 * v + k] = own * at + (1 - own) * (crease * sharp + (1 - crease) * smooth);
    }
  }
}

function withRoom(array: Float64Array<ArrayBuffer>, length: number): Float64Array<ArrayBuffer> {
  if (array.length >= length) return array;
  const grown = new Float64Array(length);
  grown.set(array);
  return grown;
}
