import { boundsOf, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { type Triple } from '../numeric/vectors.ts';
import { LimitTarget } from '../refit/limit-target.ts';
import { deepestLevel, type SurfaceSettings } from '../subdivide/level-plan.ts';
import { Subdivision } from '../subdivide/subdivision.ts';

/** A cage, or a part of one, and how it is subdivided; triangles only where that is by Loop's scheme. */
export interface LimitSurface {
  mesh: PolygonMesh;
  settings: SurfaceSettings;
}

/** Faces of a subdivided surface at most: the finer, the nearer the measured distance. */
const MOST_FINE = 24_000;
/** Levels at most, and at least, that points of the limit surface are taken at. */
const [MOST_LEVELS, FEWEST_LEVELS] = [4, 2];
/** How many of the farthest points are looked round about, each in so many steps along the sides of its triangles. */
const [LOOKED_ROUND, STEPS] = [12, 6];
/** What is less than this share of the whole extent is rounding. */
const ROUNDING = 1e-7;

/**
 * The greatest distance in mm between two limit surfaces: of points of each, some levels deep, from the other one, which is taken
 * as curved between its own points. Where the surfaces are the same it is 0, whatever their cages are.
 * @returns nothing where one of them has no faces
 */
export function limitDistance(a: LimitSurface, b: LimitSurface, mostFine = MOST_FINE): number | undefined {
  const surfaces = [a, b].map((s) => pointsOf(s, mostFine));
  if (surfaces.some(({ corners }) => corners === 0)) return undefined;
  const [first, second] = surfaces.map(({ target }) => target);
  const most = Math.max(farthest(surfaces[0].places, first, second), farthest(surfaces[1].places, second, first));
  return most > ROUNDING * boundsOf(a.mesh.positions).diagonal ? most : 0;
}

function pointsOf({ mesh, settings }: LimitSurface, mostFine: number) {
  const levels = Math.max(deepestLevel(mesh.faceVertices.length / 4, mostFine, MOST_LEVELS, FEWEST_LEVELS), settings.plan?.steps.length ?? 0);
  const surface = new Subdivision(mesh, { ...settings, levels, limit: true });
  const places = surface.evaluate(mesh.positions);
  return { places, corners: surface.last.faceVertices.length, target: new LimitTarget({ surface, places, lines: [] }) };
}

/**
 * The greatest distance of a surface, of which some points are given, from another one. Points whose flat distance and the other's
 * bulge there allow for more come first; round the farthest the surface between them is looked at too.
 */
function farthest(points: Float64Array, own: LimitTarget, other: LimitTarget): number {
  const off = (p: Triple) => {
    const { point } = other.onSurface(p);
    return Math.hypot(point[0] - p[0], point[1] - p[1], point[2] - p[2]);
  };
  const { distance, bulge } = other.flatDistances(points);
  const allowed = distance.map((d, i) => (d < 1e-12 ? 0 : d + bulge[i]));
  const order = Uint32Array.from(allowed.keys())
    .filter((i) => allowed[i] > 0)
    .sort((i, j) => allowed[j] - allowed[i]);
  const far: { i: number; d: number }[] = [];
  let most = 0;
  for (const i of order) {
    if (allowed[i] <= most) break;
    const d = off([points[3 * i], points[3 * i + 1], points[3 * i + 2]]);
    most = Math.max(most, d);
    far.push({ i, d });
  }
  const farthestFew = far.sort((a, b) => b.d - a.d).slice(0, LOOKED_ROUND);
  for (const p of own.pointsRound(new Set(farthestFew.map(({ i }) => i)), STEPS)) most = Math.max(most, off(p));
  return most;
}
