import * as THREE from 'three';
import type { Placement, Triple } from '@ulvrin/core';

/** What a drag of the handle begins from; rays, directions and places are in mm along the axes of its frame, from its pivot. */
export interface DragStart {
  placement: Placement;
  ray: THREE.Ray;
  /** towards the eye */
  eye: THREE.Vector3;
  /** mm a pixel where the handle is */
  scale: number;
  /** steps of mm, degrees or percent; 0: none */
  step: number;
  /** what the shift counts from where it is a place: steps are whole numbers from there */
  base: Triple;
  /** a place that the handle's middle is drawn to, if there is one now */
  snapTo?: () => THREE.Vector3 | undefined;
}

/** What the handle stands for once the pointer is at a ray; as it was where that says nothing. */
export type Follow = (ray: THREE.Ray) => Placement;

const UNITS = [new THREE.Vector3(1, 0, 0), new THREE.Vector3(0, 1, 0), new THREE.Vector3(0, 0, 1)];
const DEGREES = 180 / Math.PI;
const inSteps = (n: number, step: number) => (step > 0 ? Math.round(n / step) * step : n);

/** The rotation that degrees about X, then Y, then Z mean. */
export const rotationOf = ([x, y, z]: Triple): THREE.Quaternion =>
  new THREE.Quaternion().setFromEuler(new THREE.Euler(x / DEGREES, y / DEGREES, z / DEGREES, 'ZYX'));

/** Degrees about X, then Y, then Z of a rotation. */
function turnOf(rotation: THREE.Quaternion): Triple {
  const { x, y, z } = new THREE.Euler().setFromQuaternion(rotation, 'ZYX');
  return [x * DEGREES, y * DEGREES, z * DEGREES];
}

/** How far along a line, from its origin, it is closest to a ray; nothing where they run side by side. */
function alongLine(origin: THREE.Vector3, direction: THREE.Vector3, ray: THREE.Ray): number | undefined {
  const b = direction.dot(ray.direction);
  const apart = 1 - b * b;
  if (apart < 1e-4) return undefined;
  const w = origin.clone().sub(ray.origin);
  return (b * ray.direction.dot(w) - direction.dot(w)) / apart;
}

const onPlane = (origin: THREE.Vector3, normal: THREE.Vector3, ray: THREE.Ray): THREE.Vector3 | undefined =>
  ray.intersectPlane(new THREE.Plane().setFromNormalAndCoplanarPoint(normal, origin), new THREE.Vector3()) ?? undefined;

/** Shifts along some of the axes, as a function of the pointer says. */
function shifting(start: DragStart, axes: readonly number[], moved: (ray: THREE.Ray) => THREE.Vector3 | undefined): Follow {
  const { placement, step, base, snapTo } = start;
  return (ray) => {
    const by = moved(ray);
    const target = snapTo?.();
    if (!by && !target) return placement;
    const shift: Triple = [...placement.shift];
    for (const k of axes) {
      if (target) shift[k] = target.getComponent(k);
      else shift[k] = inSteps(base[k] + placement.shift[k] + by!.getComponent(k), step) - base[k];
    }
    return { ...placement, shift };
  };
}

/** Along one axis. */
export function shiftAlong(start: DragStart, axis: number): Follow {
  const middle = new THREE.Vector3(...start.placement.shift);
  const from = alongLine(middle, UNITS[axis], start.ray);
  return shifting(start, [axis], (ray) => {
    const to = alongLine(middle, UNITS[axis], ray);
    return from === undefined || to === undefined ? undefined : UNITS[axis].clone().multiplyScalar(to - from);
  });
}

/** Across a plane: square to one axis, or, without one, to the view. */
export function shiftAcross(start: DragStart, axis?: number): Follow {
  const middle = new THREE.Vector3(...start.placement.shift);
  const normal = axis === undefined ? start.eye : UNITS[axis];
  const from = onPlane(middle, normal, start.ray);
  return shifting(
    start,
    [0, 1, 2].filter((k) => k !== axis),
    (ray) => {
      const to = onPlane(middle, normal, ray);
      return from && to && to.sub(from);
    }
  );
}

