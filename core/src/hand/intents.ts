import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { add, closestOnSegment, cross, dot, length, scaled, subtract, type Triple } from '../numeric/vectors.ts';
import { loopThrough } from '../select/loops.ts';
import { type Act, type Place, there } from './acts.ts';
import { partsOf, spreadRow } from './rows.ts';
import { type Anchor, type SurfaceWalk } from './surface-walk.ts';

/** What is near the pointer, and how near things have to be. */
export interface Reach {
  /** mm within which a vertex or an edge is under the pointer */
  near: number;
  /** mm within which what is laid welds to what is there */
  weld: number;
  /** the way the eye looks, a unit vector, and how many mm along it vertices and edges may lie off the pointer and be under it */
  sight?: { way: Triple; deep: number };
}

/** How far a place is from the pointer, mm; depth that is looked through does not count. */
function offPointer(p: Triple, pointer: Triple, sight: Reach['sight']): number {
  const way = subtract(p, pointer);
  if (!sight) return length(way);
  const along = dot(way, sight.way);
  return length(subtract(way, scaled(sight.way, Math.min(Math.max(along, 0), sight.deep))));
}

/** What a click would do where the pointer is, or what a drag would take hold of. */
export type Intent =
  | { over: 'vertex'; vertex: number }
  | { over: 'edge'; half: number }
  | { over: 'surface' }
  /** a quad from a border half-edge to the pointer; corners that are there already are taken */
  | { over: 'beside'; half: number; corners: Place[]; welds: number };

/** An open side turns in by so many degrees where its next vertex is a corner of the quad that fills it. */
export const CORNER = 135;
/** Degrees by which a border turns a corner, where a row that is pulled out of it ends. */
const TURNS = 60;
/** How many edge lengths from a border edge the pointer may be for a quad from it, and has to be for one that is no sliver. */
const [REACHED, SLIVER] = [2.2, 0.25];

/** What is meant where the pointer is. @param pointer on the reference */
export function intentAt(cage: Cage, walk: SurfaceWalk, pointer: Anchor, reach: Reach): Intent {
  const normal = walk.normalAt(pointer);
  const vertex = nearestVertex(cage, pointer.at, reach.near, undefined, reach.sight);
  if (vertex !== undefined) return { over: 'vertex', vertex };
  const open = openEdges(cage, pointer.at, normal, reach.sight);
  if (open.length === 0) return { over: 'surface' };
  const [nearest] = open;
  if (nearest.off <= reach.near) return { over: 'edge', half: nearest.half };
  const beside = open.filter(({ half, off, long }) => off <= REACHED * long && isBeside(cage, half, pointer.at, normal));
  // right at an edge a quad would be a sliver: from one across the gap it is none
  const from = beside.find(({ off, long }) => off >= SLIVER * long);
  if (from) return quadFrom(cage, walk, from.half, pointer, reach.weld);
  return beside.length > 0 ? { over: 'edge', half: beside[0].half } : { over: 'surface' };
}

/** The vertex nearest to a place within so many mm, of those that may be taken. */
function nearestVertex(
  cage: Cage,
  p: Triple,
  within: number,
  mayBe: (v: number) => boolean = () => true,
  sight?: Reach['sight']
): number | undefined {
  let [found, least]: [number | undefined, number] = [undefined, within];
  const q = cage.positions;
  const reach = (within + (sight?.deep ?? 0)) ** 2;
  for (const v of cage.vertices()) {
    // this runs over the whole cage as the pointer moves: those far off are told without a single list being made
    if ((q[3 * v] - p[0]) ** 2 + (q[3 * v + 1] - p[1]) ** 2 + (q[3 * v + 2] - p[2]) ** 2 > reach) continue;
    const off = offPointer(cage.position(v), p, sight);
    if (off <= least && mayBe(v)) [found, least] = [v, off];
  }
  return found;
}

/** A border half-edge without a face, how far off it is, and how long, mm. */
interface OpenEdge {
  half: number;
  off: number;
  long: number;
}

