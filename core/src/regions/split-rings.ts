import { waysAlong } from '../numeric/curve.ts';
import { length, subtract, type Triple } from '../numeric/vectors.ts';
import { type RegionSides } from './region-sides.ts';

/** Faces of a region by their corners, in order. */
export type RegionFaces = number[][];

/** A border loop that regions share, whichever way round each has it. */
const keyOf = (loop: readonly number[]): string => `${Math.min(...loop)} ${loop.length} ${loop.reduce((sum, v) => sum + v, 0)}`;

/**
 * Faces of regions that run round as rings, and of discs: borders without corners get as many as asked for, those across a ring opposite each other,
 * and the ring is cut from each to its counterpart.
 * @param cuts corners that a border without any gets
 * @returns faces by region; nothing for regions that stay no face
 */
export function facesWithCuts(regions: readonly RegionSides[], cuts: number, at: (v: number) => Triple): (RegionFaces | undefined)[] {
  const given = new Map<string, number[]>();
  const cornersOf = (side: RegionSides, i: number): number[] =>
    side.corners[i].length > 0 ? side.corners[i] : (given.get(keyOf(side.loops[i])) ?? []);
  const rings = regions.filter(({ loops }) => loops.length === 2);
  // borders that have corners hand them on across rings, until none is left that waits
  for (let changed = true; changed;) {
    changed = false;
    for (const ring of rings) changed = handOn(ring, cornersOf, given, at) || changed;
    if (changed) continue;
    const bare = regions.find((side) => side.loops.length <= 2 && side.loops.some((_, i) => cornersOf(side, i).length === 0));
    if (!bare) break;
    const loop = bare.loops.find((_, i) => cornersOf(bare, i).length === 0)!;
    given.set(keyOf(loop), evenlyOn(loop, cuts, at));
    changed = true;
  }
  return regions.map((side) => {
    if (side.loops.length === 1) {
      const corners = inOrderOf(side.loops[0], cornersOf(side, 0));
      // a disc is cut to its middle, however many corners its border was given
      const isDisc = side.corners[0].length === 0;
      return corners.length >= 3 && (isDisc || corners.length <= 6) ? [corners] : undefined;
    }
    if (side.loops.length !== 2) return undefined;
    const [a, b] = side.loops.map((loop, i) => inOrderOf(loop, cornersOf(side, i)));
    return a.length >= 3 && a.length === b.length ? ringFaces(a, b, at) : undefined;
  });
}

/** Gives the bare border of a ring the counterparts of the other's corners. @returns whether it did */
function handOn(
  ring: RegionSides,
  cornersOf: (side: RegionSides, i: number) => number[],
  given: Map<string, number[]>,
  at: (v: number) => Triple
): boolean {
  for (const [from, to] of [
    [0, 1],
    [1, 0]
  ]) {
    const corners = cornersOf(ring, from);
    if (corners.length === 0 || cornersOf(ring, to).length > 0) continue;
    const loop = ring.loops[to];
    const nearest = corners.map((v) => nearestOn(loop, v, at));
    const isApart = new Set(nearest).size === corners.length;
    given.set(keyOf(loop), isApart ? nearest : evenlyOn(loop, corners.length, at));
    return true;
  }
  return false;
}

const apart = (a: number, b: number, at: (v: number) => Triple): number => length(subtract(at(a), at(b)));
const nearestOn = (loop: readonly number[], v: number, at: (v: number) => Triple): number =>
  loop.reduce((best, w) => (apart(w, v, at) < apart(best, v, at) ? w : best));

/** Vertices of a loop at about equal ways along it. */
function evenlyOn(loop: readonly number[], many: number, at: (v: number) => Triple): number[] {
  const ways = waysAlong([...loop, loop[0]].map(at));
  const whole = ways[loop.length];
  return Array.from({ length: many }, (_, k) => {
    const goal = (k * whole) / many;
    let best = 0;
    for (let i = 1; i < loop.length; i++) if (Math.abs(ways[i] - goal) < Math.abs(ways[best] - goal)) best = i;
    return loop[best];
  });
}

const inOrderOf = (loop: readonly number[], corners: readonly number[]): number[] =>
  [...new Set(corners)].sort((a, b) => loop.indexOf(a) - loop.indexOf(b));

/** Quads between the two borders of a ring, which run against each other: each corner goes with the nearest in the sum. */
function ringFaces(a: readonly number[], b: readonly number[], at: (v: number) => Triple): RegionFaces {
  const many = a.length;
  const across = [...b].reverse();
  const shifts = [...Array(many).keys()].map((shift) => a.reduce((sum, v, i) => sum + apart(v, across[(i + shift) % many], at), 0));
  const shift = shifts.indexOf(Math.min(...shifts));
  return a.map((v, i) => [v, a[(i + 1) % many], across[(i + 1 + shift) % many], across[(i + shift) % many]]);
}
