import { NONE, type Cage } from '../mesh/cage.ts';
import { borderLoops } from '../mesh/topology.ts';
import { straightOn } from '../select/loops.ts';
import { add, dot, length, mean, scaled, subtract, unit, type Triple } from '../numeric/vectors.ts';

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
  /** angle of the hole at each vertex in radians: what the faces there leave of a full turn */
  angles: number[];
  /** edges at each vertex */
  valences: number[];
}

export function holeAlong(cage: Cage, halves: number[]): Hole {
  const vertices = halves.map((h) => cage.origin[h]);
  return {
    halves,
    vertices,
    places: vertices.map((v) => cage.position(v)),
    length: halves.reduce((sum, h) => sum + cage.edgeLength(h >> 1), 0),
    lengths: halves.map((h) => cage.edgeLength(h >> 1)),
    angles: vertices.map((v) => 2 * Math.PI - faceAngles(cage, v)),
    valences: vertices.map((v) => cage.valence(v))
  };
}

/** All holes of a cage. */
export const holesOf = (cage: Cage): Hole[] => borderLoops(cage).map((halves) => holeAlong(cage, halves));

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

function shapeOf({ places }: Hole, corners: number): string {
  const centre = [0, 1, 2].map((k) => places.reduce((sum, p) => sum + p[k], 0) / places.length);
  const radii = places.map((p) => Math.hypot(...p.map((x, k) => x - centre[k])));
  const mean = radii.reduce((a, b) => a + b, 0) / radii.length;
  if (places.length > 7 && radii.every((r) => Math.abs(r - mean) < 0.05 * mean)) return 'round';
  return corners === 0 ? 'no corners' : `${corners} corner${corners === 1 ? '' : 's'}`;
}

/** Direction and curvature, at a border vertex, of the edge loops that come in from outside; nothing where none comes. */
export function runIn(cage: Cage, v: number): { tangent: Triple; curvature: Triple } | undefined {
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
