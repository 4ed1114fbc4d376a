import { type Cage } from './cage.ts';
import { type PolygonMesh } from './polygon-mesh.ts';

/**
 * Some faces of a cage as polygons, in the order given, with the sharpness of their edges and vertices: all that subdividing them
 * needs.
 * @returns the mesh, and the cage vertex of each of its vertices
 */
export function polygonsOfFaces(cage: Cage, faces: readonly number[]): { mesh: PolygonMesh; vertices: Int32Array } {
  const indexOf = new Map<number, number>();
  const faceStart = new Int32Array(faces.length + 1);
  const faceVertices: number[] = [];
  const edges = new Set<number>();
  faces.forEach((f, i) => {
    for (const h of cage.loopOf(cage.faceEdge[f])) {
      const v = cage.origin[h];
      if (!indexOf.has(v)) indexOf.set(v, indexOf.size);
      faceVertices.push(indexOf.get(v)!);
      if (cage.value('crease', h >> 1) > 0) edges.add(h >> 1);
    }
    faceStart[i + 1] = faceVertices.length;
  });
  const vertices = Int32Array.from(indexOf.keys());
  const positions = new Float64Array(3 * vertices.length);
  vertices.forEach((v, i) => positions.set(cage.positions.subarray(3 * v, 3 * v + 3), 3 * i));
  const mesh: PolygonMesh = { positions, faceStart, faceVertices: Int32Array.from(faceVertices) };
  if (edges.size > 0) {
    mesh.creaseEdges = Int32Array.from([...edges].flatMap((e) => [indexOf.get(cage.origin[2 * e])!, indexOf.get(cage.origin[2 * e + 1])!]));
    mesh.creaseSharpness = Float64Array.from(edges, (e) => cage.value('crease', e));
  }
  const corners = vertices.filter((v) => cage.value('corner', v) > 0);
  if (corners.length > 0) {
    mesh.cornerVertices = corners.map((v) => indexOf.get(v)!);
    mesh.cornerSharpness = Float64Array.from(corners, (v) => cage.value('corner', v));
  }
  return { mesh, vertices };
}