/** Border half-edges whose faces look the same way, the nearest to a place first. */
function openEdges(cage: Cage, p: Triple, normal: Triple, sight?: Reach['sight']): OpenEdge[] {
  const found: OpenEdge[] = [];
  for (const e of cage.edges()) {
    if (!cage.isBorderEdge(e)) continue;
    const half = cage.face[2 * e] === NONE ? 2 * e : 2 * e + 1;
    const [a, b] = [cage.position(cage.origin[half]), cage.position(cage.target(half))];
    const off = offPointer(closestOnSegment(p, a, b), p, sight);
    if (looksLike(cage, half, normal)) found.push({ half, off, long: length(subtract(b, a)) });
  }
  return found.sort((a, b) => a.off - b.off);
}

/** Whether the face behind a border half-edge looks the way a normal does. */
function looksLike(cage: Cage, half: number, normal: Triple): boolean {
  const inner = half ^ 1;
  if (cage.face[inner] === NONE) return true;
  const [a, b, c] = [cage.origin[inner], cage.target(inner), cage.target(cage.next[inner])].map((v) => cage.position(v));
  return dot(cross(subtract(b, a), subtract(c, b)), normal) > 0;
}

/** Whether a place lies on the open side of a border half-edge. */
function isBeside(cage: Cage, half: number, p: Triple, normal: Triple): boolean {
  const [a, b] = [cage.position(cage.origin[half]), cage.position(cage.target(half))];
  return dot(cross(normal, subtract(b, a)), subtract(p, a)) > 0;
}

/** Degrees that the open side has between two border half-edges that follow each other. */
export function openAngle(cage: Cage, before: number, after: number, normal: Triple): number {
  const at = cage.position(cage.target(before));
  const [u, w] = [subtract(at, cage.position(cage.origin[before])), subtract(cage.position(cage.target(after)), at)];
  const turn = Math.atan2(dot(cross(u, w), normal), dot(u, w));
  return 180 - (turn * 180) / Math.PI;
}

/** The quad from a border half-edge to the pointer. */
function quadFrom(cage: Cage, walk: SurfaceWalk, half: number, pointer: Anchor, weld: number): Intent {
  const [a, b] = [cage.origin[half], cage.target(half)];
  const normal = walk.normalAt(pointer);
  const [before, after] = [cage.previous(half), cage.next[half]];
  const isLoop = cage.face[half] === NONE && before !== NONE;
  const cornerAtB = isLoop && openAngle(cage, half, after, normal) < CORNER ? cage.target(after) : undefined;
  const cornerAtA = isLoop && openAngle(cage, before, half, normal) < CORNER ? cage.origin[before] : undefined;
  const own = [there(cage.position(a)), there(cage.position(b))];
  if (cornerAtA !== undefined && cornerAtA === cornerAtB)
    return { over: 'beside', half, corners: [...own, there(cage.position(cornerAtA))], welds: 1 };
  const far = farSide(cage, walk, [a, b], false, [a, b], pointer.at);
  const taken = new Set([a, b]);
  const placed = [cornerAtA, cornerAtB].map((corner, i) =>
    corner === undefined ? weldedPlace(cage, far[i], weld, taken) : there(cage.position(corner))
  );
  return { over: 'beside', half, corners: [...own, placed[1], placed[0]], welds: placed.filter((p) => p[3] === 1).length };
}

/** Where vertices of a row go on the reference when it is pulled out of itself by one of its edges, whose middle goes to the pointer. */
function farSide(cage: Cage, walk: SurfaceWalk, row: readonly number[], closed: boolean, [a, b]: readonly number[], pointer: Triple): Anchor[] {
  const anchors = row.map((v) => walk.nearest(cage.position(v))!);
  const [from, to] = [cage.position(a), cage.position(b)];
  const middle = scaled(add(from, to), 0.5);
  const normal = walk.normalAt(walk.nearest(middle)!);
  return spreadRow(walk, anchors, closed, partsOf(subtract(pointer, middle), normal, subtract(to, from)));
}

