import { bridge, type Rim } from '../../fill/bridge.ts';
import { runStrip, stripToBorder } from '../../fill/odd-partner.ts';
import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { joinCages } from '../../mesh/join-cages.ts';
import { borderLoops } from '../../mesh/topology.ts';
import { length, subtract, type Triple } from '../../numeric/vectors.ts';
import { surfacePoint, type TriangleBvh } from '../../reference/triangle-bvh.ts';
import { ON_SEAM_LINE } from '../base/limits.ts';
import { AutoQuadsError } from '../base/options.ts';
import { followsLine, liesOn } from '../lines/follows-line.ts';

/** Tells whether a border half-edge lies on the surface's own border. */
export type OwnBorder = (cage: Cage, h: number) => boolean;

export interface VertexRim {
  /** in the direction of the half-edges without a face */
  vertices: number[];
  closed: boolean;
}

interface FacingRims {
  /** of the new quads */
  rim: VertexRim;
  /** of the cage */
  mate: VertexRim;
  /** where a sharp edge goes on from one to the other at the start of the first */
  sharpStart?: [number, number];
}

/** What new quads are joined to a cage by. */
export interface Seam {
  kept: Cage;
  made: Cage;
  isOwn: OwnBorder;
  /** mm, between the two */
  gap: number;
  /** mean length of the open edges, mm */
  edge: number;
  /** of the surface's sharp edges; none where there are none */
  sharp?: TriangleBvh;
}

/** A cage of both. */
export interface Joined {
  cage: Cage;
  /** the new ones */
  faces: number[];
  /** vertices of the first row's far side */
  seamed: Set<number>;
  keptVertices: Set<number>;
  /** edges on which sharp edges go on, from the new quads to those that stay */
  links: { from: number; to: number }[];
}

/** Rims face each other where they are no farther apart than so many gaps. */
const FACING = 3;

/** One cage of both, with a row of quads between the open edges that face each other. @throws AutoQuadsError where some face none */
export function joinAlong(seam: Seam): Joined {
  const pairs = evenPairs(seam);
  const { kept, made } = seam;
  const { cage, vertexOf, faceOf } = joinCages(kept, made);
  const inBoth = ({ vertices, closed }: VertexRim): VertexRim => ({ vertices: vertices.map((v) => vertexOf.get(v)!), closed });
  const faces = [...faceOf.values()];
  for (const { rim, mate } of pairs) {
    const own: Rim = { halves: halvesOf(cage, mate), closed: mate.closed };
    const other: Rim = { halves: halvesOf(cage, inBoth(rim)), closed: rim.closed };
    faces.push(...bridge(cage, own, other, { rows: 1, offset: 0, curved: 0, transition: '3:1', corners: true }));
  }
  const links = pairs.flatMap(({ sharpStart }) => {
    if (!sharpStart) return [];
    const [from, to] = [vertexOf.get(sharpStart[0])!, sharpStart[1]];
    const h = cage.findHalfEdge(from, to);
    if (h === NONE) return [];
    cage.setValue('crease', h >> 1, sharpestAt(cage, from));
    return [{ from, to }];
  });
  const seamed = new Set(pairs.flatMap(({ rim }) => inBoth(rim).vertices));
  return { cage, faces, seamed, keptVertices: new Set(kept.vertices()), links };
}

/**
 * Chains that face each other. One with an odd count cannot be joined by quads to one with an even count: from each where that is so
 * a strip is run to another, or to the surface's own border. Changes the new quads.
 */
function evenPairs(seam: Seam): FacingRims[] {
  const { made, isOwn } = seam;
  let pairs = facingChains(seam);
  for (let left = pairs.length; left > 0; left--) {
    const odd = pairs.filter(({ rim, mate }) => (rim.vertices.length - mate.vertices.length) % 2 !== 0);
    if (odd.length === 0) break;
    const [first, ...others] = odd.map(({ rim }) => halvesOf(made, rim));
    const free = borderLoops(made).flatMap((halves) => halves.filter((h) => isOwn(made, h)));
    const strip = stripToBorder(made, first, new Set([...others.flat(), ...free]));
    if (!strip) break;
    runStrip(made, strip);
    pairs = facingChains(seam);
  }
  return pairs;
}

/** Rims that face each other, in chains from one sharp edge that runs over from one to the other to the next. */
const facingChains = (seam: Seam): FacingRims[] => facingRims(seam).flatMap((pair) => chainsOf(pair, sharpLinks(pair, seam)));

/** A vertex of the first rim and one of the second that a sharp edge joins, by their places in these. */
type RimLink = [at: number, mateAt: number];

/** Where sharp edges of the new quads go on in the cage: links that do not cross each other, the shortest first. */
function sharpLinks({ rim, mate }: FacingRims, { kept, made, sharp, gap, edge }: Seam): RimLink[] {
  if (!sharp) return [];
  const found = surfacePoint();
  const ends = rim.vertices.flatMap((v, i) =>
    made.spokes(v).some((h) => !made.isBorderEdge(h >> 1) && made.value('crease', h >> 1) > 0) ? [i] : []
  );
  const stops = mate.vertices.flatMap((w, j) => (liesOn(sharp, kept.position(w), ON_SEAM_LINE * gap) ? [{ to: kept.position(w), j }] : []));
  const likely = ends.flatMap((i) => {
    const from = made.position(rim.vertices[i]);
    return stops.flatMap(({ to, j }) => {
      const far = length(subtract(to, from));
      return far < FACING * Math.max(gap, edge) && followsLine(sharp, from, to, found) ? [{ link: [i, j] as RimLink, far }] : [];
    });
  });
  likely.sort((a, b) => a.far - b.far);
  return likely.reduce<RimLink[]>((links, { link }) => {
    const more = [...links, link].sort((a, b) => a[0] - b[0]);
    return runsBack(more, { rim, mate }) ? more : links;
  }, []);
}

