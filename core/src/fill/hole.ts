import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { faceNormal } from '../mesh/normals.ts';
import { borderLoops } from '../mesh/topology.ts';
import { add, areaVector, cross, dot, length, mean, scaled, subtract, unit, type Triple } from '../numeric/vectors.ts';
import { straightOn } from '../select/loops.ts';

/** A border seen as a hole to be filled. */
export interface Hole {
  /** its half-edges without a face, in order: faces that fill it run along them */
  halves: number[];
  /** where each half-edge starts */
  vertices: number[];
  places: Triple[];
  /** mm, all round */
  length: number;
  /** mm, from each vertex to the next */
  lengths: number[];
  /** angle of the hole at each vertex in radians: that of its border where it is flat, else what the faces there leave of a full turn */
  angles: number[];
  /** edges at each vertex */
  valences: number[];
  /** whether an edge joins two of its vertices already */
  joined(i: number, j: number): boolean;
}

/** A hole as its filling sees it. @param halves half-edges without a face, in the order of the border */
export function holeAlong(cage: Cage, halves: number[]): Hole {
  const vertices = halves.map((h) => cage.origin[h]);
  const places = vertices.map((v) => cage.position(v));
  return {
    halves,
    vertices,
    places,
    length: halves.reduce((sum, h) => sum + cage.edgeLength(h >> 1), 0),
    lengths: halves.map((h) => cage.edgeLength(h >> 1)),
    angles: anglesIn(
      places,
      vertices.map((v) => 2 * Math.PI - faceAngles(cage, v))
    ),
    valences: vertices.map((v) => cage.valence(v)),
    joined: (i, j) => cage.findHalfEdge(vertices[i], vertices[j]) !== NONE
  };
}

/** All holes of a cage. */
export const holesOf = (cage: Cage): Hole[] => borderLoops(cage).map((halves) => holeAlong(cage, halves));

/** Off its plane by this share of its length, a border counts as flat. */
const FLAT = 0.005;

/** Angles of a hole: in its plane where it is flat, and no outer rim; else what the faces leave. */
function anglesIn(places: Triple[], left: number[]): number[] {
  const n = places.length;
  const isOuterRim = left.reduce((sum, angle) => sum + Math.PI - angle, 0) < -Math.PI;
  const normal = unit(areaVector(places));
  const whole = places.reduce((sum, p, i) => sum + length(subtract(places[(i + 1) % n], p)), 0);
  const offs = places.map((p) => dot(normal, subtract(p, places[0])));
  if (isOuterRim || Math.max(...offs) - Math.min(...offs) > FLAT * whole) return left;
  return places.map((_, i) => cornerAngle(places, i, normal));
}

/** Angle of a polygon at a corner, in radians from 0 to a full turn, seen against a direction from which it runs counter-clockwise. */
export function cornerAngle(places: readonly Triple[], i: number, normal: Triple): number {
  const n = places.length;
  const [ahead, back] = [subtract(places[(i + 1) % n], places[i]), subtract(places[(i + n - 1) % n], places[i])];
  const angle = Math.atan2(dot(cross(ahead, back), normal), dot(ahead, back));
  return angle < 0 ? angle + 2 * Math.PI : angle;
}

/** The hole whose border passes most of some vertices, at least two that follow each other; ids of edges may have changed since they were taken. */
export function holeThrough(cage: Cage, vertices: readonly number[]): Hole | undefined {
  const own = new Set(vertices.filter((v) => cage.hasVertex(v)));
  const seen = new Set<number>();
  let best: { halves: number[]; passed: number } | undefined;
  for (const v of own)
    for (const h of cage.spokes(v)) {
      if (cage.face[h] !== NONE || seen.has(h) || !own.has(cage.target(h))) continue;
      const halves = cage.loopOf(h);
      for (const k of halves) seen.add(k);
      const passed = halves.filter((k) => own.has(cage.origin[k])).length;
      if (!best || passed > best.passed) best = { halves, passed };
    }
  return best && holeAlong(cage, best.halves);
}

/** Sum of the angles of the faces at a vertex. */
function faceAngles(cage: Cage, v: number): number {
  let sum = 0;
  for (const h of cage.spokes(v)) {
    if (cage.face[h] === NONE) continue;
    const at = cage.position(v);
    const [a, b] = [subtract(cage.position(cage.target(h)), at), subtract(cage.position(cage.origin[cage.previous(h)]), at)];
    sum += Math.acos(Math.max(-1, Math.min(1, dot(a, b) / (length(a) * length(b) || 1))));
  }
  return sum;
}

