import { type Cage } from '../mesh/cage.ts';
import { touchedVertices } from '../mesh/difference.ts';
import { facesRound } from '../mesh/topology.ts';
import { dot, scaled, subtract, type Triple } from '../numeric/vectors.ts';
import { deepestLevel, type SurfaceSettings } from '../subdivide/level-plan.ts';
import { applyRows } from '../subdivide/weight-rows.ts';
import { shortestMoves, type Wish } from './least-squares.ts';
import { limitPatch, type LimitPatch } from './limit-patch.ts';
import { LimitTarget, type TargetPoint } from './limit-target.ts';

export interface KeptSurface {
  cage: Cage;
  /** the largest distance, in mm, of the new limit surface from the earlier one: before the refit and after */
  before: number;
  after: number;
}

/** Vertices that may move beyond which nothing is refitted: it would not be there at once. */
export const MOST_REFITTED = 1500;
/** Faces of the earlier surface's patch beyond which it is not subdivided further. */
const MOST_FINE = 6_000;
const PASSES = 6;

/**
 * Refits a cage after a change of topology so that its limit surface stays where it was: vertices at the change and one ring
 * round them move, as little as can be.
 * @param made faces of the new cage where there was no surface before
 * @returns nothing where more than MOST_REFITTED vertices would move, or none changed
 */
export function keepSurface(before: Cage, after: Cage, settings: SurfaceSettings, made: ReadonlySet<number> = new Set()): KeptSurface | undefined {
  const touched = touchedVertices(before, after);
  const near = facesRound(after, touched.now, 1);
  const free = [...new Set(near.flatMap((f) => after.faceVertices(f)))];
  if (free.length === 0 || free.length > MOST_REFITTED) return undefined;
  const old = facesRound(before, touched.before, 6);
  const levels = deepestLevel(old.length, MOST_FINE, 4, 2);
  const target = new LimitTarget(limitPatch(before, old, settings, levels));
  const seen = new Set(facesRound(after, free, 2).filter((f) => !made.has(f)));
  const patch = limitPatch(after, facesRound(after, free, 4), settings, 1);
  return refitted(after, patch, samplesOf(patch, seen), free, target);
}

interface Samples {
  rows: number[];
  /** those that lie on a border or a crease */
  onLine: Set<number>;
}

function samplesOf(patch: LimitPatch, seen: Set<number>): Samples {
  const { faceStart, faceVertices, edgeVertices } = patch.surface.last;
  const rows = new Set<number>();
  patch.faceOf.forEach((f, i) => {
    if (seen.has(f)) for (let c = faceStart[i]; c < faceStart[i + 1]; c++) rows.add(faceVertices[c]);
  });
  return { rows: [...rows], onLine: new Set(patch.lines.flatMap((e) => [edgeVertices[2 * e], edgeVertices[2 * e + 1]])) };
}

function refitted(after: Cage, patch: LimitPatch, samples: Samples, free: number[], target: LimitTarget): KeptSurface {
  const unknownOf = new Int32Array(patch.vertices.length).fill(-1);
  const isFree = new Map(free.map((v, i) => [v, i]));
  patch.vertices.forEach((v, i) => (unknownOf[i] = isFree.get(v) ?? -1));
  const start = new Float64Array(3 * patch.vertices.length);
  patch.vertices.forEach((v, i) => start.set(after.position(v), 3 * i));
  const positions = start.slice();
  const places = patch.places.slice();
  const moved = new Float64Array(3 * free.length);
  const state = { wishes: wishesFor(places, samples, target), moved: moved.slice() };
  const first = worst(state.wishes);
  let least = first;
  for (let pass = 0; pass < PASSES; pass++) {
    const step = shortestMoves(patch.rows, state.wishes, unknownOf, free.length, 1e-7, moved);
    for (let k = 0; k < step.length; k++) moved[k] += step[k];
    unknownOf.forEach((u, i) => {
      if (u >= 0) for (let k = 0; k < 3; k++) positions[3 * i + k] = start[3 * i + k] + moved[3 * u + k];
    });
    applyRows(patch.rows, positions, places);
    state.wishes = wishesFor(places, samples, target);
    const now = worst(state.wishes);
    if (!(now < least)) break;
    const gain = now / least;
    least = now;
    state.moved.set(moved);
    if (gain > 0.8) break;
  }
  const cage = after.clone();
  free.forEach((v, u) => {
    for (let k = 0; k < 3; k++) cage.positions[3 * v + k] += state.moved[3 * u + k];
  });
  return { cage, before: first, after: least };
}

function wishesFor(places: Float64Array, samples: Samples, target: LimitTarget): Wish[] {
  return samples.rows.map((row) => {
    const at: Triple = [places[3 * row], places[3 * row + 1], places[3 * row + 2]];
    const line = samples.onLine.has(row) ? target.onLine(at) : undefined;
    const { point, direction }: TargetPoint = line ?? target.onSurface(at);
    const by = subtract(point, at);
    return line ? { row, by, along: direction } : { row, by, across: direction };
  });
}

/** The largest distance that counts. */
function worst(wishes: Wish[]): number {
  return wishes.reduce((most, { by, across, along }) => {
    const off = across ? Math.abs(dot(by, across)) : Math.hypot(...subtract(by, scaled(along!, dot(by, along!))));
    return Math.max(most, off);
  }, 0);
}
