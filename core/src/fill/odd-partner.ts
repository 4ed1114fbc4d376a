import FlatQueue from 'flatqueue';
import { type Cage } from '../mesh/cage.ts';
import { splitEdge, splitFace } from '../mesh/euler-operators.ts';
import { NONE } from '../mesh/half-edges.ts';
import { replaceFaces } from '../mesh/replace-faces.ts';
import { cornersInOneFace } from '../mesh/topology.ts';
import { mean, type Triple } from '../numeric/vectors.ts';
import { holesOf, type Hole } from './hole.ts';

/** A way across faces from an odd border to what else is odd: a face, or another border. */
export interface Strip {
  /** half-edges it crosses, seen from the faces it enters; the first lies on the border it starts from */
  crossed: number[];
  /** faces in which it turns from one side to the next */
  turns: number;
  /** the odd face at its end, or NONE where it ends at a border */
  face: number;
  /** where it ends */
  place: Triple;
}

/** What a turn costs more than a face crossed: it leaves a pole of three inside, and one edge more at the corner it goes round. */
const TURN = 4;

/**
 * The cheapest strip from an odd border to another odd border or an odd face (Dijkstra 1959, over faces). Split along it, the
 * border has an edge more, and so has what it ends at: both are even. Nothing where there is no partner, or no way over quads.
 */
export function stripToPartner(cage: Cage, hole: Hole): Strip | undefined {
  const oddBorders = holesOf(cage).filter((other) => other.vertices.length % 2 !== 0);
  return stripToBorder(cage, hole.halves, new Set(oddBorders.flatMap(({ halves }) => halves)));
}

/** The same from some half-edges of a border to the first of others, or to an odd face. */
export function stripToBorder(cage: Cage, from: readonly number[], ends: ReadonlySet<number>): Strip | undefined {
  const own = new Set(from);
  const steps: { entered: number; before: number; turns: number }[] = from.map((h) => ({ entered: h ^ 1, before: NONE, turns: 0 }));
  const queue = new FlatQueue<number>();
  steps.forEach((_, i) => queue.push(i, 0));
  const done = new Set<number>();
  while (queue.length > 0) {
    const cost = queue.peekValue()!;
    const at = queue.pop()!;
    const { entered, turns } = steps[at];
    const f = cage.face[entered];
    const ended = f === NONE ? ends.has(entered) : cage.faceSize(f) % 2 !== 0;
    if (ended) {
      const crossed: number[] = [];
      for (let k = at; k !== NONE; k = steps[k].before) crossed.unshift(steps[k].entered);
      return { crossed, turns, face: f, place: middleOf(cage, entered >> 1) };
    }
    if (f === NONE || done.has(f) || cage.faceSize(f) !== 4) continue;
    done.add(f);
    const [left, straight, right] = cage.loopOf(entered).slice(1);
    for (const h of [left, straight, right]) {
      const turn = h === straight ? 0 : 1;
      if (own.has(h ^ 1) || done.has(cage.face[h ^ 1])) continue;
      queue.push(steps.push({ entered: h ^ 1, before: at, turns: turns + turn }) - 1, cost + 1 + TURN * turn);
    }
  }
  return undefined;
}

const middleOf = (cage: Cage, e: number): Triple => mean([cage.position(cage.origin[2 * e]), cage.position(cage.origin[2 * e + 1])]);

/** Splits the faces along a strip. Changes the cage. @returns the edges of the strip's middle line */
export function runStrip(cage: Cage, { crossed }: Strip): number[] {
  const middles = crossed.map((h) => splitEdge(cage, h >> 1, 0.5));
  const line: number[] = [];
  for (let i = 1; i < middles.length; i++) {
    const corners = cornersInOneFace(cage, middles[i - 1], middles[i]);
    if (!corners) continue;
    const round = cage.loopOf(corners[0]).map((h) => cage.origin[h]);
    const at = round.indexOf(middles[i]);
    if (at === 3) splitFace(cage, corners[0], corners[1]);
    else turnIn(cage, cage.face[corners[0]], at === 2 ? round : [...round.slice(at), ...round.slice(0, at)]);
    line.push(...linksOf(cage, middles[i - 1], middles[i]));
  }
  halveSix(cage, crossed[crossed.length - 1], middles[middles.length - 1]);
  return line;
}

/** Three quads for a quad with points on two sides that meet: round = point, corner between, point, and the three others. */
function turnIn(cage: Cage, f: number, [a, corner, b, p, q, r]: number[]): void {
  const centre = cage.addVertex(...mean([a, corner, b, p, q, r].map((v) => cage.position(v))));
  replaceFaces(cage, {
    gone: [f],
    added: [
      [a, corner, b, centre],
      [centre, b, p, q],
      [a, centre, q, r]
    ].map((corners) => ({ corners, like: f }))
  });
}

/** Edges between two vertices, over one between them or directly. */
function linksOf(cage: Cage, v: number, w: number): number[] {
  const straight = cage.findHalfEdge(v, w);
  if (straight !== NONE) return [straight >> 1];
  const shared = cage.spokes(v).find((h) => cage.valence(cage.target(h)) === 3 && cage.findHalfEdge(cage.target(h), w) !== NONE);
  return shared === undefined ? [] : [shared >> 1, cage.findHalfEdge(cage.target(shared), w) >> 1];
}

/** A face of five corners that got a sixth is split into two quads from there. */
function halveSix(cage: Cage, entered: number, middle: number): void {
  const f = cage.face[entered];
  if (f === NONE || cage.faceSize(f) !== 6) return;
  const six = cage.loopOf(cage.faceEdge[f]);
  const at = six.findIndex((h) => cage.origin[h] === middle);
  if (cage.findHalfEdge(middle, cage.origin[six[(at + 3) % 6]]) === NONE) splitFace(cage, six[at], six[(at + 3) % 6]);
}
