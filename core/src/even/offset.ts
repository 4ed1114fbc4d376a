import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { evenOffset, faceAreaVector } from '../mesh/normals.ts';
import { facesRound } from '../mesh/topology.ts';
import { dot } from '../numeric/vectors.ts';
import { freedomOf } from './mask.ts';

/** Steps that an offset is made in, so that vertices stop where faces would fold over. */
const STEPS = 16;
/** A face folds over where less than this share of its area is left, seen the way it looked. */
const LEFT = 0.02;

/** A surface that was moved along its normals. */
export interface Offset {
  cage: Cage;
  /** vertices that stopped before they were as far off as asked for */
  stopped: number[];
  /** faces that are folded over */
  folded: number[];
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
  const moving = vertices
    .filter((v) => cage.vertexEdge[v] !== NONE && freedom(v) > 0)
    .map((v) => ({ v, way: evenOffset(cage, v, new Set(facesRound(cage, [v], 1)), (freedom(v) * distance) / steps) }));
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
  const stopped = new Set<number>();
  for (let step = 0; step < steps; step++) {
    const from = p.slice();
    for (const { v, way } of moving) if (!stopped.has(v)) for (let k = 0; k < 3; k++) p[3 * v + k] += way[k];
    if (!stops) continue;
    // what stops may leave a neighbour's face folded: until none is
    for (let folded = faces.filter(isFolded); folded.length > 0; folded = folded.filter(isFolded)) {
      const at = folded.flatMap((f) => cage.faceVertices(f)).filter((v) => [0, 1, 2].some((k) => p[3 * v + k] !== from[3 * v + k]));
      if (at.length === 0) break;
      for (const v of at) {
        p.set(from.subarray(3 * v, 3 * v + 3), 3 * v);
        stopped.add(v);
      }
      folded = faces.filter(isFolded);
    }
  }
  return { cage: copy, stopped: [...stopped], folded: faces.filter(isFolded) };
}
