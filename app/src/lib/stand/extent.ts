import * as THREE from 'three';
import type { CageDrawing } from './cage-drawing.ts';
import type { Standing } from './floor.ts';
import { somePoints, type Subject } from './framing.ts';
import type { References } from './references.ts';

type Drawings = ReadonlyMap<string, CageDrawing>;

/** Round all references, and what is seen of cages. */
function boxRound(references: References, drawings: Drawings): THREE.Box3 {
  const box = new THREE.Box3().expandByObject(references.group);
  for (const { smoothMesh, faces } of drawings.values()) box.expandByObject(smoothMesh ?? faces);
  return box;
}

/** What stands on the floor: references, and of cages what is seen of them. */
export function standingOn(references: References, drawings: Drawings): Standing | undefined {
  const { min, max } = boxRound(references, drawings);
  if (min.x > max.x) return undefined;
  const points = [...references.points, ...[...drawings.values()].map((drawing) => drawing.drawnPoints)];
  return { points, min: min.toArray(), max: max.toArray() };
}

/** The same, as something to look at. */
export function standingSubject(references: References, drawings: Drawings): Subject | undefined {
  const standing = standingOn(references, drawings);
  return standing && { ...standing, points: somePoints(standing.points) };
}
