import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { quadShape } from '../numeric/quad-shape.ts';
import { add, cross, unit, type Triple } from '../numeric/vectors.ts';

/** Steps that are tried, as shares of an edge, each to five sides. */
const STEPS = [0.12, 0.05, 0.02];
const SIDES = [0, 1, 2, 3, 4].map((side) => [Math.cos((2 * Math.PI * side) / 5), Math.sin((2 * Math.PI * side) / 5)]);
/** Vertices whose quads all have at least this shape stay. */
const SQUARE = 0.998;
/** How much the poorest quad at a vertex counts, up to a shape, against all in the mean. */
const [POOREST, GOOD] = [0.15, 0.88];
/** A vertex goes where what counts grows by this much. */
const GAIN = 2e-5;
/** Cosine of the angle by which a quad may turn. */
const TURNED = 0.5;

/** What vertices of some quads may do. */
export interface Sliding {
  /** numbers of the quads at each vertex */
  quadsAt: readonly (readonly number[])[];
  /** length of an edge at each vertex */
  edge: Float64Array;
  /** shape of quads that must not get poorer */
  poor: number;
  mayMove(v: number): boolean;
  /** told of each vertex that was put elsewhere, to move what follows it */
  settle(v: number): void;
}

/**
 * Moves vertices along their surface where the quads round them get nearer to squares by it, in the mean and the poorest of them: a pattern
 * search (Hooke, Jeeves 1961) over the plane across the quads' normals. Changes the positions.
 * @returns how many vertices were moved
 */
export function slideVertices({ positions, faceVertices }: PolygonMesh, { quadsAt, edge, poor, mayMove, settle }: Sliding): number {
  const own = new Float64Array(3);
  const before = new Float64Array(3 * quadsAt.reduce((most, quads) => Math.max(most, quads.length), 0));
  /** What quads count; -Infinity where one has turned or a shape is below `least`, or where that is not above `best` for sure. */
  const worth = (quads: readonly number[], least: number, best: number): number => {
    const count = quads.length;
    let sum = 0;
    let worst = 1;
    for (let i = 0; i < count; i++) {
      const shape = quadShape(positions, faceVertices, 4 * quads[i], own);
      if (shape < least || own[0] * before[3 * i] + own[1] * before[3 * i + 1] + own[2] * before[3 * i + 2] <= TURNED) return -Infinity;
      sum += shape;
      worst = Math.min(worst, shape);
      // no shape is above 1
      if (worthOf(sum + count - i - 1, worst, count) <= best) return -Infinity;
    }
    return worthOf(sum, worst, count);
  };
  let moved = 0;
  quadsAt.forEach((quads, v) => {
    if (quads.length === 0 || !mayMove(v)) return;
    let normals: Triple = [0, 0, 0];
    let [all, poorest] = [0, 1];
    quads.forEach((q, i) => {
      const shape = quadShape(positions, faceVertices, 4 * q, own);
      all += shape;
      poorest = Math.min(poorest, shape);
      before.set(own, 3 * i);
      normals = add(normals, [own[0], own[1], own[2]]);
    });
    if (poorest >= SQUARE) return;
    const begin = worthOf(all, poorest, quads.length);
    const normal = unit(normals);
    const aside = unit(cross(normal, Math.abs(normal[0]) < 0.8 ? [1, 0, 0] : [0, 1, 0]));
    const across = cross(normal, aside);
    const least = Math.min(poor, poorest);
    let best = begin;
    let to: Triple = [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
    for (const step of STEPS) {
      const from = to;
      for (const [x, y] of SIDES) {
        for (let k = 0; k < 3; k++) positions[3 * v + k] = from[k] + (aside[k] * x + across[k] * y) * step * edge[v];
        settle(v);
        const value = worth(quads, least, best + GAIN);
        if (value > best + GAIN) [best, to] = [value, [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]]];
      }
    }
    positions.set(to, 3 * v);
    settle(v);
    if (best > begin) moved++;
  });
  return moved;
}

/** What shapes of quads count, by their sum and the poorest. */
const worthOf = (sum: number, worst: number, count: number): number => sum / count + POOREST * Math.min(GOOD, worst);
