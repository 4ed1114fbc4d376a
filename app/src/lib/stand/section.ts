import * as THREE from 'three';
import type { Triple } from '@ulvrin/core';

/** A plane across the axis that is looked along most, through a point and some mm farther off: what lies before it is cut away. */
export function sectionPlane({ point, offset }: { point: Triple; offset: number }, looking: THREE.Vector3): THREE.Plane {
  const axis = (['x', 'y', 'z'] as const).reduce((m, k) => (Math.abs(looking[k]) > Math.abs(looking[m]) ? k : m));
  const normal = new THREE.Vector3();
  normal[axis] = Math.sign(looking[axis]) || 1;
  const plane = new THREE.Plane().setFromNormalAndCoplanarPoint(normal, new THREE.Vector3(...point));
  plane.constant -= offset;
  return plane;
}