/** Whether links, in order along the first rim, follow each other the other way round along the second, each at vertices of its own. */
function runsBack(links: readonly RimLink[], pair: FacingRims): boolean {
  const stops = stopsOf(pair, links);
  const ascents = stops.slice(1).filter(([, j], k) => j > stops[k][1]).length;
  const own = pair.rim.closed ? links : stops;
  const apart = [0, 1].every((side) => new Set(own.map((link) => link[side])).size === own.length);
  return apart && ascents <= (pair.rim.closed ? 1 : 0);
}

/** Where chains start and end: at links, of closed rims at the first once more, of open ones at both ends too. */
function stopsOf({ rim, mate }: FacingRims, links: readonly RimLink[]): RimLink[] {
  if (rim.closed) return [...links, links[0]];
  return [[0, mate.vertices.length - 1], ...links, [rim.vertices.length - 1, 0]];
}

/** A pair of rims cut at links, or as it is without any. */
function chainsOf(pair: FacingRims, links: readonly RimLink[]): FacingRims[] {
  if (links.length === 0) return [pair];
  const { rim, mate } = pair;
  const stops = stopsOf(pair, links);
  return stops.slice(1).map((to, k): FacingRims => {
    const from = stops[k];
    return {
      rim: chainOf(rim, from[0], to[0]),
      mate: chainOf(mate, to[1], from[1]),
      sharpStart: links.includes(from) ? [rim.vertices[from[0]], mate.vertices[from[1]]] : undefined
    };
  });
}

/** The vertices from one place in a rim to another, of closed ones all round where it is the same. */
function chainOf({ vertices, closed }: VertexRim, from: number, to: number): VertexRim {
  if (to > from || !closed) return { vertices: vertices.slice(from, to + 1), closed: false };
  return { vertices: [...vertices.slice(from), ...vertices.slice(0, to + 1)], closed: false };
}

/** Every rim of the new quads with the one of the cage that it is to be joined to. @throws AutoQuadsError where one has none */
function facingRims({ kept, made, isOwn, gap }: Seam): FacingRims[] {
  const fresh = rimsOf(made, isOwn);
  const freshPlaces = fresh.map(({ vertices }) => vertices.map((v) => made.position(v)));
  const old = rimsOf(kept, isOwn);
  const taken = new Set<number>();
  return fresh.map((rim, i) => {
    const off = (k: number) =>
      taken.has(k) || old[k].closed !== rim.closed
        ? Infinity
        : apart(
            freshPlaces[i],
            old[k].vertices.map((v) => kept.position(v))
          );
    const best = old.map((_, k) => k).reduce((a, b) => (off(b) < off(a) ? b : a), 0);
    if (old.length === 0 || off(best) > FACING * gap)
      throw new AutoQuadsError(
        'The new quads do not fit to the open edges beside them: take out faces so that the open edges run more evenly, or ask for more quads.'
      );
    taken.add(best);
    return { rim, mate: old[best] };
  });
}

/** Borders, or chains of them, that are not the surface's own; in the direction of the half-edges without a face. */
export function rimsOf(cage: Cage, isOwn: OwnBorder): VertexRim[] {
  return borderLoops(cage).flatMap((halves): VertexRim[] => {
    const open = halves.map((h) => !isOwn(cage, h));
    if (open.every(Boolean)) return [{ vertices: halves.map((h) => cage.origin[h]), closed: true }];
    const n = halves.length;
    return halves.flatMap((h, i) => {
      if (!open[i] || open[(i + n - 1) % n]) return [];
      const vertices = [cage.origin[h]];
      for (let k = i; open[k % n]; k++) vertices.push(cage.target(halves[k % n]));
      return [{ vertices, closed: false }];
    });
  });
}

export function halvesOf(cage: Cage, { vertices, closed }: VertexRim): number[] {
  const ends = closed ? vertices.map((v, i) => [v, vertices[(i + 1) % vertices.length]]) : vertices.slice(1).map((w, i) => [vertices[i], w]);
  return ends.map(([v, w]) => {
    const h = cage.findHalfEdge(v, w);
    if (h === NONE || cage.face[h] !== NONE)
      throw new AutoQuadsError('The open edges of the cage cannot be followed there: faces touch in a single vertex.');
    return h;
  });
}

/** Mean distance of some places from the nearest of others. */
export function apart(places: readonly Triple[], others: readonly Triple[]): number {
  const step = Math.max(1, Math.floor(places.length / 40));
  const some = places.filter((_, i) => i % step === 0);
  return some.reduce((sum, p) => sum + Math.min(...others.map((q) => length(subtract(p, q)))), 0) / some.length;
}

/** The sharpest crease at a vertex; 0 where there is none. */
export const sharpestAt = (cage: Cage, v: number): number => cage.spokes(v).reduce((most, h) => Math.max(most, cage.value('crease', h >> 1)), 0);
