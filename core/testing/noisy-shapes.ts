import { measure } from '../src/check/measures.ts';
import { Cage } from '../src/mesh/cage.ts';
import { randomNumbers } from '../src/numeric/random.ts';
import { type Triple, unit } from '../src/numeric/vectors.ts';
import { cylinder, quadSphere } from '../src/shapes/start-shapes.ts';

/** Normal random numbers with a standard deviation of 1 (Box, Muller 1958). */
function normalNumbers(seed: number): () => number {
  const next = randomNumbers(seed);
  return () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
}

/** A sphere of radius 10 in quads with noise along the surface and across it, in shares of an edge. */
export function noisySphere(faces: number, along = 0.15, across = 0.05): Cage {
  const cage = Cage.fromPolygons(quadSphere(10, faces));
  const [edge, random] = [measure(cage).edgeLength.mean, normalNumbers(faces)];
  for (const v of cage.vertices()) {
    const n = unit(cage.position(v));
    const d: Triple = [random(), random(), random()];
    const off = d[0] * n[0] + d[1] * n[1] + d[2] * n[2];
    // two of three directions lie along the surface
    const flat = d.map((x, k) => x - off * n[k]);
    const by = [0, 1, 2].map((k) => edge * (along * flat[k] * Math.SQRT1_2 + across * random() * n[k]));
    cage.positions.set(
      cage.position(v).map((x, k) => x + by[k]),
      3 * v
    );
  }
  return cage;
}

/** How far vertices lie off a sphere of radius 10 about 0, mm, at most. */
export const offSphere = (cage: Cage): number =>
  [...cage.vertices()].reduce((most, v) => Math.max(most, Math.abs(Math.hypot(...cage.position(v)) - 10)), 0);

/** An open tube along Y; vertices of some of its rows are off by up to a share of an edge, every way. @returns the vertices of those rows too */
export function jitteredTube(
  radius: number,
  sides: number,
  rows: number,
  jittered: readonly number[],
  share = 0.35
): { cage: Cage; moved: number[] } {
  const cage = Cage.fromPolygons(cylinder(radius, rows * 2, sides, rows, false));
  const random = randomNumbers(sides);
  const edge = (2 * Math.PI * radius) / sides;
  const rowOf = (v: number) => Math.round((cage.position(v)[1] + rows) / 2);
  const moved = [...cage.vertices()].filter((v) => jittered.includes(rowOf(v)));
  for (const v of moved)
    cage.positions.set(
      cage.position(v).map((x) => x + share * edge * (2 * random() - 1)),
      3 * v
    );
  return { cage, moved };
}
