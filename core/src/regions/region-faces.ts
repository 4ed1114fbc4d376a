import { waysAlong } from '../numeric/curve.ts';
import { length, subtract, type Triple } from '../numeric/vectors.ts';
import { counted } from '../operations/shared/words.ts';
import { cutPolygon } from './cut-polygon.ts';
import { type FlatPlaces } from './flatten.ts';
import { FEWEST, MOST, type RegionSides } from './region-sides.ts';

/** Faces of a region by their corners, in order; or why there are none. */
export type RegionFaces = number[][] | string;

/** What faces are made of: the sides of all regions, where their vertices lie, and a region in the plane. */
export interface FacesPlan {
  regions: readonly RegionSides[];
  /** corners that a border without any gets */
  cuts: number;
  at: (vertex: number) => Triple;
  /** places of a region that do not overlap; nothing where there are none */
  flat: (region: number) => FlatPlaces | undefined;
}

/**
 * Faces of regions. Borders with fewer corners than a face has get some, those across a ring opposite each other: neighbours share them, so that sides
 * meet. A ring is then cut from each corner to its counterpart, a disc to its middle, and what has holes or more corners than a face is cut from corner
 * to corner so that its faces are as square as they can be.
 * @returns by region
 */
export function facesOfRegions({ regions, cuts, at, flat }: FacesPlan): RegionFaces[] {
  const isCorner = new Set(regions.flatMap(({ corners }) => corners.flat()));
  const cornersOn = (loop: readonly number[]): number[] => loop.filter((v) => isCorner.has(v));
  const isBare = (loop: readonly number[]): boolean => cornersOn(loop).length < FEWEST;
  const own = regions.map(({ corners }) => corners.every((loop) => loop.length > 0));
  const rings = regions.filter(({ loops }) => loops.length === 2);
  const given = new Set<readonly number[]>();
  // borders that have corners hand them on across rings, until none is left that waits
  for (let changed = true; changed;) {
    changed = rings.some(({ loops: [a, b] }) => handOn(a, b, cornersOn, isCorner, at) || handOn(b, a, cornersOn, isCorner, at));
    if (changed) continue;
    // what has corners beside it first: its own turn towards them
    const bare = regions.flatMap((side) => side.loops.filter((loop) => isBare(loop) && !given.has(loop)).map((loop) => ({ side, loop })));
    const next = bare.find(({ side }) => side.loops.some((loop) => !isBare(loop))) ?? bare[0];
    if (!next) break;
    const many = next.side.loops.length > 2 ? Math.max(cuts, next.loop === longest(next.side.loops, at) ? next.side.loops.length - 1 : 0) : cuts;
    // one with too few vertices stays bare
    given.add(next.loop);
    for (const v of facing(next.loop, Math.max(FEWEST, many), cornersOn(next.loop), next.side.loops.flatMap(cornersOn), at)) isCorner.add(v);
    changed = true;
  }
  return regions.map((side, id) => {
    const corners = side.loops.map(cornersOn);
    if (corners.length === 0) return side.problem!;
    const bare = corners.find((loop) => loop.length < FEWEST);
    if (bare) return `A border of it has ${counted(bare.length, 'corner')}, and room for no more.`;
    // a disc is cut to its middle, however many corners its border was given
    if (corners.length === 1 && (corners[0].length <= MOST || !own[id])) return [corners[0]];
    if (corners.length === 2 && corners[0].length === corners[1].length) return ringFaces(corners[0], corners[1], at);
    return cutFlat(side.loops, corners, flat(id));
  });
}

/** Faces of a region that was laid flat. */
function cutFlat(loops: readonly (readonly number[])[], corners: readonly number[][], places: FlatPlaces | undefined): RegionFaces {
  if (!places) return 'Its borders touch, so it cannot be laid flat: split it there.';
  const place = (v: number) => places.get(v)!;
  const sized = loops.map((loop, i) => ({ corners: corners[i], line: loop, area: signedArea(loop.map(place)) }));
  sized.sort((a, b) => b.area - a.area);
  return cutPolygon(sized, place) ?? `Its borders have ${corners.flat().length} corners, too many for cuts to be found: split it.`;
}

