import { type Cage } from '../mesh/cage.ts';
import { goDown } from '../numeric/lbfgs.ts';
import { unit } from '../numeric/vectors.ts';
import { freedomOf } from './mask.ts';
import { CORNER, FREE, type NetLines } from './held-lines.ts';
import { EvenPasses, type MovingSurface } from './passes.ts';
import { putBack, surfaceTree } from './surface-tree.ts';
import { netOf, normalAt } from './vertex-net.ts';

/** Times that vertices go down the energy in their tangent planes and are put back on the surface, and steps of each. */
const [ROUNDS, STEPS] = [6, 25];
/** Weight of square corners beside even lengths. */
const SQUARE = 0.5;

/** What is wished of edges and corners. */
export interface EvenWish {
  /** mm that edges are to be long; left out: what they are in the mean */
  length?: number;
}

/**
 * Slides vertices on the surface so that edges are as long as wished and corners of quads square: least squares of both, by the method of
 * Broyden, Fletcher, Goldfarb and Shanno with limited memory, in the tangent planes, put back on the surface as it was after each round.
 * @param vertices those that may slide; held ones and masked ones stay
 * @returns a copy
 */
export function evenedByEnergy(cage: Cage, vertices: readonly number[], lines: NetLines, { length }: EvenWish = {}): Cage {
  const copy = cage.clone();
  const net = netOf(cage);
  const freedom = freedomOf(cage) ?? (() => 1);
  const moving = Int32Array.from(vertices).filter((v) => lines.kind[v] < CORNER && net.start[v + 1] > net.start[v] && freedom(v) > 0);
  if (moving.length === 0) return copy;
  const surface: MovingSurface = { net, lines, positions: copy.positions };
  const tree = surfaceTree(net, cage.positions);
  const work = new EvenPasses(surface, { vertices: moving, weights: Float64Array.from(moving, freedom) });
  for (let round = 0; round < ROUNDS; round++)
    work.guarded(() => {
      const energy = new SlidingEnergy(surface, moving, length);
      const z = new Float64Array(2 * moving.length);
      goDown((at, gradient) => energy.value(at, gradient), z, STEPS);
      energy.place(z, copy.positions, freedom);
      putBack(copy.positions, moving, lines, tree);
    });
  return copy;
}

/** What uneven edges and corners that are not square cost, by shifts of vertices in their tangent planes. */
class SlidingEnergy {
  /** by moving vertex, two directions it may go in: six numbers; of one on a line the second is 0 */
  private readonly ways: Float64Array;
  /** number among the moving ones by vertex, or -1 */
  private readonly numberOf: Int32Array;
  private readonly edges: Int32Array;
  /** a, middle, b of corners of quads */
  private readonly angles: Int32Array;
  private readonly wish: number;
  /** places without shifts, and with those asked for last */
  private readonly base: Float64Array;
  private readonly places: Float64Array;
  private readonly slope: Float64Array;

  constructor(
    { net, lines, positions }: MovingSurface,
    private readonly moving: Int32Array,
    wish: number | undefined
  ) {
    this.base = positions.slice();
    this.places = positions.slice();
    this.slope = new Float64Array(positions.length);
    this.numberOf = new Int32Array(net.slots).fill(-1);
    this.ways = new Float64Array(6 * moving.length);
    const normal = new Float64Array(3);
    moving.forEach((v, i) => {
      this.numberOf[v] = i;
      if (lines.kind[v] !== FREE) {
        const [a, b] = [3 * lines.along[2 * v], 3 * lines.along[2 * v + 1]];
        this.ways.set(unit([positions[b] - positions[a], positions[b + 1] - positions[a + 1], positions[b + 2] - positions[a + 2]]), 6 * i);
        return;
      }
      normalAt(net, positions, v, normal);
      const [x, y, z] = normal;
      const side = unit(Math.abs(x) < 0.6 ? [0, z, -y] : [-z, 0, x]);
      this.ways.set([...side, y * side[2] - z * side[1], z * side[0] - x * side[2], x * side[1] - y * side[0]], 6 * i);
    });
    const edges: number[] = [];
    const angles: number[] = [];
    for (const v of moving)
      for (let i = net.start[v]; i < net.start[v + 1]; i++) {
        const w = net.ring[i];
        if (this.numberOf[w] < 0 || v < w) edges.push(v, w);
      }
    const faces = new Set<number>();
    for (const v of moving) for (let i = net.facesStart[v]; i < net.facesStart[v + 1]; i++) faces.add(net.faces[i]);
    for (const f of faces) {
      const own = net.corners.subarray(net.faceStart[f], net.faceStart[f + 1]);
      if (own.length === 4) for (let i = 0; i < 4; i++) angles.push(own[(i + 3) % 4], own[i], own[(i + 1) % 4]);
    }
    this.edges = Int32Array.from(edges);
    this.angles = Int32Array.from(angles);
    this.wish = wish ?? meanLength(positions, this.edges);
  }

