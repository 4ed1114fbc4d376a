import { PlaceFit } from '../numeric/place-fit.ts';
import { add, between, length, mean, scaled, subtract, type Triple } from '../numeric/vectors.ts';
import { coarsened, refineFrom } from './coarse-patch.ts';
import { type RunIn } from './hole.ts';
import { type Patch } from './patch.ts';
import { rowsThrough, type Row } from './patch-rows.ts';

/** Points of a patch inside above which only some of the rows are settled, and those between put on splines through them. */
const MANY_POINTS = 150;
const ROUNDS = 8;
/** Least share of the swell that keeps the places defined. */
const LEAST = 1e-6;

/**
 * Moves the points inside a patch to where the curvature of its rows changes least (Moreton, Sequin 1992), running on from the
 * edges that come in from outside, or to where it is stretched least, or between the two. How far apart rows lie is found in
 * a few rounds. Changes the patch.
 * @param runs how edges come in from outside at each border point
 * @param swell 0: stretched least, to 1: curved on
 */
export function settlePatch(patch: Patch, runs: readonly (RunIn | undefined)[], swell: number): void {
  const coarse = patch.places.length - patch.rim > MANY_POINTS ? coarsened(patch, MANY_POINTS) : undefined;
  const before = [...patch.places];
  const settling = new Settling(patch, coarse?.quads ?? patch.quads, runs);
  if (swell < 1) settling.solve(0);
  const flat = [...patch.places];
  if (swell > 0) for (let round = 0; round < ROUNDS; round++) settling.solve(1);
  // where hardly anything comes in, or what does contradicts itself, curving on has no bounds
  if (!staysNear(patch)) patch.places.splice(0, patch.places.length, ...(swell < 1 ? flat : before));
  if (swell > 0 && swell < 1) patch.places.forEach((place, p) => (patch.places[p] = between(flat[p], place, swell)));
  if (coarse) refineFrom(patch, before, coarse);
}

/** How far points inside may lie from the middle of the border, in distances of its farthest point. */
const FAR = 4;

function staysNear({ places, rim }: Patch): boolean {
  const middle = mean(places.slice(0, rim));
  const off = (p: Triple) => length(subtract(p, middle));
  const reach = places.slice(0, rim).reduce((most, p) => Math.max(most, off(p)), 0);
  return places.every((p) => off(p) <= FAR * reach);
}

class Settling {
  private readonly rows: Row[];
  private readonly inside: number[];
  /** neighbours of points inside where rows end */
  private readonly roundPoles: Map<number, number[]>;
  /** neighbours of those neighbours */
  private readonly near = new Map<number, number[]>();
  /** by swell: from round to round only how far the rows run on changes, which weighs nothing */
  private readonly fits = new Map<number, PlaceFit>();

  constructor(
    private readonly patch: Patch,
    private readonly quads: readonly number[][],
    private readonly runs: readonly (RunIn | undefined)[]
  ) {
    const { rows, around } = rowsThrough(quads, patch.rim);
    this.rows = rows;
    this.inside = [...around.keys()].filter((p) => p >= patch.rim);
    this.roundPoles = new Map(this.inside.filter((p) => around.get(p)!.length !== 4).map((p) => [p, around.get(p)!]));
    for (const near of this.roundPoles.values()) for (const q of near) this.near.set(q, around.get(q)!);
  }

  solve(swell: number): void {
    const { places } = this.patch;
    if (this.inside.length === 0) return;
    const known = this.fits.get(swell);
    const fit = known ?? new PlaceFit(this.inside, (p) => places[p]);
    this.fits.set(swell, fit);
    if (known) fit.again();
    const [plate, skin] = [swell, 1 - swell + LEAST];
    for (const row of this.rows) this.alongRow(row, plate, skin, fit);
    for (const [a, b, c, d] of this.quads)
      fit.wish(0.02 * plate, [
        [a, 1],
        [b, -1],
        [c, 1],
        [d, -1]
      ]);
    for (const [p, ends] of this.roundPoles) this.atPole(p, ends, plate, fit);
    for (const [p, place] of fit.places()) places[p] = place;
  }

  /** At a pole, where rows end, the surface bends as much as it does beside it; next to the border as little as it can. */
  private atPole(p: number, ends: readonly number[], plate: number, fit: PlaceFit): void {
    const weights = new Map<number, number>();
    const umbrella = (q: number, near: readonly number[], weight: number) => {
      weights.set(q, (weights.get(q) ?? 0) - weight);
      for (const r of near) weights.set(r, (weights.get(r) ?? 0) + weight / near.length);
    };
    umbrella(p, ends, 1);
    const inner = ends.filter((q) => q >= this.patch.rim);
    if (inner.length === ends.length) for (const q of inner) umbrella(q, this.near.get(q)!, -1 / inner.length);
    fit.wish(inner.length === ends.length ? plate : 0.1 * plate, [...weights]);
  }

  /** Third differences along a row, which at its ends runs on from the edges outside, and first ones. */
  private alongRow(row: Row, plate: number, skin: number, fit: PlaceFit): void {
    const { points, closed } = row;
    const n = points.length;
    const h = this.spacing(row);
    const last = n - 1;
    /** a point of the row as a point of the patch or, beyond its ends, as a place outside that runs on evenly */
    const point = (k: number): { own: number } | { place: Triple } | undefined => {
      if (closed) return { own: points[(k + n) % n] };
      if (k >= 0 && k <= last) return { own: points[k] };
      const end = points[k < 0 ? 0 : last];
      const run = this.runs[end];
      const s = (k < 0 ? -k : k - last) * h;
      return run && { place: add(this.patch.places[end], add(scaled(run.tangent, -s), scaled(run.curvature, (s * s) / 2))) };
    };
    for (let k = closed ? 0 : -2; k < (closed ? n : last); k++) {
      const four = [0, 1, 2, 3].map((d) => point(k + d));
      if (four.some((p) => !p)) continue;
      const weights = [-1, 3, -3, 1];
      const own: [number, number][] = [];
      let sum: Triple = [0, 0, 0];
      four.forEach((p, d) => {
        if ('own' in p!) own.push([p.own, weights[d]]);
        else sum = subtract(sum, scaled(p!.place, weights[d]));
      });
      fit.wish(plate, own, sum);
    }
    // where nothing comes from outside, the row is as straight as can be
    for (let k = closed ? 0 : 1; k < (closed ? n : last); k++)
      fit.wish(1e-3 * plate, [
        [points[(k + n - 1) % n], 1],
        [points[k], -2],
        [points[(k + 1) % n], 1]
      ]);
    for (let k = closed ? 0 : 1; k <= last; k++)
      fit.wish(skin, [
        [points[(k + n - 1) % n], -1],
        [points[k], 1]
      ]);
  }

  /** Mean distance along a row of points. */
  private spacing({ points, closed }: Row): number {
    const { places } = this.patch;
    let sum = 0;
    const n = points.length;
    for (let k = closed ? 0 : 1; k < n; k++) sum += length(subtract(places[points[k]], places[points[(k + n - 1) % n]]));
    return sum / Math.max(1, closed ? n : n - 1) || 1;
  }
}
