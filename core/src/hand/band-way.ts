import Joi from 'joi';
import { curveThrough, pieceAt, waysAlong } from '../numeric/curve.ts';
import { add, between, cross, dot, scaled, subtract, type Triple, unit } from '../numeric/vectors.ts';
import { type Anchor, type SurfaceWalk } from './surface-walk.ts';

/** A clicked point of a band. */
export interface BandPoint {
  at: Triple;
  /** width there, as a share of the band's */
  wide: number;
  /** degrees by which the band lies turned about the normal there, against the sun */
  turn: number;
  /** it bends sharply there */
  kink: boolean;
}

/** Schema of clicked points. */
export const bandPointsSchema = Joi.array()
  .items(
    Joi.object({
      at: Joi.array().items(Joi.number()).length(3).required(),
      wide: Joi.number().min(0.05).max(20).default(1),
      turn: Joi.number().min(-80).max(80).default(0),
      kink: Joi.boolean().default(false)
    })
  )
  .max(1000)
  .default([]);

/** The way a band goes, from place to place; what it has beside places, it has at each. */
export interface BandWay {
  places: Triple[];
  wide?: number[];
  turn?: number[];
  /** numbers of the places it bends sharply at */
  kinks?: number[];
}

/** One row of a band, across the middle of its way. */
export interface BandRow {
  middle: Anchor;
  /** direction across, to the left; longer than 1 where a bend needs it */
  across: Triple;
  /** width there, as a share */
  wide: number;
}

/** Times that directions across are evened out along the way: an unsteady hand does not twist it. */
const STEADIED = 3;
/** Longest that a row at a sharp bend gets, in widths. */
const LONGEST = 3;
/** Pieces that a curve between two clicked points is drawn in. */
const PIECES = 16;

/** The way through clicked points: a curve that bends sharply at kinks alone. @param closed from the last on to the first */
export function wayThrough(points: readonly BandPoint[], closed: boolean): BandWay {
  const all = closed && points.length > 2 ? [...points, points[0]] : points;
  const kinks = all.flatMap(({ kink }, i) => (kink || i === 0 || i === all.length - 1 ? [i] : []));
  const way: Required<BandWay> = { places: [], wide: [], turn: [], kinks: [] };
  for (let k = 0; k + 1 < kinks.length; k++) {
    const leg = all.slice(kinks[k], kinks[k + 1] + 1);
    const curve =
      leg.length < 3
        ? leg.map(({ at }) => at)
        : curveThrough(
            leg.map(({ at }) => at),
            PIECES
          );
    curve.forEach((p, i) => {
      if (k > 0 && i === 0) return;
      const along = (i * (leg.length - 1)) / (curve.length - 1);
      const [from, share] = [Math.min(leg.length - 2, Math.floor(along)), along - Math.min(leg.length - 2, Math.floor(along))];
      const mixed = (of: (point: BandPoint) => number) => of(leg[from]) + share * (of(leg[from + 1]) - of(leg[from]));
      way.places.push(p);
      way.wide.push(mixed(({ wide }) => wide));
      way.turn.push(mixed(({ turn }) => turn));
    });
    if (k + 2 < kinks.length) way.kinks.push(way.places.length - 1);
  }
  // it closes by itself
  if (all !== points) for (const own of [way.places, way.wide, way.turn]) own.pop();
  if (closed && points[0]?.kink) way.kinks.unshift(0);
  return way;
}

/**
 * Rows of a band along a way on a reference, evenly apart; where it bends sharply there is one.
 * @param many quads along
 */
export function rowsAlong(walk: SurfaceWalk, way: BandWay, many: number, closed: boolean): BandRow[] {
  const round = closed ? [...way.places, way.places[0]] : way.places;
  const reached = waysAlong(round);
  const { at, kinks } = placedRows(reached, many, way.kinks ?? [], closed);
  let last: Triple | undefined;
  const rows = at.map((along) => {
    const [i, share] = pieceAt(reached, along);
    const of = (values: readonly number[] | undefined, otherwise: number) =>
      values ? values[i - 1] + share * (values[i % values.length] - values[i - 1]) : otherwise;
    const p = between(round[i - 1], round[i], share);
    // the next one lies on the same side
    const middle = walk.nearest(p, last) ?? walk.nearest(p)!;
    last = walk.normalAt(middle);
    return { middle, wide: of(way.wide, 1), turn: of(way.turn, 0) };
  });
  const sides = directionsAcross(
    walk,
    rows.map(({ middle }) => middle),
    closed,
    kinks
  );
  return rows.map(({ middle, wide, turn }, i) => ({ middle, wide, across: turned(sides[i], walk.normalAt(middle), turn) }));
}

/** Where rows lie along a way, mm, and which of them are those at kinks. */
function placedRows(reached: readonly number[], many: number, kinks: readonly number[], closed: boolean): { at: number[]; kinks: Set<number> } {
  const long = reached.at(-1)!;
  const ends = [0, ...kinks.map((k) => reached[k]).filter((way) => way > 0), long];
  const at: number[] = [];
  const bends = new Set<number>(closed && kinks.includes(0) ? [0] : []);
  let left = many;
  for (let leg = 0; leg + 1 < ends.length; leg++) {
    const [from, to] = [ends[leg], ends[leg + 1]];
    const legsAfter = ends.length - 2 - leg;
    // every leg has one row at least; the last one takes what is left
    const own = legsAfter === 0 ? left : Math.max(1, Math.min(left - legsAfter, Math.round((left * (to - from)) / (long - from || 1))));
    for (let i = 0; i < own; i++) at.push(from + (i * (to - from)) / own);
    left -= own;
    if (legsAfter > 0) bends.add(at.length);
  }
  if (!closed) at.push(long);
  return { at, kinks: bends };
}

/** Directions across a row of places, along the surface and to the left; at kinks as long as the bend needs. */
function directionsAcross(walk: SurfaceWalk, row: readonly Anchor[], closed: boolean, kinks: ReadonlySet<number>): Triple[] {
  const many = row.length;
  const next = (i: number, by: number) => (closed ? (i + by + many) % many : Math.min(many - 1, Math.max(0, i + by)));
  const normals = row.map((anchor) => walk.normalAt(anchor));
  let sides = row.map((_, i) => unit(cross(normals[i], subtract(row[next(i, 1)].at, row[next(i, -1)].at))));
  for (let time = 0; time < STEADIED; time++)
    sides = sides.map((own, i) => {
      if (kinks.has(i)) return own;
      // what lies beyond a bend says nothing
      const beside = [next(i, -1), next(i, 1)].filter((k) => !kinks.has(k)).map((k) => sides[k]);
      const sum = beside.reduce<Triple>((all, side) => add(all, scaled(side, 0.5)), own);
      return unit(subtract(sum, scaled(normals[i], dot(sum, normals[i]))));
    });
  return sides.map((side, i) => {
    if (!kinks.has(i)) return side;
    const into = unit(cross(normals[i], subtract(row[i].at, row[next(i, -1)].at)));
    return scaled(side, Math.min(LONGEST, 1 / Math.max(1e-6, dot(side, into))));
  });
}

/** A direction turned about a normal. @param by degrees */
function turned(d: Triple, normal: Triple, by: number): Triple {
  const angle = (by * Math.PI) / 180;
  return add(scaled(d, Math.cos(angle)), scaled(cross(normal, d), Math.sin(angle)));
}
