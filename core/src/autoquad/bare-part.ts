import { NONE, type Cage } from '../mesh/cage.ts';
import { faceNormal } from '../mesh/normals.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { type Bounds } from '../mesh/polygon-mesh.ts';
import { triangleNormals } from '../reference/reference.ts';
import { surfacePoint, TriangleBvh } from '../reference/triangle-bvh.ts';
import { clipped } from './clip.ts';
import { vertexNormals } from './remesh.ts';
import { type WorkingMesh } from './working-mesh.ts';

/** Cosine beyond which what a cage has near a place belongs to another side of the surface. */
const LOOKS_AWAY = 0.2;

/** The open edges of a cage, with the normals of the faces beside them, for closest points. */
export class Seam {
  readonly tree: TriangleBvh;
  private readonly normals: number[] = [];
  private readonly found = surfacePoint();

  constructor(readonly cage: Cage) {
    const points: number[] = [];
    for (const e of cage.edges()) {
      const h = cage.face[2 * e] === NONE ? 2 * e : 2 * e + 1;
      if (cage.face[h] !== NONE) continue;
      for (const v of [cage.origin[h], cage.target(h), cage.target(h)]) points.push(...cage.position(v));
      this.normals.push(...faceNormal(cage, cage.face[h ^ 1]));
    }
    this.tree = new TriangleBvh(
      Float64Array.from(points),
      Int32Array.from({ length: points.length / 3 }, (_, i) => i)
    );
  }

  /** Distance of a place from the open edges on its side of the surface; Infinity where there are none. */
  distance(x: number, y: number, z: number, normal?: readonly [number, number, number]): number {
    const n = this.normals;
    const alike = normal && ((t: number) => n[3 * t] * normal[0] + n[3 * t + 1] * normal[1] + n[3 * t + 2] * normal[2] > LOOKS_AWAY);
    this.tree.closest(x, y, z, this.found, Infinity, alike);
    return this.found.triangle < 0 ? Infinity : Math.sqrt(this.found.distance2);
  }
}

/**
 * What of a surface a cage that lies on it leaves bare, from some mm beyond its open edges on.
 * @param within only what lies in this box; all where it is left out
 */
export function barePart(surface: WorkingMesh, seam: Seam, gap: number, within?: Bounds): WorkingMesh {
  const { cage } = seam;
  const kept = cage.toPolygons();
  const { triangles } = triangulate(kept);
  const laid = new TriangleBvh(kept.positions, triangles);
  const laidNormals = triangleNormals(kept.positions, triangles);
  const normals = vertexNormals(surface);
  const found = surfacePoint();
  const p = surface.positions;
  const height = Float64Array.from({ length: surface.vertices }, (_, v) => {
    const [x, y, z] = surface.point(v);
    if (within && [x, y, z].some((c, k) => c < within.min[k] || c > within.max[k])) return -gap;
    const normal = [normals[3 * v], normals[3 * v + 1], normals[3 * v + 2]] as const;
    const toSeam = seam.distance(x, y, z, normal);
    const alike = (t: number) =>
      laidNormals[3 * t] * normal[0] + laidNormals[3 * t + 1] * normal[1] + laidNormals[3 * t + 2] * normal[2] > LOOKS_AWAY;
    laid.closest(x, y, z, found, Infinity, alike);
    const toLaid = found.triangle < 0 ? Infinity : Math.sqrt(found.distance2);
    // over the cage its faces are nearer than its open edges; far off it there may be nothing of it
    const isCovered = toLaid < toSeam * (1 - 1e-6) && toLaid < 2 * gap;
    if (isCovered) return -Math.min(toSeam, gap) - gap;
    return Math.min(toSeam, 1e6 * gap) - gap;
  });
  return clipped(surface, [...p], height);
}

/** Parts of a mesh that hang together: triangles of each. */
export function piecesOf(mesh: WorkingMesh): number[][] {
  const piece = new Int32Array(mesh.triangles).fill(-1);
  const pieces: number[][] = [];
  for (let seed = 0; seed < mesh.triangles; seed++) {
    if (piece[seed] >= 0) continue;
    const members = [seed];
    piece[seed] = pieces.length;
    for (let i = 0; i < members.length; i++)
      for (let h = 3 * members[i]; h < 3 * members[i] + 3; h++) {
        const other = Math.floor(mesh.opposite[h] / 3);
        if (mesh.opposite[h] < 0 || piece[other] >= 0) continue;
        piece[other] = pieces.length;
        members.push(other);
      }
    pieces.push(members);
  }
  return pieces;
}
