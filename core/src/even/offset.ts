import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { evenOffset, faceAreaVector } from '../mesh/normals.ts';
import { facesRound } from '../mesh/topology.ts';
import { add, dot, scaled, unit, type Triple } from '../numeric/vectors.ts';
import { freedomOf } from './mask.ts';
import { surfaceTree } from './surface-tree.ts';
import { netOf } from './vertex-net.ts';

/** Steps that an offset is made in, so that vertices stop where faces would fold over. */
const STEPS = 16;
/** A face folds over where less than this share of its area is left, seen the way it looked. */
const LEFT = 0.02;

/** Share of the room before an opposite side that is used where vertices stop. */
const KEPT = 0.9;

/** Directions that a ray is tilted by, beside the way it is meant to go. */
const TILTS: readonly Triple[] = [
  [0, 0, 0],
  [1e-4, 2e-4, 3e-4]
];

/** A surface that was moved along its normals. */
export interface Offset {
  cage: Cage;
  /** vertices that stopped before they were as far off as asked for */
  stopped: number[];
  /** faces that are folded over */
  folded: number[];
  /** vertices that went past a side of the surface that lay opposite */
  passing: number[];
}

/**
 * Moves a surface along its normals by a distance, so that its faces lie that far off.
 * @param vertices those that move; masked ones by what is left to them
 * @param distance mm; below 0 inwards
 * @param stops whether vertices stop before a face at them folds over
 */
export function offsetSurface(cage: Cage, vertices: readonly number[], distance: number, stops: boolean): Offset {
  const copy = cage.clone();
  const p = copy.positions;
  const freedom = freedomOf(cage) ?? (() => 1);
  const steps = stops ? STEPS : 1;
  const far = vertices
    .filter((v) => cage.vertexEdge[v] !== NONE && freedom(v) > 0)
    .map((v) => ({ v, way: evenOffset(cage, v, new Set(facesRound(cage, [v], 1)), freedom(v) * distance) }));
  const rooms = roomAhead(cage, far);
  const passing = far.filter(({ way }, i) => Math.hypot(...way) > rooms[i]).map(({ v }) => v);
  const moving = far.map(({ v, way }, i) => {
    const share = stops ? Math.min(1, (KEPT * rooms[i]) / (Math.hypot(...way) || 1)) : 1;
    return { v, way: scaled(way, share / steps) };
  });
  const faces = facesRound(
    cage,
    moving.map(({ v }) => v),
    1
  );
  const looks = new Map(faces.map((f) => [f, faceAreaVector(cage, f)]));
  const isFolded = (f: number): boolean => {
    const before = looks.get(f)!;
    return dot(faceAreaVector(copy, f), before) < LEFT * dot(before, before);
  };
  const stopped = new Set<number>(stops ? passing : []);
  const held = new Set<number>();
  for (let step = 0; step < steps; step++) {
    const from = p.slice();
    for (const { v, way } of moving) if (!held.has(v)) for (let k = 0; k < 3; k++) p[3 * v + k] += way[k];
    if (!stops) continue;
    // what stops may leave a neighbour's face folded: until none is
    for (let folded = faces.filter(isFolded); folded.length > 0; folded = folded.filter(isFolded)) {
      const at = folded.flatMap((f) => cage.faceVertices(f)).filter((v) => [0, 1, 2].some((k) => p[3 * v + k] !== from[3 * v + k]));
      if (at.length === 0) break;
      for (const v of at) {
        p.set(from.subarray(3 * v, 3 * v + 3), 3 * v);
        stopped.add(v);
        held.add(v);
      }
      folded = faces.filter(isFolded);
    }
  }
  return { cage: copy, stopped: [...stopped], folded: faces.filter(isFolded), passing: stops ? [] : passing };
}

/** How far vertices can go before they meet a side that lies opposite, mm; half the way to it where that comes towards them as well. */
function roomAhead(cage: Cage, moving: readonly { v: number; way: Triple }[]): number[] {
  const tree = surfaceTree(netOf(cage), cage.positions);
  const { triangles } = tree;
  const moves = new Set(moving.map(({ v }) => v));
  return moving.map(({ v, way }) => {
    if (!way.some((x) => x !== 0)) return Infinity;
    const own = new Set([v, ...cage.spokes(v).flatMap((h) => (cage.face[h] === NONE ? [] : cage.faceVertices(cage.face[h])))]);
    const isOpposite = (t: number) => !own.has(triangles[3 * t]) && !own.has(triangles[3 * t + 1]) && !own.has(triangles[3 * t + 2]);
    const along = unit(way);
    // a ray that runs into an edge just so may slip between its faces
    const hits = TILTS.map((tilt) => tree.raycast(cage.position(v), unit(add(along, tilt)), isOpposite));
    const hit = hits.reduce((a, b) => (!a || (b && b.distance < a.distance) ? b : a));
    if (!hit) return Infinity;
    return [0, 1, 2].some((k) => moves.has(triangles[3 * hit.triangle + k])) ? hit.distance / 2 : hit.distance;
  });
}