/** Turn of the border from which a vertex is one of its corners, in radians off a straight line. */
const CORNER_TURN = (40 * Math.PI) / 180;

/** Places of the hole's corners in its row of vertices: where it turns inward by 40 degrees or more. */
export const cornersOf = (hole: Hole): number[] => [...hole.angles.keys()].filter((i) => Math.PI - hole.angles[i] > CORNER_TURN);

/** "24 edges, 113.1 mm, even, round", a line for lists and messages. */
export function describeHole(hole: Hole): string {
  const corners = cornersOf(hole);
  const n = hole.vertices.length;
  return `${n} edges, ${hole.length.toFixed(1)} mm, ${n % 2 === 0 ? 'even' : 'odd'}, ${shapeOf(hole, corners.length)}`;
}

/** How far places lie off a circle round their middle, as a share of its radius. */
export function outOfRound(places: readonly Triple[]): number {
  const centre = mean(places);
  const radii = places.map((p) => length(subtract(p, centre)));
  const radius = radii.reduce((a, b) => a + b, 0) / radii.length;
  return Math.max(...radii.map((r) => Math.abs(r - radius))) / (radius || 1);
}

function shapeOf({ places }: Hole, corners: number): string {
  if (places.length > 7 && outOfRound(places) < 0.05) return 'round';
  return corners === 0 ? 'no corners' : `${corners} corner${corners === 1 ? '' : 's'}`;
}

/** How edge loops come in from outside at a border vertex: direction, and curvature per mm. */
export interface RunIn {
  tangent: Triple;
  curvature: Triple;
}

/** How edge loops come in at a border vertex; nothing where none comes. */
export function runIn(cage: Cage, v: number): RunIn | undefined {
  const runs = cage.spokes(v).flatMap((h) => {
    if (cage.isBorderEdge(h >> 1)) return [];
    const [at, near] = [cage.position(v), cage.position(cage.target(h))];
    const step = length(subtract(at, near)) || 1;
    const way = scaled(subtract(at, near), 1 / step);
    const on = straightOn(cage, h);
    if (on === NONE) return [{ tangent: way, curvature: [0, 0, 0] as Triple }];
    const before = scaled(subtract(near, cage.position(cage.target(on))), 1 / (cage.edgeLength(on >> 1) || 1));
    const curvature = scaled(subtract(way, before), 2 / (step + cage.edgeLength(on >> 1)));
    return [{ tangent: unit(add(way, scaled(curvature, step / 2))), curvature }];
  });
  return runs.length > 0 ? { tangent: unit(mean(runs.map((r) => r.tangent))), curvature: mean(runs.map((r) => r.curvature)) } : undefined;
}

/** A hole with one vertex counted twice, as a side's. */
export function doubledAt(hole: Hole, i: number): Hole {
  const twice = <T>(list: T[], extra: T) => [...list.slice(0, i + 1), extra, ...list.slice(i + 1)];
  const lengths = twice(hole.lengths, hole.lengths[i]);
  lengths[i] = 0;
  const angles = twice(hole.angles, Math.PI);
  angles[i] = Math.PI;
  return {
    ...hole,
    vertices: twice(hole.vertices, hole.vertices[i]),
    places: twice(hole.places, hole.places[i]),
    lengths,
    angles,
    valences: twice(hole.valences, hole.valences[i]),
    joined: (a, b) => hole.joined(a > i ? a - 1 : a, b > i ? b - 1 : b)
  };
}

/** The vertex round which the faces bend least, away from corners: a triangle is seen least there. */
export function flattest(cage: Cage, hole: Hole): number {
  const bends = hole.vertices.map((v, i) => {
    const normals = cage.spokes(v).flatMap((h) => (cage.face[h] === NONE ? [] : [faceNormal(cage, cage.face[h])]));
    const bend = normals.reduce((most, n) => Math.max(most, 1 - dot(n, normals[0])), 0);
    return bend + 0.2 * Math.abs(hole.angles[i] - Math.PI);
  });
  return bends.reduce((best, bend, i) => (bend < bends[best] - 1e-9 ? i : best), 0);
}
