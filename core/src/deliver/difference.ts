import { limitDistance } from '../check/limit-distance.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { type Triple } from '../numeric/vectors.ts';
import { Reference } from '../reference/reference.ts';
import { deepestLevel, type SurfaceSettings } from '../subdivide/level-plan.ts';
import { Subdivision } from '../subdivide/subdivision.ts';
import { type Received, type Sent } from './receive.ts';

/** Points that a smooth surface is measured at, at most. */
const MOST_POINTS = 250_000;

/** Points of a smooth surface itself, dense enough to measure by. */
export function pointsOf(mesh: PolygonMesh, settings: SurfaceSettings, most = MOST_POINTS): { points: Float64Array; surface: Subdivision } {
  const levels = Math.max(deepestLevel(mesh.faceVertices.length / 4, most, 5, 1), settings.plan?.steps.length ?? 0);
  const surface = new Subdivision(mesh, { ...settings, levels, limit: true });
  return { points: surface.evaluate(mesh.positions), surface };
}

/**
 * How far what arrived lies from the smooth surface that was sent, mm: both smooth surfaces at most, or ours from its faces as they are.
 * @returns nothing where nothing arrived
 */
export function differenceAt(ours: Sent, { mesh, settings, refused }: Received): number | undefined {
  if (refused || mesh.faceStart.length < 2) return undefined;
  if (settings) return limitDistance({ mesh: ours.mesh, settings: ours.settings }, { mesh, settings });
  const { points } = pointsOf(ours.mesh, ours.settings);
  const off = Reference.of(mesh).distances(points);
  return off.reduce((most, d) => Math.max(most, d), 0);
}

/**
 * How far the other surface lies from points of our smooth surface, mm, by point at some level; those of the cage come first.
 * @param theirs as it is smoothed there; without settings: faces as they are
 * @param most points
 */
export function offByPoint(
  ours: Sent,
  theirs: Pick<Received, 'mesh' | 'settings'>,
  most = MOST_POINTS / 8
): { points: Float64Array; off: Float64Array } {
  const { points } = pointsOf(ours.mesh, ours.settings, most);
  const { mesh, settings } = theirs;
  const surface = settings ? pointsOf(mesh, settings, MOST_POINTS / 2).surface.toPolygons(mesh) : mesh;
  if (points.length === 0 || surface.faceStart.length < 2) return { points, off: new Float64Array(0) };
  return { points, off: Float64Array.from(Reference.of(surface).distances(points), Math.abs) };
}

/** Where what arrived lies farthest off, and by how much, at points of our surface. */
export function worstPlace(ours: Sent, theirs: Received): { at: Triple; off: number } | undefined {
  const { points, off } = offByPoint(ours, theirs);
  if (off.length === 0) return undefined;
  let worst = 0;
  off.forEach((d, i) => (worst = d > off[worst] ? i : worst));
  return { at: [points[3 * worst], points[3 * worst + 1], points[3 * worst + 2]], off: off[worst] };
}
