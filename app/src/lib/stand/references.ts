import * as THREE from 'three';
import type { StandColours } from '$lib/settings/theme.svelte.ts';
import { isClosed, Reference, shadedTriangles, triangulate, type Part, type PolygonMesh, type Triple } from '@ulvrin/core';
import { dispose } from './marks/mark-shapes.ts';
import { clayMaterial, outlineMaterial } from './marks/materials.ts';
import { MovedSurface } from './moved-surface.ts';
import { MOST_OUTLINED } from './smooth-drawing.ts';

type Drawn = THREE.Mesh<THREE.BufferGeometry>;

/** Opacity of references under cages. */
const GHOST = 0.25;
/** Steps that references are put back by: under cages, and where quads are laid on them, which cut through where the surface bulges. */
const [BACK, LAID_ON] = [2, 400];

/** Dense meshes on the stand, under the cages that are laid over them. */
export class References {
  readonly group = new THREE.Group();
  private readonly drawn = new Map<string, DrawnReference>();

  /** Its points, for what stands on the floor. */
  get points(): ArrayLike<number>[] {
    return [...this.drawn.values()].map(({ object }) => object.geometry.getAttribute('position').array);
  }

  get count(): number {
    return this.drawn.size;
  }

  /**
   * @param under they are seen through, as cages are shown too; or they are solid, and what is laid on them is seen all the same
   * @param deep mm that what is laid on them may lie inside and be seen
   */
  show(parts: readonly Part[], colours: StandColours, under?: 'ghost' | 'laid on', deep = 0): void {
    const ghost = under === 'ghost';
    const wanted = new Set(parts.map((p) => p.id));
    for (const [id, { object }] of this.drawn)
      if (!wanted.has(id)) {
        dispose(object);
        this.drawn.delete(id);
      }
    for (const part of parts) {
      let drawn = this.drawn.get(part.id);
      // with the same faces only what has moved is drawn anew
      if (drawn?.mesh.faceVertices === part.mesh!.faceVertices) drawn.settle(part.mesh!);
      if (drawn?.mesh !== part.mesh) {
        if (drawn) dispose(drawn.object);
        drawn = new DrawnReference(part.mesh!);
        this.drawn.set(part.id, drawn);
        this.group.add(drawn.object);
      }
      const { object, closed } = drawn!;
      object.material = clayMaterial(colours, { opacity: ghost ? GHOST : 1, closed, back: under === 'laid on' ? LAID_ON : BACK, deep });
      const [outline] = object.children as THREE.Mesh[];
      if (outline) [outline.material, outline.visible] = [outlineMaterial(colours.wire), under === undefined];
    }
  }

  /** Follows a mesh under work. @param moved vertices that lie elsewhere than they were drawn last */
  follow(id: string, mesh: PolygonMesh, moved: ArrayLike<number>): void {
    this.drawn.get(id)?.follow(mesh, moved);
  }

  /** Where a ray first meets one of them, through the tree that laying and measuring use too. */
  hit({ ray }: THREE.Raycaster): { point: THREE.Vector3; distance: number; normal: Triple } | undefined {
    const [origin, direction] = [ray.origin.toArray(), ray.direction.toArray()];
    const hits = [...this.drawn.values()].flatMap(({ settled }) => {
      const reference = Reference.of(settled);
      const hit = reference.bvh.raycast(origin, direction);
      return hit ? [{ distance: hit.distance, normal: [...reference.normals.subarray(3 * hit.triangle, 3 * hit.triangle + 3)] as Triple }] : [];
    });
    if (hits.length === 0) return undefined;
    const { distance, normal } = hits.reduce((a, b) => (b.distance < a.distance ? b : a));
    return { point: ray.at(distance, new THREE.Vector3()), distance, normal };
  }
}

/** One reference as it is drawn. */
class DrawnReference {
  readonly object: Drawn;
  readonly closed: boolean;
  /** as it is drawn; while it is worked on its places are those of the work */
  mesh: PolygonMesh;
  /** as it was before the work that is under way: what is pointed at */
  settled: PolygonMesh;
  /** places as they were drawn last */
  private readonly places: Float64Array;
  private readonly surface: MovedSurface;

  constructor(mesh: PolygonMesh) {
    this.mesh = this.settled = mesh;
    this.closed = isClosed(mesh);
    this.places = mesh.positions.slice();
    const geometry = new THREE.BufferGeometry();
    const { positions, normals, triangles, copies } = shadedTriangles(mesh.positions, triangulate(mesh).triangles);
    geometry.setIndex(new THREE.BufferAttribute(triangles, 1));
    geometry.setAttribute('position', new THREE.BufferAttribute(positions, 3));
    geometry.setAttribute('normal', new THREE.BufferAttribute(normals, 3));
    this.surface = new MovedSurface(geometry, copies, mesh.positions.length / 3);
    this.object = new THREE.Mesh(geometry);
    if (triangles.length < 3 * MOST_OUTLINED) this.object.add(new THREE.Mesh(geometry));
  }

  /** Is a mesh with the same faces from now on: what is pointed at too. */
  settle(mesh: PolygonMesh): void {
    if (this.settled === mesh && this.mesh === mesh) return;
    this.settled = mesh;
    this.follow(mesh, movedIn(this.places, mesh.positions));
  }

  /** Takes new places of the same vertices. @param vertices those that lie elsewhere than they were drawn */
  follow(mesh: PolygonMesh, vertices: ArrayLike<number>): void {
    this.mesh = mesh;
    if (vertices.length === 0) return;
    for (let n = 0; n < vertices.length; n++) {
      const v = vertices[n];
      for (let k = 3 * v; k < 3 * v + 3; k++) this.places[k] = mesh.positions[k];
    }
    this.surface.follow(vertices, mesh.positions);
  }
}

/** Vertices that lie elsewhere. */
function movedIn(before: Float64Array, now: Float64Array): number[] {
  const moved: number[] = [];
  for (let i = 0; i < now.length; i += 3) if (before[i] !== now[i] || before[i + 1] !== now[i + 1] || before[i + 2] !== now[i + 2]) moved.push(i / 3);
  return moved;
}
