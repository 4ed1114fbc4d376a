import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { waysAlong } from '../numeric/curve.ts';
import { PointGrid } from '../numeric/point-grid.ts';
import { takenOnce, type Pair } from '../numeric/taken-once.ts';
import { between, closestOnSegment, length, scaled, subtract, type Triple } from '../numeric/vectors.ts';
import { type Act, type Place, there } from './acts.ts';
import { type BandWay, rowsAlong } from './band-way.ts';
import { outlineOf } from './outline.ts';
import { type SurfaceWalk } from './surface-walk.ts';

/** A strip of quads along a stroke. */
export interface BandSettings {
  /** quads along; 0: as many as make them about square */
  along: number;
  across: number;
  /** mm */
  width: number;
  /** it comes back to where it began */
  closed: boolean;
}

/** Near misses are told up to so many weld distances. */
const MISSED = 2.5;

/** Why a way makes no band; nothing where it does. @param way on the reference */
export function bandProblem({ places, kinks = [] }: BandWay, { width, along }: BandSettings): string | undefined {
  if (places.length < 2) return 'A band needs a stroke: drag over the reference, or click its points.';
  if (along > 0 && along < kinks.length + 1)
    return `${along} along is too few: it bends sharply ${kinks.length === 1 ? 'once' : `${kinks.length} times`}.`;
  const long = waysAlong(places).at(-1)!;
  return long < 0.1 * width ? `The stroke is ${long.toFixed(2)} mm long: too short for a band ${width} mm wide.` : undefined;
}

/**
 * A strip of quads along a way on a reference: the way is parted evenly, directions across are those of normal and way, and both sides are walked to
 * over the surface.
 * @param way two places or more
 * @returns rows of places across, one after the other, and the faces as an act
 */
export function bandAlong(
  walk: SurfaceWalk,
  way: BandWay,
  { along, across, width, closed }: BandSettings
): { act: Extract<Act, { do: 'faces' }>; rows: number } {
  const long = waysAlong(closed ? [...way.places, way.places[0]] : way.places).at(-1)!;
  const fewest = Math.max(closed ? 3 : 1, (way.kinks?.length ?? 0) + 1);
  const many = along > 0 ? along : Math.max(fewest, Math.round((long * across) / width));
  const rows = rowsAlong(walk, way, many, closed);
  const places: Place[] = rows.flatMap(({ middle, across: side, wide }) =>
    Array.from({ length: across + 1 }, (_, j) => walk.step(middle, scaled(side, (j / across - 0.5) * width * wide)).at)
  );
  const at = (i: number, j: number) => (i % rows.length) * (across + 1) + j;
  const faces = Array.from({ length: many }, (_, i) =>
    Array.from({ length: across }, (_, j) => [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)])
  ).flat();
  return { act: { do: 'faces', places, faces }, rows: rows.length };
}

/** What a new strip meets: its places, with those within the weld distance of a border vertex put there. */
export interface Welded {
  places: Place[];
  welds: number;
  /** places that just miss one, and by how many mm */
  misses: { at: Triple; by: number }[];
}

/**
 * Welds what lies on the outline of new faces to border vertices of a cage within a distance; every vertex is taken once.
 * @param only numbers of the places that may; left out: all of the outline
 */
export function weldedTo(cage: Cage, { places, faces }: Extract<Act, { do: 'faces' }>, weld: number, only?: ReadonlySet<number>): Welded {
  const open = new PointGrid(MISSED * weld || Number.MIN_VALUE);
  for (const v of cage.vertices()) if (cage.vertexEdge[v] === NONE || cage.isBorderVertex(v)) open.put(v, ...cage.position(v));
  const pairs: Pair[] = [];
  for (const i of new Set(outlineOf(faces).flat())) {
    if (only && !only.has(i)) continue;
    const [x, y, z] = places[i];
    open.visitNear(x, y, z, (v) => {
      const by = length(subtract(cage.position(v), [x, y, z]));
      if (by < MISSED * weld) pairs.push({ from: i, to: v, by });
    });
  }
  const put = [...places];
  const met = takenOnce(pairs);
  for (const { from, to, by } of met) if (by <= weld) put[from] = there(cage.position(to));
  const misses = met.flatMap(({ from, by }) => {
    const [x, y, z] = places[from];
    return by > weld ? [{ at: [x, y, z] as Triple, by }] : [];
  });
  return { places: put, welds: met.length - misses.length, misses };
}

/** The rows of a band at its two ends, as numbers of places. @param places how many there are */
export const endsOf = (places: number, across: number): ReadonlySet<number> =>
  new Set(Array.from({ length: across + 1 }, (_, j) => [j, places - 1 - j]).flat());

/**
 * How many edges of a chain of a cage lie along an end of a band: vertices of its border that are near the line across.
 * @param line from side to side
 * @param near mm
 */
export function edgesAlong(cage: Cage, [a, b]: readonly [Triple, Triple], near: number): number {
  let met = 0;
  for (const v of cage.vertices()) {
    if (cage.vertexEdge[v] === NONE || !cage.isBorderVertex(v)) continue;
    const p = cage.position(v);
    if (length(subtract(p, closestOnSegment(p, a, b))) <= near) met++;
  }
  return Math.max(0, met - 1);
}

/** Whether a band comes to lie over itself: two rows that are far from each other along it lie nearer than half its width. @param rows in order */
export function liesOverItself(rows: readonly Triple[], width: number, closed: boolean): boolean {
  const reached = waysAlong(rows);
  const long = reached.at(-1)!;
  const near = new PointGrid(Math.max(width, Number.MIN_VALUE));
  rows.forEach((p, i) => near.put(i, ...p));
  let over = false;
  rows.forEach((p, i) =>
    near.visitNear(...p, (k) => {
      const apart = Math.abs(reached[k] - reached[i]);
      if (Math.min(apart, closed ? long - apart : Infinity) > 1.5 * width && length(subtract(rows[k], p)) < 0.5 * width) over = true;
    })
  );
  return over;
}

/** The longer part of a way that lies on one side of a mirror, from the mirror on. @param axis of the mirror, which lies at 0 */
export function onOneSide(way: BandWay, axis: number): BandWay {
  const { places } = way;
  const crossings = places.flatMap((p, i) => (i > 0 && p[axis] * places[i - 1][axis] < 0 ? [i] : []));
  if (crossings.length === 0) return way;
  const cuts = [0, ...crossings, places.length];
  const part = cuts.slice(1).map((to, k): [number, number] => [cuts[k], to]);
  const long = ([from, to]: [number, number]) => waysAlong(places.slice(from, to)).at(-1)!;
  const [from, to] = part.reduce((a, b) => (long(b) > long(a) ? b : a));
  const crossing = (i: number): Triple => {
    const [a, b] = [places[i - 1], places[i]];
    const p = between(a, b, a[axis] / (a[axis] - b[axis]));
    p[axis] = 0;
    return p;
  };
  const own = <T>(values: readonly T[], at: (i: number) => T): T[] => [
    ...(from > 0 ? [at(from)] : []),
    ...values.slice(from, to),
    ...(to < places.length ? [at(to)] : [])
  ];
  const shift = (from > 0 ? 1 : 0) - from;
  return {
    places: own(places, crossing),
    wide: way.wide && own(way.wide, (i) => way.wide![i]),
    turn: way.turn && own(way.turn, () => 0),
    kinks: way.kinks?.filter((k) => k >= from && k < to).map((k) => k + shift)
  };
}
