import * as THREE from 'three';
import { emptySelection, faceMiddle, mean, type Cage, type ElementKind, type PointedPlace, type Selection, type Triple } from '@ulvrin/core';
import type { CageDrawing } from './cage-drawing.ts';
import { IdBuffer } from './id-buffer.ts';
import { onScreen, rayAt, type Eye } from './eye.ts';

export type PickKind = ElementKind | 'nearest';

/** Pixels within which a vertex is taken to be under the pointer, and an edge. */
const REACH = 12;
const EDGE_REACH = 0.8 * REACH;

/** Pixels that an edge always reaches, and how long one must be seen for its middle to be told from its ends. */
const LEAST_REACH = 5;
const SEEN_LONG = 10;

/** Pixels beside the pointer where a nearer face may lie; askew as well, as straight views have edges that run along the axes of the screen. */
const AROUND = [
  [4, 0],
  [-4, 0],
  [0, 4],
  [0, -4],
  [3, 3],
  [-3, 3],
  [3, -3],
  [-3, -3]
] as const;

interface Near {
  id: number;
  distance: number;
}

/** The element of a drawn cage under the pointer. */
export function pickAt(eye: Eye, drawing: CageDrawing, x: number, y: number, kind: PickKind): Selection | undefined {
  const hit = drawing.faceUnder(rayAt(eye, x, y), eye.section);
  const { cage } = drawing;
  // at a rim the ray may just miss the nearer face: those a few pixels beside count as well
  const faces = new Set(AROUND.flatMap(([dx, dy]) => drawing.faceUnder(rayAt(eye, x + dx, y + dy), eye.section)?.face ?? []));
  if (hit) faces.add(hit.face);
  const candidates = faces.size > 0 ? [...new Set([...faces].flatMap((f) => cage.faceVertices(f)))] : verticesNear(eye, cage, x, y);
  const edges =
    faces.size > 0
      ? [...new Set([...faces].flatMap((f) => cage.loopOf(cage.faceEdge[f]).map((h) => h >> 1)))]
      : candidates.flatMap((v) => cage.spokes(v).map((h) => h >> 1));
  const vertex = nearestVertex(eye, cage, candidates, x, y);
  const edge = nearestEdge(eye, cage, edges, x, y);
  const any = kind === 'nearest';
  const vertexPick =
    vertex && vertex.distance < (any ? REACH : 4 * REACH) && !(any && isBesideMiddle(eye, cage, edges, vertex.id, x, y))
      ? { ...emptySelection(), vertices: [vertex.id] }
      : undefined;
  const edgeReach = any ? (edge && hit ? reachOf(eye, cage, edge.id, hit.face) : EDGE_REACH) : 4 * REACH;
  const edgePick = edge && edge.distance < edgeReach ? { ...emptySelection(), edges: [edge.id] } : undefined;
  const facePick = hit ? { ...emptySelection(), faces: [hit.face] } : undefined;
  if (kind === 'vertex') return vertexPick;
  if (kind === 'edge') return edgePick;
  if (kind === 'face') return facePick;
  return vertexPick ?? edgePick ?? facePick;
}

/** Whether a pixel lies beside the middle of an edge that ends in a vertex: where edges are seen short, that is not the vertex. */
function isBesideMiddle(eye: Eye, cage: Cage, edges: number[], v: number, x: number, y: number): boolean {
  return edges.some((e) => {
    if (cage.origin[2 * e] !== v && cage.origin[2 * e + 1] !== v) return false;
    const { fraction, distance, long } = alongEdge(eye, cage, e, x, y);
    return long >= SEEN_LONG && Math.abs(fraction - 0.5) < 0.2 && distance < EDGE_REACH;
  });
}

/** Within how many pixels an edge is meant from inside a face: less where the face is seen small, so that its middle picks it. */
function reachOf(eye: Eye, cage: Cage, e: number, face: number): number {
  const middle = onScreen(eye, faceMiddle(cage, face));
  return Math.max(LEAST_REACH, Math.min(EDGE_REACH, 0.6 * alongEdge(eye, cage, e, ...middle).distance));
}

