import { type Cage } from '../mesh/cage.ts';
import { sameTopology } from '../mesh/topology.ts';
import { bestFitCircle, bestFitPlane, fromPlane, inPlane, Spread } from '../numeric/best-fit.ts';
import { add, dot, mean, scaled, subtract, type Triple } from '../numeric/vectors.ts';
import { freedomOf } from './mask.ts';

/** How vertices are locked: where they are, on a plane, on a line, or on a circle. */
export const lockKinds = ['still', 'flat', 'straight', 'round'] as const;
export type LockKind = (typeof lockKinds)[number];

/** Vertices that a plane, a line and a circle leave free, and one more: with fewer there is nothing to lock. */
export const leastLocked: Record<LockKind, number> = { still: 1, flat: 4, straight: 3, round: 4 };

/** Vertices that keep what they have in common while others move. */
export interface Lock {
  /** the value of the layer `lock` at its vertices */
  id: number;
  kind: LockKind;
  vertices: number[];
}

const kindOf = (id: number): LockKind => lockKinds[id % lockKinds.length];

/** All locks of a cage, the oldest first. */
export function locksOf(cage: Cage): Lock[] {
  if (!cage.layers.has('lock')) return [];
  const locks = new Map<number, number[]>();
  for (const v of cage.vertices()) {
    const id = cage.value('lock', v);
    if (id <= 0) continue;
    const known = locks.get(id);
    if (known) known.push(v);
    else locks.set(id, [v]);
  }
  return [...locks].sort(([a], [b]) => a - b).map(([id, vertices]) => ({ id, kind: kindOf(id), vertices }));
}

/** A copy of a cage with some vertices locked, of which those that were locked before change to the new lock. */
function withLock(cage: Cage, vertices: Iterable<number>, kind: LockKind): Cage {
  const copy = cage.clone();
  const last = locksOf(cage).at(-1)?.id ?? 0;
  // numbers begin at 1 times the kinds: 0 is no lock
  const id = (Math.floor(last / lockKinds.length) + 1) * lockKinds.length + lockKinds.indexOf(kind);
  for (const v of vertices) copy.setValue('lock', v, id);
  return copy;
}

/** A copy of a cage with some vertices in no lock. */
export function withoutLocks(cage: Cage, vertices: Iterable<number>): Cage {
  const copy = cage.clone();
  for (const v of vertices) copy.setValue('lock', v, 0);
  return copy;
}

/**
 * Brings locked vertices of a cage that was moved back to where their locks let them lie. A lock of which only some have moved stays on the
 * plane, line or circle it was on; one that has moved as a whole goes along. Where vertices have come or gone nothing is held: then places
 * are not moved, but made.
 * @param now changed
 * @returns vertices that were put elsewhere
 */
export function heedLocks(before: Cage, now: Cage): number[] {
  if (!before.layers.has('lock') || !sameTopology(before, now)) return [];
  const freedom = freedomOf(before);
  return locksOf(before).flatMap((lock) => {
    const at = lock.vertices.map((v) => now.position(v));
    const was = lock.vertices.map((v) => before.position(v));
    const stays = lock.vertices.map((_, i) => at[i].every((x, k) => x === was[i][k]));
    if (stays.every(Boolean)) return [];
    const goals = goalsOf(lock.kind, at, was, stays.some(Boolean));
    return lock.vertices.filter((v, i) => {
      // what is masked wholly moves for no lock
      if (freedom && freedom(v) <= 0) return false;
      now.positions.set(goals[i], 3 * v);
      return true;
    });
  });
}

/** Places that a lock allows, nearest to where its vertices are. @param was where they lay @param anchored whether some of them lie there still */
function goalsOf(kind: LockKind, at: readonly Triple[], was: readonly Triple[], anchored: boolean): readonly Triple[] {
  if (kind === 'still') return was;
  const shape = anchored ? was : at;
  if (at.length < leastLocked[kind]) return at;
  if (kind === 'straight') return ontoLine(at, shape);
  const plane = bestFitPlane(shape);
  const flat = at.map((p): Triple => {
    const [x, y] = inPlane(plane, p);
    return [x, y, 0];
  });
  const circle = kind === 'round' ? bestFitCircle(shape.map((p) => inPlane(plane, p))) : undefined;
  if (!circle) return flat.map((p) => fromPlane(plane, p));
  return flat.map(([x, y]) => {
    const far = Math.hypot(x - circle.x, y - circle.y);
    const share = far > 0 ? circle.radius / far : 0;
    return fromPlane(plane, [circle.x + share * (x - circle.x), circle.y + share * (y - circle.y), 0]);
  });
}

/** Places on the line that lies nearest to some points. */
function ontoLine(at: readonly Triple[], shape: readonly Triple[]): Triple[] {
  const middle = mean(shape);
  const spread = new Spread(middle);
  for (const p of shape) spread.add(p, 1);
  const along = spread.axes()[2];
  return at.map((p) => add(middle, scaled(along, dot(subtract(p, middle), along))));
}

/** A copy of a cage with the vertices of a new lock brought to where it holds them. @returns the copy, and how far that put them at most, mm */
export function locked(cage: Cage, vertices: readonly number[], kind: LockKind): { cage: Cage; off: number } {
  const copy = withLock(cage, vertices, kind);
  const at = vertices.map((v) => cage.position(v));
  let off = 0;
  goalsOf(kind, at, at, true).forEach((p, i) => {
    copy.positions.set(p, 3 * vertices[i]);
    off = Math.max(off, Math.hypot(...subtract(p, at[i])));
  });
  return { cage: copy, off };
}
