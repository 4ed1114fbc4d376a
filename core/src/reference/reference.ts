import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { type Triple } from '../numeric/vectors.ts';
import { surfacePoint, TriangleBvh, type PlainBvh } from './triangle-bvh.ts';

/** What is made of a reference once, as plain data that can be handed to another thread. */
export interface PlainReference {
  triangles: Uint32Array;
  normals: Float64Array;
  tree: PlainBvh;
}

/** References by their meshes: previews, laying and measuring ask for the same one many times. Meshes are never changed once they are in a job. */
const known = new WeakMap<PolygonMesh, Reference>();

/** Of a mesh whose vertices were moved, the one it was before: its tree is followed, not built anew. */
const before = new WeakMap<PolygonMesh, PolygonMesh>();

/** A dense mesh to lay cages over and to measure against: triangles, their unit normals, and a tree for closest points and rays. */
export class Reference {
  readonly triangles: Uint32Array;
  /** unit normal by triangle; zero for triangles without area */
  readonly normals: Float64Array;
  readonly bvh: TriangleBvh;

  /** @param made what `plain` told of the same mesh: nothing is made anew then */
  constructor(
    readonly mesh: PolygonMesh,
    made?: PlainReference
  ) {
    this.triangles = made?.triangles ?? triangulate(mesh).triangles;
    this.normals = made?.normals ?? triangleNormals(mesh.positions, this.triangles);
    this.bvh = new TriangleBvh(mesh.positions, this.triangles, made?.tree);
  }

  /** The reference of a mesh: made the first time it is asked for. @param made as the constructor has it; taken up where there is none yet */
  static of(mesh: PolygonMesh, made?: PlainReference): Reference {
    const present = known.get(mesh);
    if (present) return present;
    const earlier = before.get(mesh);
    const reference = new Reference(mesh, made ?? (earlier && known.get(earlier)?.followed(mesh)));
    known.set(mesh, reference);
    before.delete(mesh);
    return reference;
  }

  /** Tells that a mesh is another one with vertices moved: what is made of it then takes a small part of the time. */
  static moved(from: PolygonMesh, to: PolygonMesh): void {
    before.set(to, from);
  }

  /** What is made of a mesh with the same faces whose vertices lie elsewhere: same triangles, boxes as they are now. */
  private followed(mesh: PolygonMesh): PlainReference {
    const { triangles } = this;
    return { triangles, normals: triangleNormals(mesh.positions, triangles), tree: this.bvh.followed(mesh.positions) };
  }

  /** What was made of the mesh; shares its arrays. */
  plain(): PlainReference {
    return { triangles: this.triangles, normals: this.normals, tree: this.bvh.plain() };
  }

  /** The point of the surface that is closest to another one. */
  closestPoint(p: Triple): Triple {
    const { x, y, z } = this.bvh.closest(...p, surfacePoint());
    return [x, y, z];
  }

  /** The same, below 0 where a point lies inside: behind the triangle that is closest to it. Near sharp edges either side may be told. */
  signedDistances(points: Float64Array): Float64Array {
    const { normals, bvh } = this;
    return bvh.eachClosest(points, ({ triangle, distance2, x, y, z }, i) => {
      const t = 3 * triangle;
      const outside =
        t < 0 ? 0 : (points[3 * i] - x) * normals[t] + (points[3 * i + 1] - y) * normals[t + 1] + (points[3 * i + 2] - z) * normals[t + 2];
      return outside < 0 ? -Math.sqrt(distance2) : Math.sqrt(distance2);
    });
  }

  /** Distance of each point (x, y, z) to the surface. */
  distances(points: Float64Array): Float64Array {
    return this.bvh.distances(points);
  }
}

export function triangleNormals(p: Float64Array, triangles: Uint32Array | Int32Array): Float64Array {
  const normals = new Float64Array(triangles.length);
  for (let t = 0; t < triangles.length; t += 3) {
    const a = 3 * triangles[t];
    const b = 3 * triangles[t + 1];
    const c = 3 * triangles[t + 2];
    const ux = p[b] - p[a],
      uy = p[b + 1] - p[a + 1],
      uz = p[b + 2] - p[a + 2];
    const vx = p[c] - p[a],
      vy = p[c + 1] - p[a + 1],
      vz = p[c + 2] - p[a + 2];
    const x = uy * vz - uz * vy;
    const y = uz * vx - ux * vz;
    const z = ux * vy - uy * vx;
    const length = Math.sqrt(x * x + y * y + z * z) || 1;
    normals[t] = x / length;
    normals[t + 1] = y / length;
    normals[t + 2] = z / length;
  }
  return normals;
}
