import * as THREE from 'three';
import { sharedMaterial } from './materials.ts';
import type { CageOverlay } from './overlay.ts';

/** A tint of the side of faces that is seen. */
const tint = (colour: string, side: THREE.Side): THREE.MeshBasicMaterial =>
  sharedMaterial(
    ['side', colour, side],
    () =>
      new THREE.MeshBasicMaterial({
        color: colour,
        side,
        transparent: true,
        opacity: 0.5,
        depthWrite: false,
        polygonOffset: true,
        polygonOffsetFactor: -1,
        polygonOffsetUnits: -2
      })
  );

/** Which side of each face is seen: the outer ones in one colour, the inner ones in another. */
export const sides: CageOverlay = {
  id: 'sides',
  label: 'sides of faces',
  help: 'Outer sides blue, inner sides red: faces that are turned stand out',
  colour: 'lock',
  draw(drawing) {
    const faces = new Set(drawing.cage.faces());
    const { lock, deviation } = drawing.colours;
    return [drawing.faceFill(faces, tint(lock, THREE.FrontSide)), drawing.faceFill(faces, tint(deviation, THREE.BackSide))];
  }
};
