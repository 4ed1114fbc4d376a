import { numberEdges } from '../mesh/number-edges.ts';
import { faceCount, vertexCount, type PolygonMesh } from '../mesh/polygon-mesh.ts';

/** Sharpness from which an edge or a vertex never softens. */
export const STAYS_SHARP = 10;

/** Thrown for a cage that the scheme cannot divide, or a result too large to hold. */
export class SubdivisionError extends Error {}

/** Connectivity and sharpness of one level of a subdivided cage. Corner c of a face also names the edge from c to the next corner. */
export interface LevelTopology {
  vertices: number;
  edges: number;
  faceStart: Int32Array;
  faceVertices: Int32Array;
  /** edge that starts at each corner */
  faceEdges: Int32Array;
  /** two ends an edge */
  edgeVertices: Int32Array;
  /** two faces an edge; -1: none */
  edgeFaces: Int32Array;
  /** 0 smooth, STAYS_SHARP and more sharp for ever; borders are sharp whatever this says */
  edgeSharpness: Float64Array;
  vertexSharpness: Float64Array;
}

export type BorderCorners = 'sharp' | 'rounded';

/** Level 0: the cage itself. Border vertices of a single face become corners where border corners stay sharp. */
export function cageLevel(mesh: PolygonMesh, borderCorners: BorderCorners): LevelTopology {
  const { cornerEdge, edges } = numberEdges(mesh);
  const { faceStart, faceVertices } = mesh;
  const edgeVertices = new Int32Array(2 * edges);
  const edgeFaces = new Int32Array(2 * edges).fill(-1);
  const facesAt = new Int32Array(vertexCount(mesh));
  for (let f = 0; f < faceCount(mesh); f++)
    for (let c = faceStart[f]; c < faceStart[f + 1]; c++) {
      const e = cornerEdge[c];
      facesAt[faceVertices[c]]++;
      if (edgeFaces[2 * e] < 0) {
        edgeFaces[2 * e] = f;
        edgeVertices[2 * e] = faceVertices[c];
        edgeVertices[2 * e + 1] = faceVertices[c + 1 < faceStart[f + 1] ? c + 1 : faceStart[f]];
      } else if (edgeFaces[2 * e + 1] < 0) edgeFaces[2 * e + 1] = f;
      else
        throw new SubdivisionError(
          `The edge between vertices ${edgeVertices[2 * e]} and ${edgeVertices[2 * e + 1]} has three faces: remove one, or bring the file in, which separates them.`
        );
    }
  const level: LevelTopology = {
    vertices: vertexCount(mesh),
    edges,
    faceStart,
    faceVertices,
    faceEdges: cornerEdge,
    edgeVertices,
    edgeFaces,
    edgeSharpness: new Float64Array(edges),
    vertexSharpness: new Float64Array(vertexCount(mesh))
  };
  if (mesh.creaseEdges && mesh.creaseSharpness) setCreases(level, mesh.creaseEdges, mesh.creaseSharpness);
  mesh.cornerVertices?.forEach((v, i) => (level.vertexSharpness[v] = mesh.cornerSharpness![i]));
  if (borderCorners === 'sharp')
    for (let e = 0; e < edges; e++)
      if (edgeFaces[2 * e + 1] < 0)
        for (const v of [edgeVertices[2 * e], edgeVertices[2 * e + 1]]) if (facesAt[v] === 1) level.vertexSharpness[v] = STAYS_SHARP;
  return level;
}

function setCreases(level: LevelTopology, pairs: Int32Array, sharpness: Float64Array): void {
  const key = (a: number, b: number) => Math.min(a, b) * level.vertices + Math.max(a, b);
  const wanted = new Map<number, number>();
  for (let i = 0; i < sharpness.length; i++) wanted.set(key(pairs[2 * i], pairs[2 * i + 1]), sharpness[i]);
  for (let e = 0; e < level.edges; e++) {
    const s = wanted.get(key(level.edgeVertices[2 * e], level.edgeVertices[2 * e + 1]));
    if (s !== undefined) level.edgeSharpness[e] = s;
  }
}

const softened = (s: number) => (s >= STAYS_SHARP ? s : Math.max(0, s - 1));

/**
 * The next level of Catmull-Clark: vertices are numbered vertex points, then edge points, then face points; edges are the
 * two halves of every edge, then the edge of every corner that runs from the face point to the corner's edge point.
 * @param softens whether the step lowers sharpness
 */
