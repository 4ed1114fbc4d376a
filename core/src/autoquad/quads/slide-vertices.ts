import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { add, cross, unit, type Triple } from '../../numeric/vectors.ts';
import { type QuadsRound } from './quads-round.ts';

/** Steps that are tried, as shares of an edge, each to five sides. */
const STEPS = [0.12, 0.05, 0.02];
const SIDES = [0, 1, 2, 3, 4].map((side) => [Math.cos((2 * Math.PI * side) / 5), Math.sin((2 * Math.PI * side) / 5)]);
/** Vertices whose quads all have at least this shape stay. */
const SQUARE = 0.998;
/** How much the poorest quad at a vertex counts, up to a shape, against all in the mean. */
const [POOREST, GOOD] = [0.15, 0.88];
/** A vertex goes where what counts grows by this much. */
const GAIN = 2e-5;

/** What vertices of some quads may do. */
export interface Sliding {
  quads: QuadsRound;
  /** length of an edge at each vertex */
  edge: Float64Array;
  /** by vertex, how many times vertices had moved when it was best where it was; less than 0 at first */
  stayed: Int32Array;
  /** shape of quads that must not get poorer */
  poor: number;
  mayMove(v: number): boolean;
}

/**
 * Moves vertices along their surface where the quads round them get nearer to squares by it, in the mean and the poorest of them: a pattern
 * search (Hooke, Jeeves 1961) over the plane across the quads' normals. Changes the positions.
 * @returns how many vertices were moved
 */
export function slideVertices({ positions }: PolygonMesh, { quads, edge, stayed, poor, mayMove }: Sliding): number {
  /** What the quads at a vertex count; -Infinity where one has turned or a shape is below `least`, or where that is not above `best` for sure. */
  const worth = (v: number, least: number, best: number): number => {
    const count = quads.at[v].length;
    let sum = 0;
    let worst = 1;
    for (let i = 0; i < count; i++) {
      const shape = quads.shapeNow(v, i);
      if (shape < least) return -Infinity;
      sum += shape;
      worst = Math.min(worst, shape);
      // no shape is above 1
      if (worthOf(sum + count - i - 1, worst, count) <= best) return -Infinity;
    }
    return worthOf(sum, worst, count);
  };
  let moved = 0;
  for (let v = 0; v < quads.at.length; v++) {
    const count = quads.at[v].length;
    // it would come to the same as long as nothing round it has moved
    if (count === 0 || !mayMove(v) || quads.lastChange(v) <= stayed[v]) continue;
    stayed[v] = quads.moves;
    const { shapes, normals } = quads.lookAt(v);
    const poorest = Math.min(1, ...shapes);
    if (poorest >= SQUARE) continue;
    let sum: Triple = [0, 0, 0];
    for (let i = 0; i < count; i++) sum = add(sum, [normals[3 * i], normals[3 * i + 1], normals[3 * i + 2]]);
    const begin = worthOf(
      shapes.reduce((all, shape) => all + shape, 0),
      poorest,
      count
    );
    const normal = unit(sum);
    const aside = unit(cross(normal, Math.abs(normal[0]) < 0.8 ? [1, 0, 0] : [0, 1, 0]));
    const across = cross(normal, aside);
    const least = Math.min(poor, poorest);
    let best = begin;
    let to: Triple = [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
    for (const step of STEPS) {
      const from = to;
      for (const [x, y] of SIDES) {
        const go = (k: number) => from[k] + (aside[k] * x + across[k] * y) * step * edge[v];
        quads.put(v, go(0), go(1), go(2));
        const value = worth(v, least, best + GAIN);
        if (value > best + GAIN) [best, to] = [value, [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]]];
      }
    }
    quads.put(v, to[0], to[1], to[2]);
    if (best <= begin) continue;
    quads.keep(v);
    moved++;
  }
  return moved;
}

/** What shapes of quads count, by their sum and the poorest. */
const worthOf = (sum: number, worst: number, count: number): number => sum / count + POOREST * Math.min(GOOD, worst);
