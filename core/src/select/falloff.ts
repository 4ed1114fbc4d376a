import FlatQueue from 'flatqueue';
import { type Cage } from '../mesh/cage.ts';
import { PointGrid } from '../numeric/point-grid.ts';
import { length, subtract } from '../numeric/vectors.ts';

export type FalloffAlong = 'surface' | 'space';

/** Kinds of ramps from 1 down to 0: level at both ends, straight, or drawn. */
export const rampKinds = ['eased', 'straight', 'drawn'] as const;

/** A drawn ramp: shares at even distances between its ends, which are 1 and 0. Left out: the eased one. */
export type Ramp = readonly number[];

/** The ramp that a card's choice and its drawn curve, in %, mean. */
export const rampOf = (kind: (typeof rampKinds)[number], curve: readonly number[]): Ramp | undefined =>
  kind === 'eased' ? undefined : kind === 'straight' ? [] : curve.map((percent) => percent / 100);

/** Share by distance: 1 at 0, 0 from the radius on. */
export function falloffShare(distance: number, radius: number, ramp?: Ramp): number {
  if (distance >= radius) return 0;
  const t = 1 - distance / radius;
  if (!ramp) return t * t * (3 - 2 * t);
  const at = (1 - t) * (ramp.length + 1);
  const piece = Math.floor(at);
  const share = (i: number) => (i <= 0 ? 1 : (ramp[i - 1] ?? 0));
  return share(piece) + (at - piece) * (share(piece + 1) - share(piece));
}

/**
 * How much every vertex follows when some are moved.
 * @param radius mm
 * @param along whether distances run along the edges of the cage or straight through space
 * @param ramp how they follow with the distance
 * @returns shares above 0 by vertex id; 1 for the vertices themselves
 */
export function falloffWeights(cage: Cage, vertices: readonly number[], radius: number, along: FalloffAlong, ramp?: Ramp): Map<number, number> {
  const distances = along === 'surface' ? alongEdges(cage, vertices, radius) : throughSpace(cage, vertices, radius);
  const weights = new Map<number, number>();
  for (const [v, distance] of distances) {
    const share = falloffShare(distance, radius, ramp);
    if (share > 0) weights.set(v, share);
  }
  for (const v of vertices) weights.set(v, 1);
  return weights;
}

function alongEdges(cage: Cage, vertices: readonly number[], radius: number): Map<number, number> {
  const distance = new Map<number, number>(vertices.map((v) => [v, 0]));
  const queue = new FlatQueue<number>();
  for (const v of vertices) queue.push(v, 0);
  while (queue.length > 0) {
    const reached = queue.peekValue()!;
    const at = queue.pop()!;
    if (reached > distance.get(at)!) continue;
    for (const h of cage.spokes(at)) {
      const way = reached + cage.edgeLength(h >> 1);
      const to = cage.target(h);
      if (way >= radius || way >= (distance.get(to) ?? Infinity)) continue;
      distance.set(to, way);
      queue.push(to, way);
    }
  }
  return distance;
}

function throughSpace(cage: Cage, vertices: readonly number[], radius: number): Map<number, number> {
  const grid = new PointGrid(radius);
  for (const v of vertices) grid.put(v, ...cage.position(v));
  const distance = new Map<number, number>();
  for (const v of cage.vertices()) {
    const p = cage.position(v);
    let least = radius;
    grid.visitNear(...p, (w) => (least = Math.min(least, length(subtract(p, cage.position(w))))));
    if (least < radius) distance.set(v, least);
  }
  return distance;
}