const signedArea = (line: readonly (readonly [number, number])[]): number =>
  line.reduce((sum, p, i) => {
    const q = line[(i + 1) % line.length];
    return sum + 0.5 * (p[0] * q[1] - q[0] * p[1]);
  }, 0);

/** Gives the bare border of a ring the counterparts of the other's corners. @returns whether it did */
function handOn(
  from: readonly number[],
  to: readonly number[],
  cornersOn: (loop: readonly number[]) => number[],
  isCorner: Set<number>,
  at: (v: number) => Triple
): boolean {
  const corners = cornersOn(from);
  if (corners.length < FEWEST || cornersOn(to).length > 0) return false;
  const nearest = corners.map((v) => nearestOn(to, v, at));
  const isApart = new Set(nearest).size === corners.length;
  for (const v of isApart ? nearest : evenlyOn(to, corners.length, 0, at)) isCorner.add(v);
  return true;
}

const longest = (loops: readonly (readonly number[])[], at: (v: number) => Triple): readonly number[] =>
  loops.reduce((most, loop) => (aroundOf(loop, at) > aroundOf(most, at) ? loop : most));
const aroundOf = (loop: readonly number[], at: (v: number) => Triple): number => waysAlong([...loop, loop[0]].map(at))[loop.length];

/**
 * Corners for a bare border: those it has, and evenly many more; of all places that these can begin at, the ones that lie nearest to the corners of the
 * region's other borders.
 */
function facing(loop: readonly number[], many: number, has: readonly number[], others: readonly number[], at: (v: number) => Triple): number[] {
  if (has.length > 0) return evenlyOn(loop, Math.min(many, loop.length), loop.indexOf(has[0]), at);
  const around = others.filter((v) => !loop.includes(v));
  if (around.length === 0) return evenlyOn(loop, many, 0, at);
  const starts = [...Array(Math.ceil(loop.length / many)).keys()].map((start) => {
    const corners = evenlyOn(loop, many, start, at);
    return { corners, far: around.reduce((sum, v) => sum + apart(v, nearestOn(corners, v, at), at), 0) };
  });
  return starts.reduce((best, s) => (s.far < best.far ? s : best)).corners;
}

const apart = (a: number, b: number, at: (v: number) => Triple): number => length(subtract(at(a), at(b)));
const nearestOn = (loop: readonly number[], v: number, at: (v: number) => Triple): number =>
  loop.reduce((best, w) => (apart(w, v, at) < apart(best, v, at) ? w : best));

/** Vertices of a loop at about equal ways along it. @param start number along the loop of the first */
function evenlyOn(loop: readonly number[], many: number, start: number, at: (v: number) => Triple): number[] {
  const turned = [...loop.slice(start), ...loop.slice(0, start)];
  const ways = waysAlong([...turned, turned[0]].map(at));
  const whole = ways[loop.length];
  return Array.from({ length: many }, (_, k) => {
    const goal = (k * whole) / many;
    let best = 0;
    for (let i = 1; i < turned.length; i++) if (Math.abs(ways[i] - goal) < Math.abs(ways[best] - goal)) best = i;
    return turned[best];
  });
}

/** Quads between the two borders of a ring, which run against each other: each corner goes with the nearest in the sum. */
function ringFaces(a: readonly number[], b: readonly number[], at: (v: number) => Triple): RegionFaces {
  const many = a.length;
  const across = [...b].reverse();
  const shifts = [...Array(many).keys()].map((shift) => a.reduce((sum, v, i) => sum + apart(v, across[(i + shift) % many], at), 0));
  const shift = shifts.indexOf(Math.min(...shifts));
  return a.map((v, i) => [v, a[(i + 1) % many], across[(i + 1 + shift) % many], across[(i + shift) % many]]);
}
