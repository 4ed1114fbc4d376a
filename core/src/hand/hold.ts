import { type Cage } from '../mesh/cage.ts';
import { vertexNormal } from '../mesh/normals.ts';
import { NONE } from '../mesh/half-edges.ts';
import { linesOfCage } from '../even/held-lines.ts';
import { freedomOf } from '../even/mask.ts';
import { EvenPasses } from '../even/passes.ts';
import { netOf } from '../even/vertex-net.ts';
import { type Triple } from '../numeric/vectors.ts';
import { fitToReference } from '../refit/limit-fitted.ts';
import { type Reference } from '../reference/reference.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { Subdivision } from '../subdivide/subdivision.ts';
import { keptVertices } from './kept.ts';
import { SurfaceWalk } from './surface-walk.ts';

/** Where vertices look for the reference: at its nearest place that looks their way, along their normals, or along the view. */
export const holdWays = ['nearest', 'normal', 'view'] as const;

/** How a cage is held to a reference. */
export interface HoldSettings {
  way: (typeof holdWays)[number];
  /** vertices lie on it, or the smooth surface does */
  fit: 'vertices' | 'surface';
  passes: number;
  /** mm over the reference; below 0 under it */
  offset: number;
  /** vertices even out along the surface between passes */
  even: boolean;
  /** those that are held */
  vertices: readonly number[];
  /** unit vector towards the eye, for what is held along the view */
  towardsEye?: Triple;
}

/** What holding came to, mm. */
export interface HoldReport {
  /** distances of what is fitted from where it is to lie: vertices, or points of the smooth surface */
  distance: { mean: number; max: number };
  /** of the vertices before it */
  before: { mean: number; max: number };
  passes: number;
  /** vertices that found nothing of the reference that looks their way; they stay */
  lost: number[];
  /** vertices of kept edges, which stayed, and how far the reference lies from them at most, mm */
  kept: { vertices: number; max: number };
  /** faces whose middle lies far off: they bridge a gap, or the reference is finer than they are */
  flagged: number[];
}

/** Distance of a face's middle, in its mean edge, from which on it bridges a gap. */
const BRIDGES = 0.3;
/** Passes over vertices before the smooth surface is fitted. */
const FIRST = 4;

/**
 * Holds a cage to a reference in passes: vertices go to it, even out along it, and go to it again; then, if asked, the cage is fitted so that its smooth
 * surface lies on it.
 * @returns a copy, and what it came to
 */
export function holdTo(cage: Cage, reference: Reference, surface: SurfaceSettings, settings: HoldSettings): { cage: Cage; report: HoldReport } {
  const { fit, passes, offset, even, vertices } = settings;
  const copy = cage.clone();
  const net = netOf(cage);
  const freedom = freedomOf(cage) ?? (() => 1);
  const stays = keptVertices(cage);
  const moving = Int32Array.from(vertices).filter((v) => freedom(v) > 0 && !stays.has(v));
  const work = new EvenPasses(
    { net, lines: linesOfCage(cage, { borders: false, creases: false, regions: true }), positions: copy.positions },
    { vertices: moving, weights: Float64Array.from(moving, freedom) }
  );
  const lost = new Set<number>();
  let goals = goalsOf(copy, moving, reference, settings, lost);
  const before = distancesOf(goals, copy, moving);
  let now = before;
  let done = 0;
  // the fit of the smooth surface has passes of its own
  const rounds = fit === 'surface' ? Math.min(FIRST, passes) : passes;
  while (done < rounds) {
    if (even && done > 0) {
      work.relax(0.5, false);
      goals = goalsOf(copy, moving, reference, settings, lost);
    }
    goals.forEach((goal, i) => {
      if (!goal) return;
      const [v, free] = [moving[i], freedom(moving[i])];
      for (let k = 0; k < 3; k++) copy.positions[3 * v + k] += free * (goal[k] - copy.positions[3 * v + k]);
    });
    done++;
    now = distancesOf(goals, copy, moving);
    // without evening out nothing moves again
    if (!even) break;
  }
  const kept = vertices.filter((v) => stays.has(v));
  const offs = reference.bvh.distances(Float64Array.from(kept.flatMap((v) => cage.position(v))));
  const report = {
    distance: now,
    before,
    passes: done,
    lost: [...lost],
    kept: { vertices: kept.length, max: offs.reduce((a, b) => Math.max(a, b), 0) }
  };
  if (fit === 'vertices') return { cage: copy, report: { ...report, flagged: bridging(copy, moving, reference, offset) } };
  const fitted = fitToReference(copy, reference.mesh, [...moving], surface, passes, offset).cage;
  // where the reference is finer than the faces the fit would turn some over: there vertices stay where they lay
  work.guarded(() => copy.positions.set(fitted.positions));
  return {
    cage: copy,
    report: { ...report, passes, distance: limitDistances(copy, reference, surface, offset), flagged: bridging(copy, moving, reference, offset) }
  };
}

