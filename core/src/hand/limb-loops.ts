import { evenlyAlong, waysAlong } from '../numeric/curve.ts';
import { add, cross, dot, mean, subtract, type Triple, unit } from '../numeric/vectors.ts';
import { type Act } from './acts.ts';
import { turnedOutward } from './intents.ts';
import { type Anchor, type SurfaceWalk } from './surface-walk.ts';

/** Directions that are tried for the axis of a limb, and how often the best one is looked for between its neighbours. */
const [TRIED, FINER] = [12, 4];
/** Rounds in which loops that cross are turned towards each other, and how many times as long they may become by that. */
const [TURNED, LONGER] = [4, 1.3];

/** A closed line round a limb. */
export interface LimbLoop {
  /** places on the reference, in order round the axis */
  line: Triple[];
  /** unit vector along the limb */
  axis: Triple;
  /** mm */
  length: number;
}

/** The line that a plane across an axis cuts out at a place; nothing where it does not close. */
function loopAcross(walk: SurfaceWalk, at: Anchor, axis: Triple): LimbLoop | undefined {
  const line = walk.section(at, axis);
  return line && { line, axis, length: waysAlong([...line, line[0]]).at(-1)! };
}

/**
 * A loop round a limb through each of some places along it. Where the shortest ones of two neighbours would cross, at the inside of a bend, both turn
 * towards each other until they do not.
 * @returns nothing for a place where no line closes; loops that still cross are told by `crossingLoops`
 */
export function loopsAlong(walk: SurfaceWalk, places: readonly (Anchor | undefined)[]): (LimbLoop | undefined)[] {
  const shortest = places.map((at) => at && limbLoopAt(walk, at));
  const loops = [...shortest];
  for (let round = 0; round < TURNED; round++) {
    const crossing = crossingLoops(loops);
    if (crossing.length === 0) break;
    for (const i of crossing) {
      const [a, b] = [loops[i]!, loops[i + 1]!];
      const axis = unit(dot(a.axis, b.axis) < 0 ? subtract(a.axis, b.axis) : add(a.axis, b.axis));
      for (const k of [i, i + 1]) {
        const turned = loopAcross(walk, places[k]!, axis);
        if (turned && turned.length < LONGER * shortest[k]!.length) loops[k] = turned;
      }
    }
  }
  return loops;
}

/** Numbers of the loops that cross the one after them: its places lie on both sides of their plane. */
export function crossingLoops(loops: readonly (LimbLoop | undefined)[]): number[] {
  const cuts = (a: LimbLoop, b: LimbLoop) => {
    const sides = b.line.map((p) => dot(subtract(p, a.line[0]), a.axis));
    return Math.min(...sides) < 0 && Math.max(...sides) > 0;
  };
  return loops.flatMap((loop, i) => {
    const next = loops[i + 1];
    return loop && next && cuts(loop, next) && cuts(next, loop) ? [i] : [];
  });
}

/** The shortest closed line round a limb through a place of it, across the limb. @returns nothing where no plane there cuts out a closed line */
export function limbLoopAt(walk: SurfaceWalk, at: Anchor): LimbLoop | undefined {
  const normal = walk.normalAt(at);
  const side = unit(cross(normal, Math.abs(normal[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0]));
  const other = cross(normal, side);
  const across = (angle: number): LimbLoop | undefined =>
    loopAcross(walk, at, [0, 1, 2].map((k) => Math.cos(angle) * side[k] + Math.sin(angle) * other[k]) as Triple);
  const shorter = (a: [number, LimbLoop | undefined], b: [number, LimbLoop | undefined]) =>
    (b[1]?.length ?? Infinity) < (a[1]?.length ?? Infinity) ? b : a;
  let step = Math.PI / TRIED;
  let best = Array.from({ length: TRIED }, (_, i): [number, LimbLoop | undefined] => [i * step, across(i * step)]).reduce(shorter);
  for (let time = 0; time < FINER; time++) {
    step /= 2;
    best = [best[0] - step, best[0] + step].map((angle): [number, LimbLoop | undefined] => [angle, across(angle)]).reduce(shorter, best);
  }
  return best[1];
}

/**
 * A tube of quads through loops round a limb: each has as many vertices, begins where the way from the one before is shortest all round, and runs the
 * same way round, so that nothing is twisted.
 * @param loops two or more, in order along the limb
 * @returns places lie on the reference; faces look the way it does
 */
export function tubeThrough(walk: SurfaceWalk, loops: readonly LimbLoop[], count: number): Extract<Act, { do: 'faces' }> {
  const rings = loops.map(({ line }) => evenlyAlong(line, count, true));
  let axis = subtract(mean(rings[1]), mean(rings[0]));
  for (let i = 0; i < rings.length; i++) {
    if (i > 0) axis = subtract(mean(rings[i]), mean(rings[i - 1]));
    if (turnsAgainst(rings[i], axis)) rings[i].reverse();
    if (i > 0) rings[i] = untwisted(rings[i - 1], rings[i]);
  }
  const places = rings.flat().map((p): Triple => walk.nearest(p)!.at);
  const faces = rings.slice(1).flatMap((_, i) =>
    Array.from({ length: count }, (__, k) => {
      const [a, b] = [i * count + k, i * count + ((k + 1) % count)];
      return [a, b, b + count, a + count];
    })
  );
  // all look the way one does
  const isTurned = turnedOutward(walk, places, faces[0])[0] !== faces[0][0];
  return { do: 'faces', places, faces: isTurned ? faces.map((corners) => [...corners].reverse()) : faces };
}

/** Whether a ring runs the other way round an axis. */
function turnsAgainst(ring: readonly Triple[], axis: Triple): boolean {
  const middle = mean(ring);
  let around = 0;
  ring.forEach((p, i) => (around += dot(cross(subtract(p, middle), subtract(ring[(i + 1) % ring.length], middle)), axis)));
  return around < 0;
}

/** A ring that begins where the ways from another one are shortest in the sum of their squares. */
export function untwisted(from: readonly Triple[], ring: Triple[]): Triple[] {
  const many = ring.length;
  let [best, least] = [0, Infinity];
  for (let shift = 0; shift < many; shift++) {
    let sum = 0;
    for (let i = 0; i < many; i++) for (let k = 0; k < 3; k++) sum += (ring[(i + shift) % many][k] - from[i][k]) ** 2;
    if (sum < least) [best, least] = [shift, sum];
  }
  return ring.map((_, i) => ring[(i + best) % many]);
}
