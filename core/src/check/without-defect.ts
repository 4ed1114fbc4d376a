import { type Cage } from '../mesh/cage.ts';
import { mergeFaces, splitEdge, splitFace, splitFacesAlong } from '../mesh/euler-operators.ts';
import { NONE } from '../mesh/half-edges.ts';
import { ringThrough, turnBetween } from '../select/loops.ts';

/** Degrees below which a corner is none: the cut that ends there left it. */
export const STRAIGHT = 25;

/** How irregular a cage's inner vertices are: the sum of how far their valences are from 4; faces that are no quads count more. */
function unrest(cage: Cage, vertices: Iterable<number>): number {
  let sum = 0;
  const faces = new Set<number>();
  for (const v of vertices) {
    if (!cage.hasVertex(v)) continue;
    if (!cage.isBorderVertex(v)) sum += Math.abs(cage.valence(v) - 4);
    for (const h of cage.spokes(v)) if (cage.face[h] !== NONE) faces.add(cage.face[h]);
  }
  for (const f of faces) sum += 4 * Math.abs(cage.faceSize(f) - 4);
  return sum;
}

/** The half-edge of a face that begins at a vertex where a cut ends: three edges meet there, and the face runs straight on. */
export function cutEndAt(cage: Cage, f: number): number | undefined {
  return cage.loopOf(cage.faceEdge[f]).find((h) => {
    const v = cage.origin[h];
    return !cage.isBorderVertex(v) && cage.valence(v) === 3 && turnBetween(cage, cage.previous(h), h) < STRAIGHT;
  });
}

/** Runs a cut on from where it ends in a face, straight through quads, to a border or a face that is no quad. @returns whether it could */
export function runCutOut(cage: Cage, f: number): boolean {
  const end = cutEndAt(cage, f);
  if (end === undefined || cage.faceSize(f) !== 5) return false;
  // of five corners the side across from the cut's end is the one behind the next
  const across = cage.next[cage.next[end]];
  const run = ringThrough(cage, across ^ 1);
  const from = run.halves.findIndex((h) => h >> 1 === across >> 1);
  const ahead = run.halves.slice(from);
  const behind = run.halves.slice(0, from + 1).reverse();
  // the side of the ring that leads away from the face
  const halves = cage.face[ahead[0]] === f ? behind : ahead;
  if (run.closed || run.crossedTwice.length > 0) return false;
  return splitFacesAlong(cage, [cage.origin[end], ...halves.map((h) => splitEdge(cage, h >> 1, 0.5))]);
}

/**
 * What a cage would be without a face that is no quad: a triangle is merged with the face beside it, an n-gon is split in two, a cut that ends in it
 * runs on; of several ways that with the fewest poles and others than quads. Vertices keep their ids.
 * @returns a copy; nothing where none of these mends it
 */
export function withoutDefect(cage: Cage, f: number): Cage | undefined {
  const near = new Set(cage.faceVertices(f).flatMap((v) => [v, ...cage.spokes(v).map((h) => cage.target(h))]));
  const tries: Cage[] = [];
  const attempt = (change: (copy: Cage) => boolean) => {
    const copy = cage.clone();
    if (change(copy)) tries.push(copy);
  };
  const loop = cage.loopOf(cage.faceEdge[f]);
  attempt((copy) => runCutOut(copy, f));
  if (loop.length === 3)
    for (const h of loop) {
      const beside = cage.face[h ^ 1];
      if (beside !== NONE && cage.faceSize(beside) === 3) attempt((copy) => mergeFaces(copy, [f, beside]) !== NONE);
    }
  if (loop.length === 6)
    for (let i = 0; i < 3; i++)
      if (cage.findHalfEdge(cage.origin[loop[i]], cage.origin[loop[i + 3]]) === NONE) attempt((copy) => splitFace(copy, loop[i], loop[i + 3]) >= 0);
  const now = unrest(cage, near);
  const rated = tries.map((copy) => ({ copy, left: unrest(copy, near) })).filter(({ left }) => left < now);
  return rated.length > 0 ? rated.reduce((a, b) => (b.left < a.left ? b : a)).copy : undefined;
}
