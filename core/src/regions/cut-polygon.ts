import { leastCut } from '../numeric/least-cut.ts';
import { middleOfSide, sidesAlong } from './region-sides.ts';

/** A place in the plane. */
type Place = readonly [number, number];

/** Corners that a polygon may have once its holes are joined to its border, for it to be cut: the search takes the fourth power of them. */
export const MOST_CORNERS = 72;
/** What a cut that crosses a border counts, in corners that are off by 90 degrees; and a triangle, where quads would do. */
const [CROSSING, TRIANGLE] = [40, 3];
/** What a face counts that is turned over or bent inwards. */
const INWARD = 60;

/** A border of a region: its vertices in order, and which of them are corners. */
export interface PolygonLoop {
  corners: readonly number[];
  line: readonly number[];
}

/**
 * Cuts a polygon with holes into quads, with a triangle where its corners are odd in number: holes are joined to what is nearest, and of all ways
 * to cut what comes of it from corner to corner the one is taken whose faces have the squarest corners.
 * @param loops the outer border first, counter-clockwise, then holes, clockwise
 * @param place of each vertex in the plane
 * @returns corners of each face; nothing where there are too many
 */
export function cutPolygon(loops: readonly PolygonLoop[], place: (vertex: number) => Place): number[][] | undefined {
  const many = loops.reduce((sum, { corners }) => sum + corners.length + 2, -2);
  if (many > MOST_CORNERS || many < 3) return undefined;
  const lines = loops.map(({ line }) => line.map(place));
  const round = joined(loops, lines, place);
  return cheapestCut(round, lines, place, bends(loops, place));
}

/** One way round all borders of a polygon: each hole is joined by a cut there and back to the nearest corner. */
function joined(loops: readonly PolygonLoop[], lines: readonly (readonly Place[])[], place: (vertex: number) => Place): number[] {
  let round = [...loops[0].corners];
  const waiting = loops.slice(1).map(({ corners }) => [...corners]);
  while (waiting.length > 0) {
    let best = { cost: Infinity, hole: 0, from: 0, to: 0 };
    waiting.forEach((corners, hole) =>
      corners.forEach((corner, from) =>
        round.forEach((other, to) => {
          const [a, b] = [place(corner), place(other)];
          const far = Math.hypot(a[0] - b[0], a[1] - b[1]);
          const isInside = liesBetween(a, place(round[(to + round.length - 1) % round.length]), b, place(round[(to + 1) % round.length]));
          const cost = far * (1 + CROSSING * crossings(a, b, lines)) * (isInside ? 1 : 2);
          if (cost < best.cost) best = { cost, hole, from, to };
        })
      )
    );
    const [hole] = waiting.splice(best.hole, 1);
    const turned = [...hole.slice(best.from), ...hole.slice(0, best.from), hole[best.from]];
    round = [...round.slice(0, best.to + 1), ...turned, ...round.slice(best.to)];
  }
  return round;
}

/** Whether a place lies in the corner between two sides that run counter-clockwise. */
function liesBetween(p: Place, before: Place, corner: Place, after: Place): boolean {
  const left = side(before, corner, p) > 0;
  const right = side(corner, after, p) > 0;
  return side(before, corner, after) > 0 ? left && right : left || right;
}

const side = (a: Place, b: Place, p: Place): number => (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);

/** How often the straight way between two corners crosses borders. */
function crossings(a: Place, b: Place, lines: readonly (readonly Place[])[]): number {
  let count = 0;
  for (const line of lines)
    for (let i = 0; i < line.length; i++) {
      const [p, q] = [line[i], line[(i + 1) % line.length]];
      if (side(a, b, p) * side(a, b, q) < 0 && side(p, q, a) * side(p, q, b) < 0) count++;
    }
  return count;
}

/** Places half way along the sides of borders, which may be round, by the corners that they run from and to. */
function bends(loops: readonly PolygonLoop[], place: (vertex: number) => Place): Map<string, Place> {
  const sides = sidesAlong(
    loops.map(({ line }) => line),
    new Set(loops.flatMap(({ corners }) => corners))
  );
  return new Map([...sides].map(([ends, side]) => [ends, between(...(middleOfSide(side).map(place) as [Place, Place]))]));
}

const between = (p: Place, q: Place): Place => [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];

/**
 * What the corners of a face count: squares of what they are off 90 degrees, in right angles.
 * @param bend place on the way from each corner to the next
 */
function shapeCost(corners: readonly Place[], bend: readonly Place[]): number {
  let cost = corners.length === 3 ? TRIANGLE : 0;
  corners.forEach((p, i) => {
    const [before, after] = [bend[(i + corners.length - 1) % corners.length], bend[i]];
    const turn = Math.atan2(side(before, p, after), (p[0] - before[0]) * (after[0] - p[0]) + (p[1] - before[1]) * (after[1] - p[1]));
    const off = 1 - turn / (Math.PI / 2);
    cost += off * off + (turn <= 0.02 ? INWARD : 0);
  });
  return cost;
}

/** The faces of least cost that a way round is cut into. */
function cheapestCut(
  round: readonly number[],
  lines: readonly (readonly Place[])[],
  place: (vertex: number) => Place,
  bend: ReadonlyMap<string, Place>
): number[][] | undefined {
  const n = round.length;
  const at = round.map(place);
  const bendOf = round.map((v, i) => bend.get(`${v} ${round[(i + 1) % n]}`));
  const way = (i: number, j: number): Place => ((i + 1) % n === j && bendOf[i]) || between(at[i], at[j]);
  // a cut along what is a side already would lie on it
  const sides = new Set(round.map((v, i) => keyOf(v, round[(i + 1) % n])));
  const cut = leastCut(
    n,
    (corners) => {
      if (new Set(corners.map((c) => round[c])).size < corners.length) return Infinity;
      return shapeCost(
        corners.map((c) => at[c]),
        corners.map((c, m) => way(c, corners[(m + 1) % corners.length]))
      );
    },
    (i, j) => (round[i] === round[j] || sides.has(keyOf(round[i], round[j])) ? Infinity : CROSSING * crossings(at[i], at[j], lines))
  );
  return cut?.map((corners) => corners.map((c) => round[c]));
}

const keyOf = (a: number, b: number): string => (a < b ? `${a} ${b}` : `${b} ${a}`);
