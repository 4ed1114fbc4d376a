import * as THREE from 'three';

/** Where an eye is: from what it looks at, and that. */
export interface Gaze {
  offset: THREE.Vector3;
  target: THREE.Vector3;
  zoom: number;
}

/** ms that a change of view takes. */
export const GLIDE = 200;

/** Slow at both ends. */
const eased = (t: number) => t * t * (3 - 2 * t);

/** Where an eye is between two gazes: it goes round what it looks at, not through it. @param t 0 to 1 */
export function between(from: Gaze, to: Gaze, t: number): Gaze {
  const e = eased(Math.min(1, Math.max(0, t)));
  const [a, b] = [from.offset.clone().normalize(), to.offset.clone().normalize()];
  const turn = new THREE.Quaternion().slerp(new THREE.Quaternion().setFromUnitVectors(a, b), e);
  const away = from.offset.length() * (to.offset.length() / from.offset.length()) ** e;
  return {
    offset: e === 1 ? to.offset.clone() : a.applyQuaternion(turn).multiplyScalar(away),
    target: from.target.clone().lerp(to.target, e),
    zoom: from.zoom * (to.zoom / from.zoom) ** e
  };
}

/** Whether two gazes are the same but for rounding. */
export const isSame = (a: Gaze, b: Gaze): boolean =>
  Math.max(a.offset.distanceTo(b.offset), a.target.distanceTo(b.target)) < 1e-6 * a.offset.length() && a.zoom === b.zoom;

/** Whether views change at once: the person has asked for less motion. */
export const isStill = (): boolean => matchMedia('(prefers-reduced-motion: reduce)').matches;
