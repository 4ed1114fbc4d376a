import { type Triple } from '../../numeric/vectors.ts';
import { type OrientationField } from './orientation-field.ts';
import { withImages, reflected } from '../base/mirror.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';

/** A pole that quads will have. */
export interface PlannedPole {
  at: Triple;
  valence: number;
}

/** Poles of a field, with their mirror images. */
export function polesOf(mesh: WorkingMesh, { index }: OrientationField): PlannedPole[] {
  const poles: PlannedPole[] = [];
  index.forEach((turns, v) => {
    if (turns !== 0) poles.push({ at: mesh.point(v), valence: 4 - turns });
  });
  return withImages(poles, mesh.mirrors, ({ at, valence }, mirror) => ({ at: reflected(mirror, at), valence }));
}
