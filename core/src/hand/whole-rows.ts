import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { between, closestOnSegment, dot, length, subtract, type Triple, unit } from '../numeric/vectors.ts';
import { takenOnce } from '../numeric/taken-once.ts';
import { loopThrough, ringThrough } from '../select/loops.ts';
import { type Act, type Place, there } from './acts.ts';
import { CORNER, openAngle, openRow } from './intents.ts';
import { directionAt, partsOf, pulledRow, spreadRow } from './rows.ts';
import { type SurfaceWalk } from './surface-walk.ts';

/** How rows go when they are dragged: each vertex out of the row as far as the one in hand, or all the same way. */
export const rowWays = ['outwards', 'same way'] as const;
export type RowWay = (typeof rowWays)[number];

/** Quads that one key fills at most. */
const MOST_FILLED = 500;

/** A row of vertices of what is laid. */
export interface Row {
  vertices: number[];
  closed: boolean;
}

/** The row through a vertex that a step goes across the most, along a border up to its corners; closed ones before open ones where it goes across both about as much. */
export function rowAcross(cage: Cage, vertex: number, step: Triple): Row | undefined {
  const across = (h: number) => 1 - Math.abs(dot(unit(subtract(cage.position(cage.target(h)), cage.position(vertex))), unit(step)));
  const rated = cage.spokes(vertex).map((h) => {
    const run = cage.isBorderEdge(h >> 1) ? openRow(cage, h, true) : loopThrough(cage, h);
    return { run, rate: across(h) + (run.closed ? 0.25 : 0) };
  });
  if (rated.length === 0) return undefined;
  const { run } = rated.reduce((a, b) => (b.rate > a.rate ? b : a));
  const vertices = run.halves.map((h) => cage.origin[h]);
  if (!run.closed) vertices.push(cage.target(run.halves.at(-1)!));
  // a row that passes a vertex twice is moved once there
  return { vertices: [...new Set(vertices)], closed: run.closed };
}

/** What dragging a whole row by one of its vertices does: every vertex goes on its own side of the reference. */
export function slidRow(
  cage: Cage,
  walk: SurfaceWalk,
  { vertices, closed }: Row,
  vertex: number,
  pointer: Triple,
  way: RowWay
): Extract<Act, { do: 'move' }> {
  const anchors = vertices.map((v) => walk.nearest(cage.position(v))!);
  const own = vertices.indexOf(vertex);
  const step = subtract(pointer, cage.position(vertex));
  const moved =
    way === 'same way'
      ? pulledRow(walk, anchors, closed, own, step)
      : spreadRow(walk, anchors, closed, partsOf(step, walk.normalAt(anchors[own]), directionAt(anchors, closed, own)));
  return { do: 'move', from: vertices.map((v) => there(cage.position(v))), to: moved.map(({ at }) => at) };
}

/** What of a dragged row meets border vertices that are not of it, within a distance: each welds onto the nearest, which is taken once. */
export function joinedBy(cage: Cage, act: Extract<Act, { do: 'move' }>, weld: number): Act | undefined {
  const own = new Set(act.from.map((p) => `${p[0]} ${p[1]} ${p[2]}`));
  const others = [...cage.vertices()].filter((v) => {
    const isOpen = cage.vertexEdge[v] === NONE || cage.isBorderVertex(v);
    return isOpen && !own.has(cage.position(v).join(' '));
  });
  const pairs = act.to.flatMap((p, from) => others.map((to) => ({ from, to, by: length(subtract(cage.position(to), p)) })));
  const met = takenOnce(pairs.filter(({ by }) => by <= weld));
  if (met.length === 0) return undefined;
  return {
    do: 'weld',
    from: met.map(({ from }) => there(act.to[from] as unknown as Triple)),
    onto: met.map(({ to }) => there(cage.position(to)))
  };
}

/**
 * Quads from a border edge on between the two rows at its ends, as long as both go on beside each other.
 * @param half border half-edge without a face
 * @returns faces of vertices that are there; nothing where there are no two rows
 */
export function filledAlong(cage: Cage, walk: SurfaceWalk, half: number): Extract<Act, { do: 'faces' }> | undefined {
  const vertices: number[] = [];
  const faces: number[][] = [];
  const numberOf = (v: number) => (vertices.includes(v) ? vertices.indexOf(v) : vertices.push(v) - 1);
  let [left, right] = [cage.previous(half), cage.next[half]];
  const isCorner = (before: number, after: number) => {
    const normal = walk.normalAt(walk.nearest(cage.position(cage.target(before)))!);
    return openAngle(cage, before, after, normal) < CORNER;
  };
  if (cage.face[half] !== NONE || !isCorner(left, half) || !isCorner(half, right)) return undefined;
  let [a, b] = [cage.origin[half], cage.target(half)];
  while (faces.length < MOST_FILLED) {
    const [d, c] = [cage.origin[left], cage.target(right)];
    // the rows meet in a vertex: a triangle closes the gap, where they run into each other
    if (left === right || c === a || d === b) break;
    faces.push((c === d ? [a, b, c] : [a, b, c, d]).map(numberOf));
    if (c === d) break;
    // both were one edge apart: the quad filled the gap
    if (cage.next[right] === cage.previous(left)) break;
    const [nextLeft, nextRight] = [cage.previous(left), cage.next[right]];
    if (turns(cage, nextLeft, left) || turns(cage, right, nextRight) || nextLeft === right || nextRight === left) break;
    [left, right, a, b] = [nextLeft, nextRight, d, c];
  }
  if (faces.length === 0) return undefined;
  return { do: 'faces', places: vertices.map((v) => there(cage.position(v))), faces };
}

/** Whether a border turns a corner from one half-edge to the next: a row ends there. */
function turns(cage: Cage, before: number, after: number): boolean {
  const [u, w] = [before, after].map((h) => unit(subtract(cage.position(cage.target(h)), cage.position(cage.origin[h]))));
  return dot(u, w) < 0.5;
}

/** Cuts a loop across an edge through all that follows, at a share of every edge; its vertices lie on the reference. @param half of the edge */
export function cutAcross(cage: Cage, walk: SurfaceWalk, half: number, share: number): Extract<Act, { do: 'cut' }> | undefined {
  const { halves, closed, crossedTwice } = ringThrough(cage, half);
  if (halves.length < 2 || crossedTwice.length > 0) return undefined;
  const ends = halves.map((h): [Triple, Triple] => [cage.position(cage.origin[h]), cage.position(cage.target(h))]);
  return {
    do: 'cut',
    edges: ends.map(([a, b]): [Place, Place] => [there(a), there(b)]),
    at: ends.map(([a, b]) => walk.nearest(between(a, b, share))!.at),
    closed
  };
}

/** The half-edge of a face that lies nearest to a place, and how far along it that is, 0 to 1. */
export function edgeNear(cage: Cage, face: number, p: Triple): { half: number; share: number } {
  const near = cage.loopOf(cage.faceEdge[face]).map((half) => {
    const [a, b] = [cage.position(cage.origin[half]), cage.position(cage.target(half))];
    const at = closestOnSegment(p, a, b);
    return { half, share: length(subtract(at, a)) / (length(subtract(b, a)) || 1), off: length(subtract(p, at)) };
  });
  return near.reduce((a, b) => (b.off < a.off ? b : a));
}
