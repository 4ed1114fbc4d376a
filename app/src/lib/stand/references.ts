import * as THREE from 'three';
import type { StandColours } from '$lib/settings/theme.svelte.ts';
import { isClosed, Reference, shadedTriangles, triangulate, type Part, type PolygonMesh } from '@ulvrin/core';
import { dispose } from './marks/mark-shapes.ts';
import { clayMaterial, outlineMaterial } from './marks/materials.ts';
import { MOST_OUTLINED } from './smooth-drawing.ts';

type Drawn = THREE.Mesh<THREE.BufferGeometry>;

/** Opacity of references under cages. */
const GHOST = 0.25;

/** Dense meshes on the stand, under the cages that are laid over them. */
export class References {
  readonly group = new THREE.Group();
  private readonly drawn = new Map<string, { mesh: PolygonMesh; object: Drawn; closed: boolean }>();

  /** Its points, for what stands on the floor. */
  get points(): ArrayLike<number>[] {
    return [...this.drawn.values()].map(({ object }) => object.geometry.getAttribute('position').array);
  }

  get count(): number {
    return this.drawn.size;
  }

  /** @param ghost they are seen through, as cages are shown too */
  show(parts: readonly Part[], colours: StandColours, ghost: boolean): void {
    const wanted = new Set(parts.map((p) => p.id));
    for (const [id, { object }] of this.drawn)
      if (!wanted.has(id)) {
        dispose(object);
        this.drawn.delete(id);
      }
    for (const part of parts) {
      let drawn = this.drawn.get(part.id);
      if (drawn?.mesh !== part.mesh) {
        if (drawn) dispose(drawn.object);
        drawn = { mesh: part.mesh!, object: objectOf(part.mesh!), closed: isClosed(part.mesh!) };
        this.drawn.set(part.id, drawn);
        this.group.add(drawn.object);
      }
      const { object, closed } = drawn!;
      object.material = clayMaterial(colours, { opacity: ghost ? GHOST : 1, closed, back: 2 });
      const [outline] = object.children as THREE.Mesh[];
      if (outline) [outline.material, outline.visible] = [outlineMaterial(colours.wire), !ghost];
    }
  }

  /** Where a ray first meets one of them, through the tree that laying and measuring use too. */
  hit({ ray }: THREE.Raycaster): { point: THREE.Vector3; distance: number } | undefined {
    const [origin, direction] = [ray.origin.toArray(), ray.direction.toArray()];
    const distances = [...this.drawn.values()].map(({ mesh }) => Reference.of(mesh).bvh.raycast(origin, direction)?.distance ?? Infinity);
    const distance = Math.min(...distances);
    return Number.isFinite(distance) ? { point: ray.at(distance, new THREE.Vector3()), distance } : undefined;
  }
}

function objectOf(mesh: PolygonMesh): Drawn {
  const geometry = new THREE.BufferGeometry();
  const { positions, normals, triangles } = shadedTriangles(mesh.positions, triangulate(mesh).triangles);
  geometry.setIndex(new THREE.BufferAttribute(triangles, 1));
  geometry.setAttribute('position', new THREE.BufferAttribute(positions, 3));
  geometry.setAttribute('normal', new THREE.BufferAttribute(normals, 3));
  const object: Drawn = new THREE.Mesh(geometry);
  if (triangles.length < 3 * MOST_OUTLINED) object.add(new THREE.Mesh(geometry));
  return object;
}
