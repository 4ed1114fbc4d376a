import * as THREE from 'three';
import type { CageDrawing } from './cage-drawing.ts';
import type { Standing } from './floor.ts';
import type { References } from './references.ts';

type Drawings = ReadonlyMap<string, CageDrawing>;

/** Round all references, and something of each cage. */
export function boxRound(references: References, drawings: Drawings, part: (drawing: CageDrawing) => THREE.Object3D): THREE.Box3 {
  const box = new THREE.Box3().expandByObject(references.group);
  for (const drawing of drawings.values()) box.expandByObject(part(drawing));
  return box;
}

/** What stands on the floor: references, and of cages what is seen of them. */
export function standingOn(references: References, drawings: Drawings): Standing | undefined {
  const { min, max } = boxRound(references, drawings, (drawing) => drawing.smoothMesh ?? drawing.faces);
  if (min.x > max.x) return undefined;
  const points = [...references.points, ...[...drawings.values()].map((drawing) => drawing.drawnPoints)];
  return { points, min: min.toArray(), max: max.toArray() };
}
