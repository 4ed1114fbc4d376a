import { NONE, type Cage } from '../mesh/cage.ts';
import { faceNormal } from '../mesh/normals.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { type Bounds, type PolygonMesh } from '../mesh/polygon-mesh.ts';
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
  const toSeamAt = new Float64Array(surface.vertices);
  const covered = new Uint8Array(surface.vertices);
  for (let v = 0; v < surface.vertices; v++) {
    const [x, y, z] = surface.point(v);
    if (within && [x, y, z].some((c, k) => c < within.min[k] || c > within.max[k])) {
      covered[v] = BEYOND;
      continue;
    }
    const normal = [normals[3 * v], normals[3 * v + 1], normals[3 * v + 2]] as const;
    const toSeam = seam.distance(x, y, z, normal);
    const alike = (t: number) =>
      laidNormals[3 * t] * normal[0] + laidNormals[3 * t + 1] * normal[1] + laidNormals[3 * t + 2] * normal[2] > LOOKS_AWAY;
    laid.closest(x, y, z, found, Infinity, alike);
    const toLaid = found.triangle < 0 ? Infinity : Math.sqrt(found.distance2);
    // over the cage its faces are nearer than its open edges; far off it there may be nothing of it
    covered[v] = toLaid < toSeam * (1 - 1e-6) && toLaid < 2 * gap ? 1 : 0;
    toSeamAt[v] = Math.min(toSeam, 1e6 * gap);
  }
  uncoverSpots(surface, covered, kept, within);
  const height = toSeamAt.map((off, v) => (covered[v] === BEYOND ? -gap : covered[v] === 1 ? -Math.min(off, gap) - gap : off - gap));
  // no slivers where a vertex lies nearly there
  return clipped(
    surface,
    surface.positions,
    height.map((h) => (Math.abs(h) < ON_CUT * gap ? 0 : h))
  );
}

/** Vertices this near to a cut, as a share of the gap, lie on it. */
const ON_CUT = 0.06;

/** Mark of vertices outside the box that is looked at. */
const BEYOND = 2;

/** Spots that seem covered and have no face of the cage above them are bare: what is near them belongs to another side. */
function uncoverSpots(surface: WorkingMesh, covered: Uint8Array, kept: PolygonMesh, within?: Bounds): void {
  const bvh = new TriangleBvh(surface.positions, surface.corner);
  const found = surfacePoint();
  const reached = new Uint8Array(covered.length);
  const front: number[] = [];
  const reach = (v: number) => {
    if (covered[v] !== 1 || reached[v] === 1) return;
    reached[v] = 1;
    front.push(v);
  };
  const { positions: p, faceStart, faceVertices } = kept;
  for (let f = 0; f + 1 < faceStart.length; f++) {
    const corners = faceVertices.subarray(faceStart[f], faceStart[f + 1]);
    const at = [0, 1, 2].map((k) => corners.reduce((sum, v) => sum + p[3 * v + k] / corners.length, 0));
    if (within && at.some((c, k) => c < within.min[k] || c > within.max[k])) continue;
    const { triangle } = bvh.closest(at[0], at[1], at[2], found);
    for (let h = 3 * triangle; h < 3 * triangle + 3; h++) reach(surface.corner[h]);
  }
  for (let v = 0; v < covered.length; v++) if (covered[v] === BEYOND) front.push(v);
  const ring: number[] = [];
  while (front.length > 0) for (const w of surface.neighbours(front.pop()!, ring)) reach(w);
  for (let v = 0; v < covered.length; v++) if (covered[v] === 1 && reached[v] === 0) covered[v] = 0;
}
