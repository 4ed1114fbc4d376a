import { length, type Triple, unit } from '../numeric/vectors.ts';
import { Spread } from '../numeric/best-fit.ts';
import { type Facets } from './facets.ts';
import { cylinderAlong, type Primitive, probeOf, sphereThrough, torusThrough } from './primitives.ts';

/** Share of the extent that a surface may lie off a region it is like, but for this share of its vertices. */
const [NEAR, LEFT_OUT] = [2.5e-3, 0.03];
/** Cosine of the angle that the region's triangles may look away from the surface by, in the mean. */
const LOOKS = 0.97;
/** Triangles that a region needs, and vertices that are looked at. */
const [FEWEST, LOOKED_AT] = [24, 600];

/**
 * The surface that a free region is like: of parts that were scanned, or cut into triangles anew, vertices lie near their surfaces, and not on them.
 * @param extent of the whole part, mm
 */
export function surfaceNear(facets: Facets, triangles: readonly number[], extent: number): Primitive | undefined {
  if (triangles.length < FEWEST) return undefined;
  const step = Math.max(1, Math.floor(triangles.length / LOOKED_AT));
  const some = triangles.filter((_, i) => i % step === 0);
  const normals = some.map((t): Triple => [facets.normals[3 * t], facets.normals[3 * t + 1], facets.normals[3 * t + 2]]);
  const middles = some.map((t) => middleOf(facets, t));
  const corners = [...new Set(some.flatMap((t) => [...facets.triangles.subarray(3 * t, 3 * t + 3)]))].map((v) => facets.at(v));
  const spread = new Spread([0, 0, 0]);
  normals.forEach((n, i) => spread.add(n, facets.areas[some[i]]));
  const [least] = spread.axes();
  const shapes = [cylinderAlong(corners, unit(least)), sphereThrough(corners), torusThrough(middles, normals)];
  return shapes.find((shape) => shape !== undefined && isLike(shape, corners, middles, normals, extent));
}

function middleOf(facets: Facets, t: number): Triple {
  const sum: Triple = [0, 0, 0];
  for (let c = 3 * t; c < 3 * t + 3; c++) for (let k = 0; k < 3; k++) sum[k] += facets.positions[3 * facets.triangles[c] + k] / 3;
  return sum;
}

function isLike(shape: Primitive, corners: readonly Triple[], middles: readonly Triple[], normals: readonly Triple[], extent: number): boolean {
  const probe = probeOf(shape);
  const normal = new Float64Array(3);
  const off = Float64Array.from(corners, ([x, y, z]) => Math.abs(probe(x, y, z, normal))).sort();
  if (!(off[Math.floor((1 - LEFT_OUT) * (off.length - 1))] <= NEAR * extent)) return false;
  let facing = 0;
  middles.forEach(([x, y, z], i) => {
    probe(x, y, z, normal);
    facing += normal[0] * normals[i][0] + normal[1] * normals[i][1] + normal[2] * normals[i][2];
  });
  // a surface that is nearly flat says nothing of its radius
  const isBent = length(normals.reduce<Triple>((sum, n) => [sum[0] + n[0], sum[1] + n[1], sum[2] + n[2]], [0, 0, 0])) < 0.995 * normals.length;
  return isBent && Math.abs(facing) > LOOKS * middles.length;
}