function verticesNear(eye: Eye, cage: Cage, x: number, y: number): number[] {
  const near: number[] = [];
  for (const v of cage.vertices()) {
    const [a, b] = onScreen(eye, cage.position(v));
    if (Math.hypot(a - x, b - y) < REACH) near.push(v);
  }
  return near;
}

function nearestVertex(eye: Eye, cage: Cage, vertices: number[], x: number, y: number): Near | undefined {
  let best: Near | undefined;
  for (const v of vertices) {
    const [a, b] = onScreen(eye, cage.position(v));
    const distance = Math.hypot(a - x, b - y) + NEARER * depth(eye, cage.position(v));
    if (!best || distance < best.distance) best = { id: v, distance };
  }
  return best;
}

/** Of two that are seen in one place, the one nearer to the eye is meant: a pixel for the whole depth of the view. */
const NEARER = 1;
const depth = ({ camera }: Eye, p: readonly [number, number, number]) => (new THREE.Vector3(...p).project(camera).z + 1) / 2;

function nearestEdge(eye: Eye, cage: Cage, edges: number[], x: number, y: number): Near | undefined {
  let best: Near | undefined;
  for (const e of edges) {
    const [a, b] = [cage.position(cage.origin[2 * e]), cage.position(cage.origin[2 * e + 1])];
    const distance = alongEdge(eye, cage, e, x, y).distance + NEARER * depth(eye, mean([a, b]));
    if (!best || distance < best.distance) best = { id: e, distance };
  }
  return best;
}

/** The place on an edge nearest a pixel: its fraction, how far off in pixels, and how long the edge is seen. */
function alongEdge(eye: Eye, cage: Cage, e: number, x: number, y: number): { fraction: number; distance: number; long: number } {
  const [ax, ay] = onScreen(eye, cage.position(cage.origin[2 * e]));
  const [bx, by] = onScreen(eye, cage.position(cage.origin[2 * e + 1]));
  const long = Math.hypot(bx - ax, by - ay);
  const fraction = Math.min(1, Math.max(0, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / (long ** 2 || 1)));
  return { fraction, distance: Math.hypot(ax + fraction * (bx - ax) - x, ay + fraction * (by - ay) - y), long };
}

/** A place of the cage under the pointer: a vertex, a place on an edge (drawn to its middle and thirds), else one inside a face. */
export function placeAt(eye: Eye, drawing: CageDrawing, x: number, y: number): PointedPlace | undefined {
  const picked = pickAt(eye, drawing, x, y, 'nearest');
  if (!picked) return undefined;
  if (picked.vertices.length > 0) return { vertex: picked.vertices[0] };
  const [edge] = picked.edges;
  if (edge !== undefined) return placeOn(eye, drawing.cage, edge, x, y);
  const hit = drawing.faceUnder(rayAt(eye, x, y), eye.section);
  return hit && { face: hit.face, at: hit.point.toArray() };
}

/** The place on an edge under the pointer, drawn to its middle and thirds. */
function placeOn(eye: Eye, cage: Cage, edge: number, x: number, y: number): PointedPlace {
  const { fraction, long } = alongEdge(eye, cage, edge, x, y);
  const drawn = [1 / 3, 1 / 2, 2 / 3].find((f) => Math.abs(f - fraction) * long < REACH / 2);
  return { edge, fraction: drawn ?? Math.min(0.99, Math.max(0.01, fraction)) };
}

/**
 * What a dragged element can be drawn to: a vertex under the pointer, or with `edges` a place on an edge, that stays where it
 * is. What moves lies under the pointer itself and hides the faces beside, so all vertices are looked at.
 */
export function restingPlaceAt(eye: Eye, cage: Cage, x: number, y: number, moving: ReadonlySet<number>, edges: boolean): PointedPlace | undefined {
  const rests = (v: number) => !moving.has(v);
  const vertex = nearestVertex(eye, cage, verticesNear(eye, cage, x, y).filter(rests), x, y);
  if (vertex || !edges) return vertex && { vertex: vertex.id };
  const resting = [...cage.edges()].filter((e) => rests(cage.origin[2 * e]) && rests(cage.origin[2 * e + 1]));
  const edge = nearestEdge(eye, cage, resting, x, y);
  return edge && edge.distance < REACH ? placeOn(eye, cage, edge.id, x, y) : undefined;
}