  /** Value at some shifts; its slope by them goes into `gradient`. */
  value(z: Float64Array, gradient: Float64Array): number {
    this.place(z, this.places);
    this.slope.fill(0);
    const value = this.ofEdges() + this.ofAngles();
    const { moving, ways, slope } = this;
    for (let i = 0; i < moving.length; i++)
      for (let way = 0; way < 2; way++) {
        let sum = 0;
        for (let k = 0; k < 3; k++) sum += ways[6 * i + 3 * way + k] * slope[3 * moving[i] + k];
        gradient[2 * i + way] = sum;
      }
    return value;
  }

  /** Puts the moving vertices where some shifts bring them. @param freedom by vertex, the share of its shift that it follows */
  place(z: Float64Array, into: Float64Array, freedom: (v: number) => number = () => 1): void {
    const { moving, ways, base } = this;
    for (let i = 0; i < moving.length; i++)
      for (let k = 0; k < 3; k++)
        into[3 * moving[i] + k] = base[3 * moving[i] + k] + freedom(moving[i]) * (z[2 * i] * ways[6 * i + k] + z[2 * i + 1] * ways[6 * i + 3 + k]);
  }

  private ofEdges(): number {
    const { edges, places: p, slope, wish } = this;
    let value = 0;
    for (let i = 0; i < edges.length; i += 2) {
      const [a, b] = [3 * edges[i], 3 * edges[i + 1]];
      const [x, y, z] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
      const long = Math.sqrt(x * x + y * y + z * z);
      const off = long / wish - 1;
      value += off * off;
      const push = long > 0 ? (2 * off) / (wish * long) : 0;
      slope[a] -= push * x;
      slope[a + 1] -= push * y;
      slope[a + 2] -= push * z;
      slope[b] += push * x;
      slope[b + 1] += push * y;
      slope[b + 2] += push * z;
    }
    return value;
  }

  /** The dot product of the edges at a corner, in squares of the wished length, is 0 where it is square. */
  private ofAngles(): number {
    const { angles, places: p, slope, wish } = this;
    const over = 1 / (wish * wish);
    let value = 0;
    for (let i = 0; i < angles.length; i += 3) {
      const [a, m, b] = [3 * angles[i], 3 * angles[i + 1], 3 * angles[i + 2]];
      let dot = 0;
      for (let k = 0; k < 3; k++) dot += (p[a + k] - p[m + k]) * (p[b + k] - p[m + k]);
      dot *= over;
      value += SQUARE * dot * dot;
      const push = 2 * SQUARE * dot * over;
      for (let k = 0; k < 3; k++) {
        const [ua, ub] = [p[a + k] - p[m + k], p[b + k] - p[m + k]];
        slope[a + k] += push * ub;
        slope[b + k] += push * ua;
        slope[m + k] -= push * (ua + ub);
      }
    }
    return value;
  }
}

function meanLength(p: Float64Array, edges: Int32Array): number {
  let sum = 0;
  for (let i = 0; i < edges.length; i += 2) {
    const [a, b] = [3 * edges[i], 3 * edges[i + 1]];
    sum += Math.hypot(p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]);
  }
  return (2 * sum) / edges.length || 1;
}
