/**
 * Polygons as plain indexed arrays: what formats read and write, what shapes make, and what a cage is built from.
 * Nothing is promised about it: edges may have three faces, faces may be turned either way.
 */
export interface PolygonMesh {
  /** x, y, z of every vertex, in the job's unit (mm unless it says otherwise) */
  positions: Float64Array;
  /** `faceStart[f] .. faceStart[f + 1]` is face f's range in `faceVertices`; length is the face count + 1 */
  faceStart: Int32Array;
  /** vertex index of every face corner, in order round the face */
  faceVertices: Int32Array;
  /** region (group) number of every face, an index into `regionNames` */
  faceRegion?: Int32Array;
  regionNames?: string[];
  /** red, green and blue from 0 to 1 of every vertex */
  vertexColour?: Float64Array;
  /** texture coordinates, two for every face corner; NaN where a corner has none */
  cornerUv?: Float64Array;
  /** edges that stay sharp: vertex pairs, and one sharpness for each pair (10 stays sharp for ever) */
  creaseEdges?: Int32Array;
  creaseSharpness?: Float64Array;
  /** vertices that stay sharp, and their sharpness */
  cornerVertices?: Int32Array;
  cornerSharpness?: Float64Array;
}

/** The mesh without its creases and sharp corners. */
export function withoutSharpness<Mesh extends PolygonMesh>({
  creaseEdges: _e,
  creaseSharpness: _s,
  cornerVertices: _v,
  cornerSharpness: _c,
  ...plain
}: Mesh) {
  return plain;
}

/** Vertices of a mesh, unused ones too. */
export const vertexCount = (mesh: PolygonMesh): number => mesh.positions.length / 3;
/** Faces of a mesh. */
export const faceCount = (mesh: PolygonMesh): number => mesh.faceStart.length - 1;

/** Builds a mesh from nested lists: x, y, z of each point, and the points of each face. */
export function polygonMesh(points: readonly (readonly number[])[], faces: readonly (readonly number[])[]): PolygonMesh {
  const faceStart = new Int32Array(faces.length + 1);
  faces.forEach((face, f) => (faceStart[f + 1] = faceStart[f] + face.length));
  const positions = new Float64Array(3 * points.length);
  points.forEach((p, i) => positions.set(p, 3 * i));
  const faceVertices = new Int32Array(faceStart[faces.length]);
  faces.forEach((face, f) => faceVertices.set(face, faceStart[f]));
  return { positions, faceStart, faceVertices };
}

/** `faceStart` of a mesh whose `faces` faces all have `corners` corners. */
export function evenFaceStart(faces: number, corners: number): Int32Array {
  return Int32Array.from({ length: faces + 1 }, (_, f) => f * corners);
}

/** By vertex the numbers of the quads it is a corner of. @param quads four vertices a quad */
export function quadsAtVertices(quads: ArrayLike<number>, vertices: number): number[][] {
  const at: number[][] = Array.from({ length: vertices }, () => []);
  for (let i = 0; i < quads.length; i++) at[quads[i]].push(i >> 2);
  return at;
}

/** Face corners (indices into `faceVertices`) by vertex: `corner[start[v] .. start[v + 1]]`, in their order. */
export function cornersAtVertices(faceVertices: ArrayLike<number>, vertices: number): { start: Int32Array; corner: Int32Array } {
  const start = new Int32Array(vertices + 1);
  for (let c = 0; c < faceVertices.length; c++) start[faceVertices[c] + 1]++;
  for (let v = 0; v < vertices; v++) start[v + 1] += start[v];
  const cursor = start.slice();
  const corner = new Int32Array(faceVertices.length);
  for (let c = 0; c < faceVertices.length; c++) corner[cursor[faceVertices[c]]++] = c;
  return { start, corner };
}

/** Triangles or quads given as one flat index list. */
export function uniformMesh(positions: Float64Array, faceVertices: Int32Array, corners: 3 | 4): PolygonMesh {
  return { positions, faceVertices, faceStart: evenFaceStart(faceVertices.length / corners, corners) };
}

/** Vertices that indices use, in the order they come up, and the indices counted anew. */
export function usedVertices(indices: ArrayLike<number>, vertices: number): { used: number[]; indices: Int32Array } {
  const place = new Int32Array(vertices).fill(-1);
  const used: number[] = [];
  const renumbered = new Int32Array(indices.length);
  for (let i = 0; i < indices.length; i++) {
    const v = indices[i];
    if (place[v] < 0) place[v] = used.push(v) - 1;
    renumbered[i] = place[v];
  }
  return { used, indices: renumbered };
}

/** Coordinates of some vertices, in their order. */
export function pickedPoints(positions: ArrayLike<number>, vertices: readonly number[]): Float64Array {
  const picked = new Float64Array(3 * vertices.length);
  vertices.forEach((v, i) => {
    for (let k = 0; k < 3; k++) picked[3 * i + k] = positions[3 * v + k];
  });
  return picked;
}

export interface Bounds {
  min: [number, number, number];
  max: [number, number, number];
  /** length of the box's space diagonal; 0 when there are no points */
  diagonal: number;
}

/** Axis-aligned box round all points, also those no face uses. */
export function boundsOf(positions: ArrayLike<number>): Bounds {
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i += 3)
    for (let k = 0; k < 3; k++) {
      const x = positions[i + k];
      if (x < min[k]) min[k] = x;
      if (x > max[k]) max[k] = x;
    }
  if (positions.length === 0) return { min: [0, 0, 0], max: [0, 0, 0], diagonal: 0 };
  return { min, max, diagonal: Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]) };
}

/** Twice the area vector of a face (Newell's normal); its length is twice the area of a flat face. */
export function newellNormal(mesh: PolygonMesh, f: number, p: Float64Array): [number, number, number] {
  let x = 0;
  let y = 0;
  let z = 0;
  const start = mesh.faceStart[f];
  const end = mesh.faceStart[f + 1];
  const o = 3 * mesh.faceVertices[start];
  for (let c = start + 1; c + 1 < end; c++) {
    const a = 3 * mesh.faceVertices[c];
    const b = 3 * mesh.faceVertices[c + 1];
    const ux = p[a] - p[o];
    const uy = p[a + 1] - p[o + 1];
    const uz = p[a + 2] - p[o + 2];
    const vx = p[b] - p[o];
    const vy = p[b + 1] - p[o + 1];
    const vz = p[b + 2] - p[o + 2];
    x += uy * vz - uz * vy;
    y += uz * vx - ux * vz;
    z += ux * vy - uy * vx;
  }
  return [x, y, z];
}

/** Coordinates beyond this many mm are no part of a shape any more. */
export const FARTHEST = 1e9;
