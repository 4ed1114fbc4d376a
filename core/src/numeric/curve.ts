import { add, between, cross, dot, length, scaled, subtract, unit, type Triple } from './vectors.ts';

/** A place on a curve with directions that turn as little as can be along it. */
export interface CurveFrame {
  point: Triple;
  tangent: Triple;
  side: Triple;
  up: Triple;
}

/**
 * The centripetal Catmull-Rom curve through points (Catmull, Rom 1974; parametrised after Yuksel, Schaefer, Keyser 2011),
 * as a row of points close to each other.
 */
export function curveThrough(points: readonly Triple[], pieces = 16): Triple[] {
  const kept = points.filter((p, i) => i === 0 || length(subtract(p, points[i - 1])) > 1e-9);
  if (kept.length < 3) return kept.slice();
  const last = kept.length - 1;
  // beyond the ends the curve goes on as it came
  const all = [subtract(scaled(kept[0], 2), kept[1]), ...kept, subtract(scaled(kept[last], 2), kept[last - 1])];
  const row: Triple[] = [kept[0]];
  for (let i = 1; i <= last; i++) {
    const four = all.slice(i - 1, i + 3);
    const knots = [0];
    for (let k = 1; k < 4; k++) knots.push(knots[k - 1] + Math.sqrt(length(subtract(four[k], four[k - 1]))));
    for (let s = 1; s <= pieces; s++) row.push(catmullRom(four, knots, knots[1] + ((knots[2] - knots[1]) * s) / pieces));
  }
  return row;
}

/**
 * Places between the second and the third of four points, on the same curve through them.
 * @returns the place at a share of the way, 0 to 1
 */
export function curveBetween(four: readonly [Triple, Triple, Triple, Triple], pieces = 32): (share: number) => Triple {
  const knots = [0];
  // points that lie in one place are parted by next to nothing
  for (let k = 1; k < 4; k++) knots.push(knots[k - 1] + Math.sqrt(Math.max(1e-12, length(subtract(four[k], four[k - 1])))));
  const at = (s: number) => catmullRom([...four], knots, knots[1] + (knots[2] - knots[1]) * s);
  const reached = waysAlong(Array.from({ length: pieces + 1 }, (_, i) => at(i / pieces)));
  return (share) => {
    const [piece, part] = pieceAt(reached, share * reached[pieces]);
    return at((piece - 1 + part) / pieces);
  };
}

/** How far along a row of points each of them lies, mm. */
export function waysAlong(points: readonly Triple[]): number[] {
  const ways = [0];
  for (let i = 1; i < points.length; i++) ways.push(ways[i - 1] + length(subtract(points[i], points[i - 1])));
  return ways;
}

/** The piece of a row of points in which a way along it ends, and the share of that piece. @param ways as `waysAlong` has them @returns piece i runs from point i - 1 to point i */
export function pieceAt(ways: readonly number[], way: number): [piece: number, share: number] {
  let [i, last] = [1, ways.length - 1];
  while (i < last) {
    const middle = (i + last) >> 1;
    if (ways[middle] < way) i = middle + 1;
    else last = middle;
  }
  const span = ways[i] - ways[i - 1];
  return [i, span > 0 ? Math.min(1, Math.max(0, (way - ways[i - 1]) / span)) : 0];
}

/** The place on a row of points at a way along it. @param ways as `waysAlong` has them */
export function placeAlong(points: readonly Triple[], ways: readonly number[], way: number): Triple {
  const [i, share] = pieceAt(ways, way);
  return between(points[i - 1], points[i], share);
}

/** Places at even distances along a row of points, both ends among them; along a closed one as many as there are pieces. */
export function evenlyAlong(points: readonly Triple[], pieces: number, closed: boolean): Triple[] {
  const way = closed ? [...points, points[0]] : points;
  const reached = waysAlong(way);
  return Array.from({ length: closed ? pieces : pieces + 1 }, (_, i) => placeAlong(way, reached, (i * reached.at(-1)!) / pieces));
}

/** Shares of the way along a row at which its points lie; where it has no length, evenly. */
export function sharesAlong(points: readonly Triple[]): number[] {
  const ways = waysAlong(points);
  const whole = ways[ways.length - 1];
  return ways.map((way, i) => (whole > 0 ? way / whole : i / (points.length - 1)));
}

function catmullRom(four: Triple[], knots: number[], t: number): Triple {
  let level = four;
  for (let width = 1; width <= 3; width++) {
    const next: Triple[] = [];
    for (let i = 0; i + 1 < level.length; i++) {
      // the last two blends lie over the middle interval (Barry, Goldman 1988)
      const from = width === 3 ? knots[1] : knots[i];
      const to = width === 3 ? knots[2] : knots[i + width];
      next.push(between(level[i], level[i + 1], (t - from) / (to - from)));
    }
    level = next;
  }
  return level[0];
}

/** Frames along a row of points, turned as little as can be (double reflection: Wang, Juttler, Zheng, Liu 2008). */
export class FramedCurve {
  readonly length: number;
  private readonly reached: number[];
  private readonly tangents: Triple[];
  private readonly sides: Triple[];

  /** @param side wished direction of the first frame's side; made square to the curve */
  constructor(
    private readonly points: readonly Triple[],
    side: Triple
  ) {
    const n = points.length;
    this.reached = waysAlong(points);
    this.length = this.reached[n - 1];
    this.tangents = points.map((_, i) => unit(subtract(points[Math.min(n - 1, i + 1)], points[Math.max(0, i - 1)])));
    const square = (v: Triple, t: Triple) => unit(subtract(v, scaled(t, dot(v, t))));
    let first = square(side, this.tangents[0]);
    if (length(first) < 0.5) first = square(cross(this.tangents[0], [0, 1, 0]), this.tangents[0]);
    if (length(first) < 0.5) first = square([1, 0, 0], this.tangents[0]);
    this.sides = [first];
    for (let i = 0; i + 1 < n; i++) {
      const across = subtract(points[i + 1], points[i]);
      const reflected = (v: Triple, by: Triple) => subtract(v, scaled(by, (2 * dot(v, by)) / (dot(by, by) || 1)));
      const side1 = reflected(this.sides[i], across);
      const tangent1 = reflected(this.tangents[i], across);
      this.sides.push(square(reflected(side1, subtract(this.tangents[i + 1], tangent1)), this.tangents[i + 1]));
    }
  }

  /** The frame at a way along the curve in mm; before and behind it the curve goes on straight. */
  at(way: number): CurveFrame {
    const [i, t] = pieceAt(this.reached, way);
    const tangent = unit(between(this.tangents[i - 1], this.tangents[i], t));
    const rough = between(this.sides[i - 1], this.sides[i], t);
    const side = unit(subtract(rough, scaled(tangent, dot(rough, tangent))));
    const beyond = way - Math.min(this.length, Math.max(0, way));
    const point = add(between(this.points[i - 1], this.points[i], t), scaled(tangent, beyond));
    return { point, tangent, side, up: cross(tangent, side) };
  }
}