/** Cosine to the view from which on a ring is seen too much from its edge to follow the pointer round it. */
const EDGE_ON = 0.15;

/** About one axis of the frame; a ring seen from its edge follows the pointer along it. */
export function turnAbout(start: DragStart, axis: number, radius: number): Follow {
  const { placement, eye, step } = start;
  const middle = new THREE.Vector3(...placement.shift);
  const edgeOn = Math.abs(UNITS[axis].dot(eye)) < EDGE_ON;
  const [u, v] = [UNITS[(axis + 1) % 3], UNITS[(axis + 2) % 3]];
  const tangent = UNITS[axis].clone().cross(eye).normalize();
  const angleAt = (ray: THREE.Ray): number | undefined => {
    const p = onPlane(middle, edgeOn ? eye : UNITS[axis], ray)?.sub(middle);
    if (!p) return undefined;
    return edgeOn ? p.dot(tangent) / (radius * start.scale) : Math.atan2(p.dot(v), p.dot(u));
  };
  const before = rotationOf(placement.turn);
  let last = angleAt(start.ray);
  let turned = 0;
  return (ray) => {
    const now = angleAt(ray);
    if (now === undefined || last === undefined) return placement;
    // the shorter way since the pointer moved last, so that whole turns add up
    turned += edgeOn ? now - last : Math.atan2(Math.sin(now - last), Math.cos(now - last));
    last = now;
    const angle = inSteps(turned * DEGREES, step);
    const about = new THREE.Quaternion().setFromAxisAngle(UNITS[axis], angle / DEGREES);
    return { ...placement, turn: turnOf(about.multiply(before)) };
  };
}

/** Factors below this would make nothing of what is sized. */
const LEAST = 1e-3;

/** Sizes by factors of what each of some axes had. */
function sizing({ placement, step }: DragStart, axes: readonly number[], factor: (ray: THREE.Ray) => number | undefined): Follow {
  return (ray) => {
    const by = factor(ray);
    if (by === undefined || !Number.isFinite(by)) return placement;
    const size: Triple = [...placement.size];
    for (const k of axes) {
      const wished = inSteps(size[k] * by * 100, step) / 100;
      size[k] = Math.abs(wished) < LEAST ? Math.max(LEAST, step / 100) : wished;
    }
    return { ...placement, size };
  };
}

/** Along one axis, turned as what is picked is. */
export function sizeAlong(start: DragStart, axis: number): Follow {
  const middle = new THREE.Vector3(...start.placement.shift);
  const direction = UNITS[axis].clone().applyQuaternion(rotationOf(start.placement.turn));
  const from = alongLine(middle, direction, start.ray);
  return sizing(start, [axis], (ray) => {
    const to = alongLine(middle, direction, ray);
    return from && to !== undefined ? to / from : undefined;
  });
}

/** Along all axes alike. */
export function sizeAll(start: DragStart): Follow {
  const middle = new THREE.Vector3(...start.placement.shift);
  const away = (ray: THREE.Ray) => onPlane(middle, start.eye, ray)?.distanceTo(middle);
  const from = away(start.ray);
  return sizing(start, [0, 1, 2], (ray) => {
    const to = away(ray);
    return from && to !== undefined ? to / from : undefined;
  });
}

/** How many mm a knob has been drawn along its direction. */
export function drawAlong({ placement, ray: first, step }: DragStart, direction: THREE.Vector3): (ray: THREE.Ray) => number | undefined {
  const middle = new THREE.Vector3(...placement.shift);
  const from = alongLine(middle, direction, first);
  return (ray) => {
    const to = alongLine(middle, direction, ray);
    return from === undefined || to === undefined ? undefined : inSteps(to - from, step);
  };
}