export function refineQuads(level: LevelTopology, softens = true): LevelTopology {
  const { vertices: V, edges: E, faceStart, faceVertices, faceEdges, edgeVertices, edgeFaces } = level;
  const F = faceStart.length - 1;
  const corners = faceVertices.length;
  const childFaces = new Int32Array(4 * corners);
  const childEdges = new Int32Array(4 * corners);
  const childEdgeVertices = new Int32Array(2 * (2 * E + corners));
  const childEdgeFaces = new Int32Array(2 * (2 * E + corners)).fill(-1);
  for (let e = 0; e < E; e++)
    for (let side = 0; side < 2; side++) {
      childEdgeVertices[4 * e + 2 * side] = edgeVertices[2 * e + side];
      childEdgeVertices[4 * e + 2 * side + 1] = V + e;
    }
  // child face c sits at corner c: vertex point, edge point ahead, face point, edge point behind
  for (let f = 0; f < F; f++) {
    const start = faceStart[f];
    const end = faceStart[f + 1];
    let before = end - 1;
    for (let c = start; c < end; before = c++) {
      const v = faceVertices[c];
      const ahead = faceEdges[c];
      const behind = faceEdges[before];
      const at = 4 * c;
      childFaces[at] = v;
      childFaces[at + 1] = V + ahead;
      childFaces[at + 2] = V + E + f;
      childFaces[at + 3] = V + behind;
      const aheadHalf = edgeFaces[2 * ahead] === f && edgeVertices[2 * ahead] === v ? 2 * ahead : halfAt(edgeVertices, ahead, v);
      const behindHalf = halfAt(edgeVertices, behind, v);
      childEdges[at] = aheadHalf;
      childEdges[at + 1] = 2 * E + c;
      childEdges[at + 2] = 2 * E + before;
      childEdges[at + 3] = behindHalf;
      const inner = 2 * (2 * E + c);
      childEdgeVertices[inner] = V + ahead;
      childEdgeVertices[inner + 1] = V + E + f;
      childEdgeFaces[inner] = c;
      childEdgeFaces[2 * (2 * E + before) + 1] = c;
      for (const half of [aheadHalf, behindHalf]) childEdgeFaces[childEdgeFaces[2 * half] < 0 ? 2 * half : 2 * half + 1] = c;
    }
  }
  return {
    vertices: V + E + F,
    edges: 2 * E + corners,
    faceStart: evenStarts(corners, 4),
    faceVertices: childFaces,
    faceEdges: childEdges,
    edgeVertices: childEdgeVertices,
    edgeFaces: childEdgeFaces,
    ...childSharpness(level, V + E + F, 2 * E + corners, softens)
  };
}

function halfAt(edgeVertices: Int32Array, e: number, v: number): number {
  return edgeVertices[2 * e] === v ? 2 * e : 2 * e + 1;
}

function evenStarts(count: number, size: number): Int32Array {
  const starts = new Int32Array(count + 1);
  for (let i = 1; i <= count; i++) starts[i] = i * size;
  return starts;
}

/** A step that smooths takes 1 off every sharpness (DeRose, Kass, Truong 1998); one that only divides leaves it. */
function childSharpness(
  level: LevelTopology,
  vertices: number,
  edges: number,
  softens: boolean
): { edgeSharpness: Float64Array; vertexSharpness: Float64Array } {
  const edgeSharpness = new Float64Array(edges);
  const vertexSharpness = new Float64Array(vertices);
  const child = (s: number) => (softens ? softened(s) : s);
  for (let e = 0; e < level.edges; e++) edgeSharpness[2 * e] = edgeSharpness[2 * e + 1] = child(level.edgeSharpness[e]);
  for (let v = 0; v < level.vertices; v++) vertexSharpness[v] = child(level.vertexSharpness[v]);
  return { edgeSharpness, vertexSharpness };
}

/** The next level of Loop: vertex points, then edge points; child faces 4f .. 4f + 2 sit at the corners, 4f + 3 in the middle. */
export function refineTriangles(level: LevelTopology, softens = true): LevelTopology {
  const { vertices: V, edges: E, faceVertices, faceEdges, edgeVertices } = level;
  const F = level.faceStart.length - 1;
  const childFaces = new Int32Array(12 * F);
  const childEdges = new Int32Array(12 * F);
  const edgeCount = 2 * E + 3 * F;
  const childEdgeVertices = new Int32Array(2 * edgeCount);
  const childEdgeFaces = new Int32Array(2 * edgeCount).fill(-1);
  for (let e = 0; e < E; e++)
    for (let side = 0; side < 2; side++) {
      childEdgeVertices[4 * e + 2 * side] = edgeVertices[2 * e + side];
      childEdgeVertices[4 * e + 2 * side + 1] = V + e;
    }
  const claim = (e: number, f: number) => (childEdgeFaces[childEdgeFaces[2 * e] < 0 ? 2 * e : 2 * e + 1] = f);
  for (let f = 0; f < F; f++)
    for (let i = 0; i < 3; i++) {
      const c = 3 * f + i;
      const before = 3 * f + ((i + 2) % 3);
      const v = faceVertices[c];
      const ahead = faceEdges[c];
      const behind = faceEdges[before];
      const at = 3 * (4 * f + i);
      const inner = 2 * E + c;
      childFaces.set([v, V + ahead, V + behind], at);
      childEdges.set([halfAt(edgeVertices, ahead, v), inner, halfAt(edgeVertices, behind, v)], at);
      childEdgeVertices.set([V + ahead, V + behind], 2 * inner);
      for (const e of [childEdges[at], inner, childEdges[at + 2]]) claim(e, 4 * f + i);
      claim(inner, 4 * f + 3);
      childFaces[3 * (4 * f + 3) + i] = V + ahead;
      // the middle face runs edge point i to edge point i + 1: across corner i + 1
      childEdges[3 * (4 * f + 3) + i] = 2 * E + 3 * f + ((i + 1) % 3);
    }
  return {
    vertices: V + E,
    edges: edgeCount,
    faceStart: evenStarts(4 * F, 3),
    faceVertices: childFaces,
    faceEdges: childEdges,
    edgeVertices: childEdgeVertices,
    edgeFaces: childEdgeFaces,
    ...childSharpness(level, V + E, edgeCount, softens)
  };
}
