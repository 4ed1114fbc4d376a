import { type PolygonMesh, withoutSharpness } from '../mesh/polygon-mesh.ts';
import { type SurfaceSettings } from './level-plan.ts';
import { SubdivisionError } from './level-topology.ts';
import { Subdivision } from './subdivision.ts';

export interface Baked {
  mesh: PolygonMesh;
  levels: number;
  /** how far the surface is from the creased one at most, in mm, for a receiver that subdivides the mesh without its creases */
  error: number;
}

/** Faces that a comparison subdivides to at most. */
const MOST_COMPARED = 500_000;

/**
 * Subdivides until a receiver who ignores creases and corners, and goes on to smooth the mesh, gets the same surface within a
 * tolerance. One who does not smooth it sees the baked level itself.
 * @param tolerance mm
 * @throws SubdivisionError with the distance that the last level that fits leaves
 */
export function bake(mesh: PolygonMesh, settings: SurfaceSettings, tolerance: number): Baked {
  const corners = mesh.faceVertices.length;
  const divided = settings.plan?.steps.length ?? 0;
  let error = Infinity;
  let levels = divided;
  for (; levels === divided || (corners * 4 ** (levels + 1)) / 4 <= MOST_COMPARED; levels++) {
    error = receiverError(mesh, settings, levels);
    if (error > tolerance) continue;
    return { mesh: withoutSharpness(new Subdivision(mesh, { ...settings, levels }).toPolygons(mesh)), levels, error };
  }
  throw new SubdivisionError(
    `Level ${levels - 1} still leaves ${error.toFixed(3)} mm to a receiver that ignores creases, and level ${levels} is too large to compare. ` +
      'Allow more, use support loops, or choose a format that carries creases.'
  );
}

/**
 * The distance in mm between the surface with all its creases and the one whose creases end at a level. Points with the same
 * number are compared, so it is never less than the distance of the surfaces.
 */
export function receiverError(mesh: PolygonMesh, settings: SurfaceSettings, level: number): number {
  const { plan } = settings;
  const levels = Math.max(level, plan?.steps.length ?? 0) + 1;
  const ended = { ...settings, plan: { steps: plan?.steps ?? [], creasesFrom: Math.min(level, plan?.creasesFrom ?? Infinity), creaseCap: 0 } };
  const [creased, plain] = [settings, ended].map((s) => new Subdivision(mesh, { ...s, levels, limit: true }).evaluate(mesh.positions));
  let most = 0;
  for (let i = 0; i < creased.length; i += 3)
    most = Math.max(most, Math.hypot(creased[i] - plain[i], creased[i + 1] - plain[i + 1], creased[i + 2] - plain[i + 2]));
  return most;
}

/** The mesh after the levels a plan begins with that only divide: what a format without plans can carry, creases and all. */
export function dividedCage(mesh: PolygonMesh, settings: SurfaceSettings): { mesh: PolygonMesh; levels: number; complete: boolean } {
  const steps = settings.plan?.steps ?? [];
  const first = steps.indexOf('smooth');
  const levels = first < 0 ? steps.length : first;
  const complete = !steps.slice(levels).includes('divide') && settings.plan?.creasesFrom === undefined;
  if (levels === 0) return { mesh, levels, complete };
  return { mesh: new Subdivision(mesh, { ...settings, levels }).toPolygons(mesh), levels, complete };
}
