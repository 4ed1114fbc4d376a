import * as THREE from 'three';

/** Radians to the poles that the eye keeps at least. */
const OFF_POLE = 0.02;
const UP = new THREE.Vector3(0, 1, 0);

/**
 * Turns the eye, and what it looks at, round a point that stays where it is seen.
 * @param right radians to the right @param up radians up; less where the eye would go over a pole
 */
export function turnRound(
  eye: { position: THREE.Vector3; target: THREE.Vector3 },
  pivot: THREE.Vector3,
  right: number,
  up: number
): { position: THREE.Vector3; target: THREE.Vector3 } {
  const offset = eye.position.clone().sub(eye.target);
  const polar = offset.angleTo(UP);
  const rise = THREE.MathUtils.clamp(up, OFF_POLE + polar - Math.PI, polar - OFF_POLE);
  const across = UP.clone().cross(offset).normalize();
  const turn = new THREE.Quaternion().setFromAxisAngle(UP, -right).multiply(new THREE.Quaternion().setFromAxisAngle(across, -rise));
  const turned = (p: THREE.Vector3) => p.clone().sub(pivot).applyQuaternion(turn).add(pivot);
  return { position: turned(eye.position), target: turned(eye.target) };
}
