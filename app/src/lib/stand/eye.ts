import * as THREE from 'three';
import { acceleratedRaycast, MeshBVH } from 'three-mesh-bvh';

/** What turns pixels of the stand into rays and back. */
export interface Eye {
  readonly host: HTMLElement;
  readonly camera: THREE.PerspectiveCamera | THREE.OrthographicCamera;
  /** what a section cuts away is not there */
  readonly section: THREE.Plane | undefined;
}

const raycaster = new THREE.Raycaster();

/** The ray through a pixel of the stand. */
export function rayAt({ host, camera }: Eye, x: number, y: number): THREE.Raycaster {
  const { clientWidth: w, clientHeight: h } = host;
  raycaster.setFromCamera(new THREE.Vector2((2 * x) / w - 1, 1 - (2 * y) / h), camera);
  return raycaster;
}

/** Where a point is seen, in pixels of the stand. */
export function onScreen({ host, camera }: Eye, p: readonly [number, number, number]): [number, number] {
  const v = new THREE.Vector3(...p).project(camera);
  return [((v.x + 1) / 2) * host.clientWidth, ((1 - v.y) / 2) * host.clientHeight];
}

/** Where the ray through a pixel meets the plane through a point: across the view, or with a normal of its own. */
export function onPlane(
  eye: Eye,
  x: number,
  y: number,
  through: readonly [number, number, number],
  normal?: readonly [number, number, number]
): [number, number, number] | undefined {
  const across = normal ? new THREE.Vector3(...normal) : eye.camera.getWorldDirection(new THREE.Vector3());
  const plane = new THREE.Plane().setFromNormalAndCoplanarPoint(across, new THREE.Vector3(...through));
  return rayAt(eye, x, y).ray.intersectPlane(plane, new THREE.Vector3())?.toArray();
}

/** Gives a mesh a tree of its triangles, once, that rays are followed through; one whose points have moved since is fitted to them. */
export function readyForRays(mesh: THREE.Mesh): void {
  const { boundsTree, userData } = mesh.geometry;
  if (boundsTree) {
    if (userData.treeIsBehind) boundsTree.refit();
    userData.treeIsBehind = false;
    return;
  }
  userData.treeIsBehind = false;
  // indirect: the order of the triangles is what tells their faces
  mesh.geometry.boundsTree = new MeshBVH(mesh.geometry, { indirect: true });
  mesh.raycast = acceleratedRaycast;
}
