import { type Cage } from '../mesh/cage.ts';
import { quadBand } from '../mesh/quad-band.ts';
import { replaceFaces } from '../mesh/replace-faces.ts';
import { isInside } from '../mesh/slice.ts';
import { islands } from '../mesh/topology.ts';
import { bestFitPlane, inPlane } from '../numeric/best-fit.ts';
import { areaVector, mean, subtract, unit, type Triple } from '../numeric/vectors.ts';
import { holesOf, type Hole } from './hole.ts';

/** A hole, and the rim of an island that lies in it: the gap between them is a ring. */
export interface Gap {
  hole: Hole;
  island?: Hole;
}

/** How far an island may lie off the plane of the hole round it, as a share of the hole's reach. */
const NEAR_PLANE = 0.3;

/** The gaps of a cage: islands that lie in a hole of another are taken together with the smallest one round them. */
export function gapsOf(cage: Cage, holes = holesOf(cage)): Gap[] {
  const { islandOf } = islands(cage);
  const island = (hole: Hole) => islandOf[cage.face[hole.halves[0] ^ 1]];
  const inner = new Map<Hole, Hole>();
  const taken = new Set<Hole>();
  for (const rim of holes.filter((h) => turnOf(h) < 0)) {
    const round = holes
      .filter((h) => turnOf(h) > 0 && !inner.has(h) && island(h) !== island(rim) && liesIn(rim, h))
      .sort((a, b) => a.length - b.length)[0];
    if (!round) continue;
    inner.set(round, rim);
    taken.add(rim);
  }
  return holes.filter((hole) => !taken.has(hole)).map((hole) => ({ hole, island: inner.get(hole) }));
}

/** Whether the border turns round a hole (above 0), or is the outer rim of faces that lie within it (below). */
const turnOf = (hole: Hole): number => hole.angles.reduce((sum, angle) => sum + Math.PI - angle, 0);

function liesIn(small: Hole, large: Hole): boolean {
  if (small.length >= large.length) return false;
  const plane = bestFitPlane(large.places);
  const outline = large.places.map((p): Triple => [inPlane(plane, p)[0], inPlane(plane, p)[1], 0]);
  const reach = large.length / Math.PI;
  return small.places.every((p) => {
    const [u, v, off] = inPlane(plane, p);
    return Math.abs(off) < NEAR_PLANE * reach && isInside([u, v, 0], outline, [0, 0, 1]);
  });
}

/** Fills a ring-shaped gap with one band of quads, and one triangle where the counts together are odd. Changes the cage. @returns the new faces */
export function fillRing(cage: Cage, hole: Hole, island: Hole): number[] {
  // faces run along both rims; seen from the same side the inner one runs the other way round
  const inner = [...island.vertices].reverse();
  const places = inner.map((v) => cage.position(v));
  const along = unit(areaVector(hole.places));
  const centre = mean(places);
  const off = hole.places.map((p) => subtract(p, centre));
  const band = quadBand(
    off,
    places.map((p) => subtract(p, centre)),
    along,
    true
  )!;
  const like = cage.face[hole.halves[0] ^ 1];
  return replaceFaces(cage, {
    gone: [],
    added: band.map((face) => ({ corners: [...face.outer.map((k) => hole.vertices[k]), ...face.inner.map((k) => inner[k])], like }))
  });
}
