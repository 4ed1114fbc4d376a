import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { faceMiddle, faceNormal } from '../../mesh/normals.ts';
import { type Bounds } from '../../mesh/polygon-mesh.ts';
import { length, mean, subtract, type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { lookingAlong, surfacePoint, TriangleBvh } from '../../reference/triangle-bvh.ts';
import { vertexNormals } from '../base/remesh.ts';
import { after, type WorkingMesh } from '../base/working-mesh.ts';
import { clipped } from '../symmetry/clip.ts';

/** Cosine beyond which what a cage has near a place belongs to another side of the surface. */
const LOOKS_AWAY = 0.2;
/** Vertices this near to a cut, as a share of the gap, lie on it. */
const ON_CUT = 0.06;

/** Edges of a surface near a cage's open edges are split as long as they are longer than this share of these. */
const FINE = 0.4;
/** How far from the open edges that is done, in edges. */
const FINE_WITHIN = 3;

/** Within so many gaps of a sharp edge the cut turns to cross it at a right angle, and comes nearer to the open edges by at most that share. */
const SQUARE_WITHIN = 1;
const NEARER_SEAM = 0.5;

/** How a vertex of the surface lies to the cage. */
const BARE = 0;
const COVERED = 1;
/** outside the box that is looked at */
const BEYOND = 2;

/**
 * Splits the long edges of a surface near a cage's open edges, so that distances from these are even along each. Changes the mesh.
 * @param edge mean length of the open edges, mm
 * @returns it, packed where any was split
 */
export function splitNearOpen(mesh: WorkingMesh, kept: Cage, edge: number): WorkingMesh {
  const { tree } = openEdgesOf(kept);
  const found = surfacePoint();
  const isNear = (h: number, far: number) => {
    const [x, y, z] = mean(mesh.ends(h));
    return tree.closest(x, y, z, found, (far / 2 + FINE_WITHIN * edge) ** 2).triangle >= 0;
  };
  const before = mesh.triangles;
  for (;;) {
    const long: { h: number; far: number }[] = [];
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      if (mesh.opposite[h] > h) continue;
      const far = Math.sqrt(mesh.edgeLength2(h));
      if (far > FINE * edge && isNear(h, far)) long.push({ h, far });
    }
    if (long.length === 0) break;
    // the longest first: triangles stay as round as they were (Rivara 1984)
    long.sort((a, b) => b.far - a.far);
    for (const { h, far } of long) if (Math.abs(Math.sqrt(mesh.edgeLength2(h)) - far) < 1e-9 * far) mesh.split(h);
  }
  return mesh.triangles > before ? mesh.packed() : mesh;
}

/** What of a surface a cage that lies on it leaves bare. Distances are found once a vertex, and only where they are asked for. */
export class BareSurface {
  private readonly normals: Float64Array;
  private readonly laid: Reference;
  private readonly seam: { tree: TriangleBvh; normals: number[] };
  private readonly toSeam: Float64Array;
  private readonly toLaid: Float64Array;
  private readonly found = surfacePoint();

  /**
   * @param tree of the surface's triangles
   * @param sharp its sharp edges, a half-edge each, and their tree in the same order
   */
  constructor(
    private readonly surface: WorkingMesh,
    private readonly tree: TriangleBvh,
    private readonly kept: Cage,
    private readonly sharp: { edges: readonly number[]; tree?: TriangleBvh }
  ) {
    this.normals = vertexNormals(surface);
    this.laid = new Reference(kept.toPolygons());
    this.seam = openEdgesOf(kept);
    this.toSeam = new Float64Array(surface.vertices).fill(NaN);
    this.toLaid = new Float64Array(surface.vertices).fill(NaN);
  }

  /**
   * What is bare from some mm beyond the cage's open edges on.
   * @param within only what lies in this box; all where it is left out
   */
  beyond(gap: number, within?: Bounds): WorkingMesh {
    const { surface, toSeam, toLaid } = this;
    const isOutside = (p: Triple) => within !== undefined && p.some((c, k) => c < within.min[k] || c > within.max[k]);
    const lies = Uint8Array.from({ length: surface.vertices }, (_, v) => {
      const at = surface.point(v);
      if (isOutside(at)) return BEYOND;
      this.measure(v, at);
      // over the cage its faces are nearer than its open edges; far off it there may be nothing of it
      return toLaid[v] < toSeam[v] * (1 - 1e-6) && toLaid[v] < 2 * gap ? COVERED : BARE;
    });
    this.uncoverSpots(lies, isOutside);
    const height = Float64Array.from(lies, (how, v) => {
      const h = how === BEYOND ? -gap : how === COVERED ? -Math.min(toSeam[v], gap) - gap : Math.min(toSeam[v], 1e6 * gap) - gap;
      // no slivers where a vertex lies nearly there
      return Math.abs(h) < ON_CUT * gap ? 0 : h;
    });
    this.crossSquarely(height, lies, gap);
    return clipped(surface, surface.positions, height);
  }

