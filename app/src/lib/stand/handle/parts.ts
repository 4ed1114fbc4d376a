import * as THREE from 'three';
import { mergeGeometries } from 'three/addons/utils/BufferGeometryUtils.js';
import { shiftAcross, shiftAlong, sizeAll, sizeAlong, turnAbout, type DragStart, type Follow } from './drags.ts';

/** One part of the handle, in pixels about its middle. */
export interface HandlePart {
  /** what a drag of it does */
  label: string;
  kind: 'shift' | 'turn' | 'size';
  colour: THREE.ColorRepresentation;
  geometry: THREE.BufferGeometry;
  /** points along it: where the pointer takes it */
  outline: THREE.Vector3[];
  /** how it lies: along the frame, turned as what is picked is, facing the eye, or with its open half facing it about an axis */
  lies: 'frame' | 'turned' | 'eye' | { about: number };
  /** what it points along, as the part lies; seen from its tip it cannot be dragged, and is not shown */
  along?: THREE.Vector3;
  /** it lies across this; seen from its edge it cannot be dragged, and is not shown */
  across?: THREE.Vector3;
  /** it is shown where this points at the eye, and nowhere else */
  before?: THREE.Vector3;
  begin(start: DragStart): Follow;
}

const [TIP, SQUARE, RING, BOX, RIM, KNOB] = [96, 26, 72, -54, 112, 138];
const THICK = 1.2;
const NAMES = ['X', 'Y', 'Z'];
/** Red, green and blue, as everywhere in the trade; dark enough for clay and paper. */
const COLOURS = ['#c4352b', '#3c8a2e', '#2f62c9'];
const INK = '#4a5560';

const unit = (k: number) => new THREE.Vector3().setComponent(k, 1);
/** Turns what runs along Y to run along an axis. */
const yTo = (direction: THREE.Vector3) => new THREE.Quaternion().setFromUnitVectors(unit(1), direction);
const rod = (from: number, to: number) => new THREE.CylinderGeometry(THICK, THICK, to - from, 8).translate(0, (from + to) / 2, 0);
const points = (direction: THREE.Vector3, from: number, to: number) => [from, to].map((d) => direction.clone().multiplyScalar(d));
/** An arc in the plane of X and Y, from the angle -half to half about X. */
const arc = (radius: number, half: number) =>
  Array.from({ length: 49 }, (_, i) => {
    const angle = half * (i / 24 - 1);
    return new THREE.Vector3(radius * Math.cos(angle), radius * Math.sin(angle), 0);
  });

function arrow(k: number): HandlePart {
  const head = new THREE.ConeGeometry(5, 15, 16).translate(0, TIP - 7, 0);
  return {
    label: `Move along ${NAMES[k]}`,
    kind: 'shift',
    colour: COLOURS[k],
    geometry: mergeGeometries([rod(12, TIP - 10), head]).applyQuaternion(yTo(unit(k))),
    outline: points(unit(k), 12, TIP),
    lies: 'frame',
    along: unit(k),
    begin: (start) => shiftAlong(start, k)
  };
}

function square(k: number): HandlePart {
  const [u, v] = [unit((k + 1) % 3), unit((k + 2) % 3)];
  const turned = new THREE.Matrix4().makeBasis(u, v, unit(k));
  const middle = u.clone().add(v).multiplyScalar(SQUARE);
  return {
    label: `Move across ${[0, 1, 2]
      .filter((i) => i !== k)
      .map((i) => NAMES[i])
      .join(' and ')}`,
    kind: 'shift',
    colour: COLOURS[k],
    geometry: new THREE.BoxGeometry(13, 13, 1).applyMatrix4(turned).translate(...middle.toArray()),
    outline: [middle.clone().addScaledVector(u, -5), middle.clone().addScaledVector(u, 5)],
    lies: 'frame',
    across: unit(k),
    begin: (start) => shiftAcross(start, k)
  };
}

function ring(k: number): HandlePart {
  // its half towards the eye alone, as the rest would lie behind what is picked
  return {
    label: `Turn about ${NAMES[k]}`,
    kind: 'turn',
    colour: COLOURS[k],
    geometry: new THREE.TorusGeometry(RING, THICK, 6, 48, Math.PI).rotateZ(-Math.PI / 2),
    outline: arc(RING, Math.PI / 2),
    lies: { about: k },
    begin: (start) => turnAbout(start, k, RING)
  };
}

/** All of a ring, for who looks along its axis. */
function wholeRing(k: number): HandlePart {
  const turned = new THREE.Quaternion().setFromUnitVectors(unit(2), unit(k));
  return {
    ...ring(k),
    geometry: new THREE.TorusGeometry(RING, THICK, 6, 96).applyQuaternion(turned),
    outline: arc(RING, Math.PI).map((p) => p.applyQuaternion(turned)),
    lies: 'frame',
    before: unit(k)
  };
}

function cube(k: number): HandlePart {
  return {
    label: `Size along ${NAMES[k]}`,
    kind: 'size',
    colour: COLOURS[k],
    geometry: mergeGeometries([rod(BOX, -14), new THREE.BoxGeometry(10, 10, 10).translate(0, BOX, 0)]).applyQuaternion(yTo(unit(k))),
    outline: points(unit(k), BOX - 4, BOX + 12),
    lies: 'turned',
    along: unit(k),
    begin: (start) => sizeAlong(start, k)
  };
}

const middle: HandlePart = {
  label: 'Move across the view',
  kind: 'shift',
  colour: INK,
  geometry: new THREE.OctahedronGeometry(7),
  outline: points(unit(0), 0, 1),
  lies: 'frame',
  begin: (start) => shiftAcross(start)
};

const rim: HandlePart = {
  label: 'Size along all three',
  kind: 'size',
  colour: INK,
  geometry: new THREE.TorusGeometry(RIM, THICK, 6, 96),
  outline: arc(RIM, Math.PI),
  lies: 'eye',
  begin: sizeAll
};

/** The parts of the handle; where several are under the pointer the first of them takes it. */
export const handleParts = (): HandlePart[] => [
  middle,
  ...[0, 1, 2].flatMap((k) => [square(k), cube(k), arrow(k)]),
  ...[0, 1, 2].flatMap((k) => [ring(k), wholeRing(k)]),
  rim
];

/** What a knob is made of, along Y, and where the pointer takes it. */
export const knobShape = (): Pick<HandlePart, 'geometry' | 'outline' | 'colour'> => ({
  colour: INK,
  geometry: mergeGeometries([rod(TIP + 4, KNOB), new THREE.SphereGeometry(8, 20, 14).translate(0, KNOB, 0)]),
  outline: points(unit(1), KNOB - 12, KNOB + 6)
});
