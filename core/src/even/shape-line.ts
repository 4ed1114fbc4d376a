import { curveThrough, placeAlong, sharesAlong, waysAlong } from '../numeric/curve.ts';
import { add, between, cross, dot, length, scaled, subtract, type Triple, unit } from '../numeric/vectors.ts';

/** How a row of points is shaped between those that stay. */
export interface LineShape {
  /** height in mm over the straight way between two points that stay; below 0 to the other side */
  bow: number;
  /** 1 for an arc of a circle, 0 for a peak in the middle */
  roundness: number;
  /** even distances, or the shares of the way that they have */
  spacing: 'even' | 'kept';
  /** whether a curve without corners goes through the points that stay, where there is no bow */
  smooth: boolean;
}

/**
 * Shapes a row of points between some that stay.
 * @param stays numbers of the points that stay, in order; of an open row the first and the last are among them
 * @param closed the row goes on from the last point to the first
 * @param towards direction that a bow goes to at a stretch between two that stay; it is made square to the stretch
 */
export function shapedLine(
  points: readonly Triple[],
  stays: readonly number[],
  closed: boolean,
  shape: LineShape,
  towards: (from: number, to: number) => Triple
): Triple[] {
  const made = points.map((p): Triple => [...p]);
  const ends = closed ? [...stays, stays[0] + points.length] : stays;
  const curve = shape.smooth && shape.bow === 0 && ends.length > 2 ? smoothPieces(ends.map((i) => points[i % points.length])) : undefined;
  for (let s = 0; s + 1 < ends.length; s++) {
    const [from, to] = [ends[s], ends[s + 1]];
    const piece = Array.from({ length: to - from + 1 }, (_, i) => points[(from + i) % points.length]);
    const place = curve ? alongRow(curve[s]) : bowed(piece[0], piece[piece.length - 1], shape, towards(from % points.length, to % points.length));
    const shares = shape.spacing === 'even' ? piece.map((_, i) => i / (piece.length - 1)) : sharesAlong(piece);
    for (let i = 1; i + 1 < piece.length; i++) made[(from + i) % points.length] = place(shares[i]);
  }
  return made;
}

/** Points close to each other on a curve through some, piece by piece; nothing where two of them lie in one place. */
function smoothPieces(through: readonly Triple[]): Triple[][] | undefined {
  const pieces = 24;
  const row = curveThrough(through, pieces);
  if (row.length !== pieces * (through.length - 1) + 1) return undefined;
  return through.slice(1).map((_, i) => row.slice(i * pieces, (i + 1) * pieces + 1));
}

/** Places at shares of the length along a row of points. */
function alongRow(row: readonly Triple[]): (share: number) => Triple {
  const ways = waysAlong(row);
  return (share) => placeAlong(row, ways, share * ways[ways.length - 1]);
}

/** Places at shares of an arc from a to b that is as high as the bow in the middle. */
function bowed(a: Triple, b: Triple, { bow, roundness }: LineShape, towards: Triple): (share: number) => Triple {
  const straight = (share: number) => between(a, b, share);
  const chord = subtract(b, a);
  const long = length(chord);
  if (bow === 0 || long === 0) return straight;
  const u = scaled(chord, 1 / long);
  const square = subtract(towards, scaled(u, dot(towards, u)));
  const up = length(square) > 1e-9 ? unit(square) : anySquare(u);
  const high = Math.abs(bow);
  const radius = (long * long) / (8 * high) + high / 2;
  // half the angle that the arc spans; beyond a half circle its middle lies on the bow's own side
  const half = 2 * Math.atan((2 * high) / long);
  const middle = between(a, b, 0.5);
  return (share) => {
    const angle = half * (2 * share - 1);
    const along = radius * Math.sin(angle);
    const height = radius * Math.cos(angle) - (radius - high);
    const peak = high * (1 - Math.abs(2 * share - 1));
    const flat = long * (share - 0.5);
    const [x, y] = [flat + roundness * (along - flat), peak + roundness * (height - peak)];
    return add(middle, add(scaled(u, x), scaled(up, Math.sign(bow) * y)));
  };
}

const anySquare = (u: Triple): Triple => unit(cross(u, Math.abs(u[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0]));

/** Points of a row where it turns by more than some degrees; of an open one its ends. */
export function cornersOf(points: readonly Triple[], closed: boolean, degrees: number): number[] {
  const n = points.length;
  const most = Math.cos((degrees * Math.PI) / 180);
  return [...points.keys()].filter((i) => {
    if (!closed && (i === 0 || i === n - 1)) return true;
    const before = unit(subtract(points[i], points[(i + n - 1) % n]));
    const after = unit(subtract(points[(i + 1) % n], points[i]));
    return dot(before, after) < most;
  });
}
