import { type Cage } from '../mesh/cage.ts';
import { withoutPinches } from '../mesh/polygons-of-faces.ts';
import { facesRound } from '../mesh/topology.ts';
import { limitPatch } from '../refit/limit-patch.ts';
import { possibleScheme, type SurfaceSettings } from '../subdivide/level-plan.ts';

/**
 * Where the smooth surface lies at some vertices of a cage; a vertex without faces lies where it is.
 * @returns three numbers a vertex, mm, in the order of the vertices
 */
export function limitPoints(cage: Cage, vertices: readonly number[], settings: SurfaceSettings): Float64Array {
  const points = Float64Array.from(vertices.flatMap((v) => cage.position(v)));
  // a plan that divides first asks for a ring more: what a vertex becomes goes by the faces round those beside it
  const near = facesRound(cage, vertices, settings.plan ? 2 : 1);
  if (near.length === 0) return points;
  const faces = withoutPinches(cage, near) ?? near;
  const corners = faces.reduce((sum, f) => sum + cage.faceSize(f), 0);
  const scheme = possibleScheme(settings.scheme, faces.length, corners);
  const { places, vertices: own } = limitPatch(cage, faces, { ...settings, scheme }, 1);
  const indexOf = new Map(Array.from(own, (v, i) => [v, i]));
  vertices.forEach((v, i) => {
    const k = indexOf.get(v);
    if (k !== undefined) points.set(places.subarray(3 * k, 3 * k + 3), 3 * i);
  });
  return points;
}
