import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { pickedPoints, usedVertices, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { replaceFaces } from '../mesh/replace-faces.ts';
import { type Laid } from '../operations/lay/lay-task.ts';
import { InvalidParams } from '../operations/refusal.ts';
import { emptySelection, selectFaces, type Selection } from '../select/selection.ts';
import { describeLost, foundAgain } from './element-places.ts';

/** Faces of a cage that go, and what is stored in their place: the cage round them stays what it is, values and ids included. */
export interface LaidPatch {
  gone: number[];
  cast: PolygonMesh;
  /** pairs: a vertex of `cast`, and the vertex of the cage that it is */
  seam: Int32Array;
}

/**
 * What was laid beside quads that stay, cut out of the result.
 * @param kept the quads that stayed, as they were handed to the task
 * @param gone faces of the cage that were laid again
 */
export function patchOf(laid: Laid, kept: { vertexIds: Int32Array; faceIds: Int32Array }, gone: readonly number[]): LaidPatch {
  const { mesh, faces = [], keptVertices = [], goneFaces = [] } = laid;
  const corners = faces.flatMap((f) => [...mesh.faceVertices.subarray(mesh.faceStart[f], mesh.faceStart[f + 1])]);
  const { used, indices } = usedVertices(corners, mesh.positions.length / 3);
  const faceStart = new Int32Array(faces.length + 1);
  faces.forEach((f, i) => (faceStart[i + 1] = faceStart[i] + mesh.faceStart[f + 1] - mesh.faceStart[f]));
  const cast: PolygonMesh = { positions: pickedPoints(mesh.positions, used), faceStart, faceVertices: indices };
  keepCreases(mesh, cast, used, corners, faceStart);
  const seam = used.flatMap((v, i) => (keptVertices[v] >= 0 ? [i, kept.vertexIds[keptVertices[v]]] : []));
  return { gone: [...gone, ...goneFaces.map((f) => kept.faceIds[f])], cast, seam: Int32Array.from(seam) };
}

/** Takes along the creases and corners of a mesh that lie on faces cut out of it. */
function keepCreases(mesh: PolygonMesh, cast: PolygonMesh, used: readonly number[], corners: readonly number[], faceStart: Int32Array): void {
  const index = new Map(used.map((v, i) => [v, i]));
  const key = (a: number, b: number) => (a < b ? `${a} ${b}` : `${b} ${a}`);
  const sides = new Set<string>();
  for (let f = 0; f + 1 < faceStart.length; f++)
    for (let c = faceStart[f]; c < faceStart[f + 1]; c++) sides.add(key(corners[c], corners[c + 1 < faceStart[f + 1] ? c + 1 : faceStart[f]]));
  const { creaseEdges, creaseSharpness, cornerVertices, cornerSharpness } = mesh;
  if (creaseEdges && creaseSharpness) {
    const creased = [...creaseSharpness.keys()].filter((i) => sides.has(key(creaseEdges[2 * i], creaseEdges[2 * i + 1])));
    cast.creaseEdges = Int32Array.from(creased.flatMap((i) => [index.get(creaseEdges[2 * i])!, index.get(creaseEdges[2 * i + 1])!]));
    cast.creaseSharpness = Float64Array.from(creased, (i) => creaseSharpness[i]);
  }
  if (cornerVertices && cornerSharpness) {
    const sharp = [...cornerVertices.keys()].filter((i) => index.has(cornerVertices[i]));
    cast.cornerVertices = Int32Array.from(sharp, (i) => index.get(cornerVertices[i])!);
    cast.cornerSharpness = Float64Array.from(sharp, (i) => cornerSharpness[i]);
  }
}

/**
 * Puts stored faces back into a cage that may have changed, where some of its faces were: the seam's vertices are known by
 * their ids where the connectivity is the same, else by their places.
 * @throws InvalidParams naming what of the seam is missing; CageError where the faces do not fit any more
 */
export function putBack(
  cage: Cage,
  gone: readonly number[],
  cast: PolygonMesh,
  seam: Int32Array,
  sameTopology: boolean
): { cage: Cage; selection: Selection } {
  const pairs = Array.from({ length: seam.length / 2 }, (_, i) => [seam[2 * i], seam[2 * i + 1]] as const);
  const places = {
    vertices: pickedPoints(
      cast.positions,
      pairs.map(([i]) => i)
    ),
    edges: new Float64Array(0),
    faces: new Float64Array(0)
  };
  const again = foundAgain(cage, { ...emptySelection(), vertices: pairs.map(([, v]) => v) }, places, sameTopology);
  if (again.lost.length > 0) throw new InvalidParams(`The stored quads do not fit any more: where they join, ${describeLost(again.lost)}.`);
  const copy = cage.clone();
  const ids = new Int32Array(cast.positions.length / 3).fill(NONE);
  pairs.forEach(([i], k) => (ids[i] = again.selection.vertices[k]));
  for (let i = 0; i < ids.length; i++)
    if (ids[i] === NONE) ids[i] = copy.addVertex(cast.positions[3 * i], cast.positions[3 * i + 1], cast.positions[3 * i + 2]);
  const added = Array.from({ length: cast.faceStart.length - 1 }, (_, f) => ({
    corners: Array.from(cast.faceVertices.subarray(cast.faceStart[f], cast.faceStart[f + 1]), (i) => ids[i])
  }));
  const faces = replaceFaces(copy, { gone, added });
  cast.creaseSharpness?.forEach((sharpness, i) => {
    const h = copy.findHalfEdge(ids[cast.creaseEdges![2 * i]], ids[cast.creaseEdges![2 * i + 1]]);
    if (h !== NONE) copy.setValue('crease', h >> 1, sharpness);
  });
  cast.cornerSharpness?.forEach((sharpness, i) => copy.setValue('corner', ids[cast.cornerVertices![i]], sharpness));
  return { cage: copy, selection: selectFaces(faces) };
}
