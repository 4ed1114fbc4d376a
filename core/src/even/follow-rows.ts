import { type Cage } from '../mesh/cage.ts';
import { curveBetween, sharesAlong } from '../numeric/curve.ts';
import { add, scaled, subtract, type Triple, weightedSum } from '../numeric/vectors.ts';
import { straightOn } from '../select/loops.ts';

/** How vertices follow the rows beside them. */
export interface RowSettings {
  /** share of the way, 0 to 1 */
  strength: number;
  /** whether they lie at even distances between the rows, or at the shares they have */
  spacing: 'even' | 'kept';
}

/** Places of vertices that follow rows, and those that cannot. */
export interface FollowedRows {
  places: Map<number, Triple>;
  /** vertices without a row on both sides */
  alone: RowMissing[];
}

/** Why a vertex has no row on one side, and where that is: a border or a pole comes first, or what follows goes all the way round. */
export interface RowMissing {
  vertex: number;
  why: 'border' | 'pole' | 'round';
  at: number;
}

/** Vertices that one way across may pass before it comes to a row. */
const LONGEST = 400;

/**
 * Puts vertices where the rows beside them say: on the curve through the two vertices before and the two after them along the edges that cross
 * the row (centripetal Catmull-Rom: Yuksel, Schaefer, Keyser 2011). Where edges cross in two ways, the shorter way counts more.
 * @param vertices those that follow; all others stay, and make the rows
 * @param along edges that run along what follows: never across it
 */
export function followRows(cage: Cage, vertices: readonly number[], along: ReadonlySet<number>, { strength, spacing }: RowSettings): FollowedRows {
  const follows = new Set(vertices);
  const places = new Map<number, Triple>();
  const alone: RowMissing[] = [];
  for (const v of vertices) {
    const ways = crossings(cage, v, follows, along);
    if (!Array.isArray(ways)) {
      alone.push(ways);
      continue;
    }
    // a way across many vertices says less of each of them
    const weights = ways.map(({ row }) => 1 / row.length ** 2);
    const all = weights.reduce((sum, w) => sum + w, 0);
    const goal = weightedSum(ways.map((way, i): [number, Triple] => [weights[i] / all, placeOn(cage, way, spacing)]));
    const from = cage.position(v);
    places.set(v, add(from, scaled(subtract(goal, from), strength)));
  }
  return { places, alone };
}

/** A way across: vertices that follow from row to row, which of them is meant, and the rows' vertices, the nearer one first. */
interface Crossing {
  row: number[];
  own: number;
  before: number[];
  after: number[];
}

/** The ways across at a vertex, or why there is none. */
function crossings(cage: Cage, v: number, follows: ReadonlySet<number>, along: ReadonlySet<number>): Crossing[] | RowMissing {
  const spokes = cage.spokes(v);
  // opposite ways; at a pole no edge goes straight on
  if (cage.isBorderVertex(v)) return { vertex: v, why: 'border', at: v };
  if (spokes.length !== 4) return { vertex: v, why: 'pole', at: v };
  let missing: RowMissing = { vertex: v, why: 'round', at: v };
  const found: Crossing[] = [];
  for (const pair of [0, 1].map((i) => [spokes[i], spokes[i + 2]])) {
    if (pair.some((h) => along.has(h >> 1))) continue;
    const [back, ahead] = pair.map((h) => walked(cage, h, follows));
    if ('why' in back) missing = { vertex: v, ...back };
    else if ('why' in ahead) missing = { vertex: v, ...ahead };
    else found.push({ row: [...back.passed.reverse(), v, ...ahead.passed], own: back.passed.length, before: back.rows, after: ahead.rows });
  }
  return found.length > 0 ? found : missing;
}

/** Goes straight on until a vertex does not follow. @returns the ones passed, and up to two of the rows behind them; or what came first */
function walked(cage: Cage, start: number, follows: ReadonlySet<number>): { passed: number[]; rows: number[] } | Omit<RowMissing, 'vertex'> {
  const passed: number[] = [];
  let h = start;
  while (follows.has(cage.target(h))) {
    const at = cage.target(h);
    passed.push(at);
    if (cage.isBorderVertex(at)) return { why: 'border', at };
    const next = straightOn(cage, h);
    if (next < 0) return { why: 'pole', at };
    if (passed.length > LONGEST || next === start) return { why: 'round', at };
    h = next;
  }
  const near = cage.target(h);
  const next = cage.isBorderVertex(near) ? -1 : straightOn(cage, h);
  const far = next < 0 ? undefined : cage.target(next);
  return { passed, rows: far === undefined || follows.has(far) ? [near] : [near, far] };
}

function placeOn(cage: Cage, { row, own, before, after }: Crossing, spacing: RowSettings['spacing']): Triple {
  const at = (v: number) => cage.position(v);
  const [b, c] = [at(before[0]), at(after[0])];
  // where there is no second row, the curve goes on as it bends on the other side
  const a = before.length > 1 ? at(before[1]) : beyond(b, c, after.length > 1 ? at(after[1]) : undefined);
  const d = after.length > 1 ? at(after[1]) : beyond(c, b, before.length > 1 ? at(before[1]) : undefined);
  return curveBetween([a, b, c, d])(spacing === 'even' ? (own + 1) / (row.length + 1) : sharesAlong([b, ...row.map(at), c])[own + 1]);
}

/** What comes before `from` where the way goes on to `to` and `after`. */
const beyond = (from: Triple, to: Triple, after?: Triple): Triple =>
  after
    ? weightedSum([
        [3, from],
        [-3, to],
        [1, after]
      ])
    : subtract(scaled(from, 2), to);