/** A new place, or that of a border vertex within the weld distance. */
function weldedPlace(cage: Cage, { at }: Anchor, weld: number, taken: ReadonlySet<number>): Place {
  const isOpen = (v: number) => !taken.has(v) && (cage.vertexEdge[v] === NONE || cage.isBorderVertex(v));
  const found = nearestVertex(cage, at, weld, isOpen);
  return found === undefined ? at : there(cage.position(found));
}

/** The border half-edges that a row is pulled out of: the one that is grabbed alone, or all up to corners of the border on either side. */
export const openRow = (cage: Cage, half: number, whole: boolean): { halves: number[]; closed: boolean } =>
  whole ? loopThrough(cage, half, TURNS) : { halves: [half], closed: false };

/**
 * Pulls a row of quads out of border half-edges that follow each other.
 * @param grabbed number of the half-edge whose middle goes to the pointer
 * @returns the faces as an act, and how many of their far corners weld to what is there
 */
export function pulledOut(
  cage: Cage,
  walk: SurfaceWalk,
  { halves, closed }: { halves: readonly number[]; closed: boolean },
  grabbed: number,
  pointer: Triple,
  weld: number
): { act: Act; welds: number } {
  const row = halves.map((h) => cage.origin[h]);
  if (!closed) row.push(cage.target(halves.at(-1)!));
  const far = farSide(cage, walk, row, closed, [cage.origin[halves[grabbed]], cage.target(halves[grabbed])], pointer);
  const taken = new Set(row);
  const places = [...row.map((v) => there(cage.position(v))), ...far.map((anchor) => weldedPlace(cage, anchor, weld, taken))];
  const many = row.length;
  const faces = halves.map((_, i) => {
    const next = (i + 1) % many;
    return [i, next, many + next, many + i];
  });
  return { act: { do: 'faces', places, faces }, welds: places.filter((p, i) => i >= many && p[3] === 1).length };
}

/** What dragging a vertex to the pointer does: it slides there, or welds onto another one within the weld distance. */
export function slidTo(cage: Cage, vertex: number, pointer: Triple, weld: number): Extract<Act, { do: 'move' | 'weld' }> {
  const from = [there(cage.position(vertex))];
  const onto = nearestVertex(cage, pointer, weld, (v) => v !== vertex);
  return onto === undefined ? { do: 'move', from, to: [pointer] } : { do: 'weld', from, onto: [there(cage.position(onto))] };
}

/** Vertices that have been clicked one after the other, since something else was done. */
export function pendingOf(acts: readonly Act[]): Place[] {
  const last = acts.findLastIndex((act) => act.do !== 'point');
  return acts.slice(last + 1).flatMap((act) => (act.do === 'point' ? [act.at] : []));
}

/**
 * What clicking a corner adds to the acts so far: a vertex, the fourth of which makes a quad; the first once more makes a triangle of three.
 * @param place on the reference, or of a vertex that is there
 */
export function cornerClicked(walk: SurfaceWalk, acts: readonly Act[], place: Place): Act[] {
  const pending = pendingOf(acts);
  const isFirst = pending.length === 3 && [0, 1, 2].every((k) => pending[0][k] === place[k]);
  const point: Act[] = isFirst ? [] : [{ do: 'point', at: place }];
  const corners = (isFirst ? pending : [...pending, place]).map(([x, y, z]): Triple => [x, y, z]);
  if (corners.length < 4 && !isFirst) return point;
  return [...point, { do: 'faces', places: corners, faces: [turnedOutward(walk, corners, [...corners.keys()])] }];
}

/** Numbers of the corners of a face among places, in the order in which it looks the way the reference does. */
export function turnedOutward(walk: SurfaceWalk, places: readonly Triple[], corners: readonly number[]): number[] {
  const [a, b, c] = corners.map((i) => places[i]);
  const normal = walk.normalAt(walk.nearest(a)!);
  return dot(cross(subtract(b, a), subtract(c, b)), normal) > 0 ? [...corners] : [...corners].reverse();
}