/** An area of the stand in pixels. */
export type Area = (x: number, y: number) => boolean;

export const rectangle =
  (x0: number, y0: number, x1: number, y1: number): Area =>
  (x, y) =>
    x >= x0 && x <= x1 && y >= y0 && y <= y1;

export const disc =
  (cx: number, cy: number, radius: number): Area =>
  (x, y) =>
    Math.hypot(x - cx, y - cy) <= radius;

/** What a drawn line encloses (even-odd). */
export const lasso =
  (points: readonly (readonly [number, number])[]): Area =>
  (x, y) => {
    let odd = false;
    points.forEach(([ax, ay], i) => {
      const [bx, by] = points[(i + 1) % points.length];
      if (ay > y !== by > y && x < ax + ((y - ay) / (by - ay)) * (bx - ax)) odd = !odd;
    });
    return odd;
  };

/**
 * Elements of a drawn cage in an area of the stand. Only what is seen is taken, unless it goes through: of a face some pixel, of an
 * edge some place, a vertex itself.
 * @param seen what is seen; found out anew where missing
 * @param through whether those that are hidden are meant as well
 * @param touched elements of which some place lies inside are enough (a brush); else all their vertices must
 */
export function pickIn(
  eye: Eye,
  drawing: CageDrawing,
  area: Area,
  kind: PickKind,
  { seen, through = false, touched = false }: { seen?: IdBuffer; through?: boolean; touched?: boolean }
): Selection {
  const out = emptySelection();
  const { cage } = drawing;
  const buffer = through ? undefined : (seen ?? new IdBuffer(eye, [drawing.pickSurface]));
  const inside = (p: Triple) => area(...onScreen(eye, p));
  if (kind === 'face') {
    const shown = [...cage.faces()].filter((f) => drawing.isShown(f) && (!buffer || buffer.seen.has(f)));
    const hit = touched ? buffer?.facesIn(area) : undefined;
    // a face may be smaller than a pixel
    const isMiddleIn = (f: number) => {
      const middle = faceMiddle(cage, f);
      return inside(middle) && (!buffer || buffer.sees(middle, new Set([f])));
    };
    out.faces = shown.filter((f) => (touched ? hit?.has(f) || isMiddleIn(f) : cage.faceVertices(f).every((v) => inside(cage.position(v)))));
    return out;
  }
  const facesOfEdge = (e: number) => [cage.face[2 * e], cage.face[2 * e + 1]].filter((f) => f >= 0 && drawing.isShown(f));
  if (kind === 'edge') {
    out.edges = [...cage.edges()].filter((e) => {
      const ends = [cage.position(cage.origin[2 * e]), cage.position(cage.origin[2 * e + 1])];
      const own = facesOfEdge(e);
      if (own.length === 0 || !(touched ? inside(mean(ends)) : ends.every(inside))) return false;
      return !buffer || placesOn(eye, ends[0], ends[1]).some((p) => buffer.sees(p, new Set(own)));
    });
    return out;
  }
  out.vertices = [...cage.vertices()].filter((v) => {
    const own = cage.spokes(v).flatMap((h) => facesOfEdge(h >> 1));
    if (cage.vertexEdge[v] >= 0 && own.length === 0) return false;
    return inside(cage.position(v)) && (!buffer || buffer.sees(cage.position(v), new Set(own)));
  });
  return out;
}

/** Places along an edge, some pixels apart, both ends left out. */
function placesOn(eye: Eye, a: Triple, b: Triple): Triple[] {
  const [[ax, ay], [bx, by]] = [onScreen(eye, a), onScreen(eye, b)];
  const count = Math.min(200, Math.max(3, Math.ceil(Math.hypot(bx - ax, by - ay) / 3)));
  return Array.from({ length: count - 1 }, (_, i) => a.map((c, k) => c + ((i + 1) / count) * (b[k] - c)) as Triple);
}