/** Distances of the smooth surface from where it is to lie, at points of its first level. */
function limitDistances(cage: Cage, reference: Reference, settings: SurfaceSettings, offset: number): { mean: number; max: number } {
  const mesh = cage.toPolygons();
  const points = new Subdivision(mesh, { ...settings, levels: Math.max(1, settings.plan?.steps.length ?? 0), limit: true }).evaluate(mesh.positions);
  const off = reference.signedDistances(points).map((d) => Math.abs(d - offset));
  let [sum, max] = [0, 0];
  for (const d of off) [sum, max] = [sum + d, Math.max(max, d)];
  return { mean: sum / (off.length || 1), max };
}

/** Where vertices are to lie; nothing for those that find nothing. @param lost gets these */
function goalsOf(
  cage: Cage,
  vertices: Int32Array,
  reference: Reference,
  { way, offset, towardsEye }: HoldSettings,
  lost: Set<number>
): (Triple | undefined)[] {
  const walk = SurfaceWalk.over(reference);
  return Array.from(vertices, (v) => {
    const p = cage.position(v);
    const normal = cage.vertexEdge[v] === NONE ? undefined : vertexNormal(cage, v);
    const along = way === 'normal' ? normal : way === 'view' ? towardsEye : undefined;
    const anchor = (along && alongLine(reference, p, along)) || walk.nearest(p, normal);
    if (!anchor) return void lost.add(v);
    const n = walk.normalAt(anchor);
    return [anchor.at[0] + offset * n[0], anchor.at[1] + offset * n[1], anchor.at[2] + offset * n[2]];
  });
}

/** Where the reference lies along a direction, either way, the nearer place that looks that way. */
function alongLine({ bvh, normals }: Reference, p: Triple, normal: Triple): { triangle: number; at: Triple } | undefined {
  const accepts = (t: number) => normals[3 * t] * normal[0] + normals[3 * t + 1] * normal[1] + normals[3 * t + 2] * normal[2] > 0;
  const hits = [1, -1].flatMap((side) => {
    const hit = bvh.raycast(p, [side * normal[0], side * normal[1], side * normal[2]], accepts);
    return hit ? [{ triangle: hit.triangle, along: side * hit.distance }] : [];
  });
  if (hits.length === 0) return undefined;
  const { triangle, along } = hits.reduce((a, b) => (Math.abs(b.along) < Math.abs(a.along) ? b : a));
  return { triangle, at: [p[0] + along * normal[0], p[1] + along * normal[1], p[2] + along * normal[2]] };
}

function distancesOf(goals: readonly (Triple | undefined)[], cage: Cage, vertices: Int32Array): { mean: number; max: number } {
  let [sum, max, many] = [0, 0, 0];
  goals.forEach((goal, i) => {
    if (!goal) return;
    const off = Math.hypot(...cage.position(vertices[i]).map((x, k) => x - goal[k]));
    sum += off;
    max = Math.max(max, off);
    many++;
  });
  return { mean: many > 0 ? sum / many : 0, max };
}

/** Faces at some vertices whose middle lies far from the reference. */
function bridging(cage: Cage, vertices: Int32Array, { bvh }: Reference, offset: number): number[] {
  const faces = new Set<number>();
  for (const v of vertices) if (cage.vertexEdge[v] !== NONE) for (const h of cage.spokes(v)) if (cage.face[h] !== NONE) faces.add(cage.face[h]);
  const all = [...faces];
  const edges = new Float64Array(all.length);
  const middles = new Float64Array(3 * all.length);
  all.forEach((f, i) => {
    const loop = cage.loopOf(cage.faceEdge[f]);
    edges[i] = loop.reduce((sum, h) => sum + cage.edgeLength(h >> 1), 0) / loop.length;
    for (const h of loop) cage.position(cage.origin[h]).forEach((x, k) => (middles[3 * i + k] += x / loop.length));
  });
  const off = bvh.distances(middles);
  return all.filter((_, i) => Math.abs(off[i] - Math.abs(offset)) > BRIDGES * edges[i]);
}
