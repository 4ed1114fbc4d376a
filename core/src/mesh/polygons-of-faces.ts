import { type Cage } from './cage.ts';
import { NONE } from './half-edges.ts';
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

/** Times that faces are taken in where others touch in a vertex only. */
const MOST_ROUNDS = 8;

/**
 * Some faces of a cage with all of those at vertices in which they would touch without an edge: as a mesh of their own they are then sound.
 * @returns the faces, those given first; nothing where that goes on and on
 */
export function withoutPinches(cage: Cage, faces: readonly number[]): number[] | undefined {
  const taken = new Set(faces);
  let looked: Iterable<number> = faces;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const added: number[] = [];
    for (const v of new Set([...looked].flatMap((f) => cage.faceVertices(f)))) {
      const spokes = cage.spokes(v);
      const gaps = spokes.filter((h) => taken.has(cage.face[h]) && !taken.has(cage.face[h ^ 1])).length;
      if (gaps < 2) continue;
      for (const h of spokes) {
        const f = cage.face[h];
        if (f === NONE || taken.has(f)) continue;
        taken.add(f);
        added.push(f);
      }
    }
    if (added.length === 0) return [...taken];
    looked = added;
  }
  return undefined;
}