  /** Makes the cut cross sharp edges at right angles: near them heights come to be those of the nearest places on them. Changes the heights. */
  private crossSquarely(height: Float64Array, lies: Uint8Array, gap: number): void {
    const { surface, sharp, found } = this;
    if (!sharp.tree) return;
    const own = height.slice();
    for (let v = 0; v < own.length; v++) {
      if (lies[v] !== BARE || own[v] > SQUARE_WITHIN * gap) continue;
      const { triangle, distance2, x, y, z } = sharp.tree.closest(...surface.point(v), found, (SQUARE_WITHIN * gap) ** 2);
      if (triangle < 0 || distance2 === 0) continue;
      const h = sharp.edges[triangle];
      const [a, b] = [surface.corner[h], surface.corner[after(h)]];
      if (lies[a] !== BARE || lies[b] !== BARE) continue;
      const [from, to] = surface.ends(h);
      const t = length(subtract([x, y, z], from)) / (length(subtract(to, from)) || 1);
      const near = 1 - Math.sqrt(distance2) / (SQUARE_WITHIN * gap);
      const wanted = own[v] + near * (own[a] + t * (own[b] - own[a]) - own[v]);
      // not as far as the open edges
      height[v] = Math.min(wanted, own[v] + NEARER_SEAM * gap);
    }
  }

  /** Distances of a vertex from the cage's open edges and faces on its side of the surface; Infinity where there are none. */
  private measure(v: number, [x, y, z]: Triple): void {
    if (!Number.isNaN(this.toSeam[v])) return;
    const normal = this.normals.subarray(3 * v, 3 * v + 3);
    const distance = (tree: TriangleBvh, normals: ArrayLike<number>) => {
      tree.closest(x, y, z, this.found, Infinity, lookingAlong(normals, normal, LOOKS_AWAY));
      return this.found.triangle < 0 ? Infinity : Math.sqrt(this.found.distance2);
    };
    this.toSeam[v] = distance(this.seam.tree, this.seam.normals);
    this.toLaid[v] = distance(this.laid.bvh, this.laid.normals);
  }

  /** Spots that seem covered and have no face of the cage above them are bare: what is near them belongs to another side. */
  private uncoverSpots(lies: Uint8Array, isOutside: (p: Triple) => boolean): void {
    const { surface, tree, kept, found } = this;
    const reached = new Uint8Array(lies.length);
    const front: number[] = [];
    const reach = (v: number) => {
      if (lies[v] !== COVERED || reached[v] === 1) return;
      reached[v] = 1;
      front.push(v);
    };
    for (const f of kept.faces()) {
      const at = faceMiddle(kept, f);
      if (isOutside(at)) continue;
      const { triangle } = tree.closest(...at, found);
      for (let h = 3 * triangle; h < 3 * triangle + 3; h++) reach(surface.corner[h]);
    }
    for (let v = 0; v < lies.length; v++) if (lies[v] === BEYOND) front.push(v);
    const ring: number[] = [];
    while (front.length > 0) for (const w of surface.neighbours(front.pop()!, ring)) reach(w);
    for (let v = 0; v < lies.length; v++) if (lies[v] === COVERED && reached[v] === 0) lies[v] = BARE;
  }
}

/** The open edges of a cage as a tree of triangles without area, and the normals of the faces beside them. */
function openEdgesOf(cage: Cage): { tree: TriangleBvh; normals: number[] } {
  const points: number[] = [];
  const normals: number[] = [];
  for (const e of cage.edges()) {
    const h = cage.face[2 * e] === NONE ? 2 * e : 2 * e + 1;
    if (cage.face[h] !== NONE) continue;
    for (const v of [cage.origin[h], cage.target(h), cage.target(h)]) points.push(...cage.position(v));
    normals.push(...faceNormal(cage, cage.face[h ^ 1]));
  }
  const each = Int32Array.from({ length: points.length / 3 }, (_, i) => i);
  return { tree: new TriangleBvh(Float64Array.from(points), each), normals };
}
