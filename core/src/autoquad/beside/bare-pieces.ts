import { type Bounds, boundsOf, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { TriangleBvh, surfacePoint } from '../../reference/triangle-bvh.ts';
import { STAYS_SHARP } from '../../subdivide/level-topology.ts';
import { piecesOf } from '../base/mesh-pieces.ts';
import { type WorkingMesh, after } from '../base/working-mesh.ts';

/** Pieces of bare surface with less room than so many quads of the seam's size are left. */
const LEAST_QUADS = 4;

export function reachOf(places: readonly Triple[], by: number): Bounds {
  const { min, max, diagonal } = boundsOf(places.flat());
  return { min: min.map((x) => x - by) as Triple, max: max.map((x) => x + by) as Triple, diagonal };
}

/** The pieces of bare surface that are meant and large enough, as triangles whose feature edges are creases. */
export function pickedPieces(bare: WorkingMesh, gap: number, beside?: readonly Triple[]): { piece: PolygonMesh; area: number } {
  const pieces = piecesOf(bare);
  const areaOf = (triangles: readonly number[]) => triangles.reduce((sum, t) => sum + bare.area(t), 0);
  let wanted = pieces.map((_, i) => i);
  if (beside && bare.triangles > 0) {
    const bvh = new TriangleBvh(bare.positions, bare.corner);
    const pieceOf = new Int32Array(bare.triangles);
    pieces.forEach((members, i) => members.forEach((t) => (pieceOf[t] = i)));
    const found = surfacePoint();
    const near = beside.flatMap((p) => {
      bvh.closest(...p, found);
      return Math.sqrt(found.distance2) < 2.5 * gap ? [pieceOf[found.triangle]] : [];
    });
    wanted = [...new Set(near)];
  }
  const chosen = wanted.filter((i) => areaOf(pieces[i]) > LEAST_QUADS * gap * gap).flatMap((i) => pieces[i]);
  const { mesh, placeOf } = bare.alone(chosen);
  const halves = chosen.flatMap((t) => [3 * t, 3 * t + 1, 3 * t + 2]);
  const followed = halves.filter((h) => bare.feature[h] === 1 && bare.opposite[h] > h);
  if (followed.length > 0) {
    mesh.creaseEdges = Int32Array.from(followed.flatMap((h) => [bare.corner[h], bare.corner[after(h)]].map((v) => placeOf.get(v)!)));
    mesh.creaseSharpness = new Float64Array(followed.length).fill(STAYS_SHARP);
  }
  return { piece: mesh, area: areaOf(chosen) };
}
