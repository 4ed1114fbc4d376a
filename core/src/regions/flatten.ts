import { Cholesky } from '../numeric/cholesky.ts';
import { nestedDissection } from '../numeric/nested-dissection.ts';
import { SymmetricBuilder } from '../numeric/symmetric-matrix.ts';
import { waysAlong } from '../numeric/curve.ts';
import { cross, length, type Triple, unit } from '../numeric/vectors.ts';
import { type Facets } from './facets.ts';

/** Where vertices of a region lie in the plane. */
export type FlatPlaces = Map<number, readonly [number, number]>;

/** Share of its area that a region may have turned over when it is looked at from one side, and still counts as flat enough for that. */
const TURNED = 1e-4;

/**
 * Places of a region in the plane that do not overlap: as it is seen along its mean normal, or, where it bends too far for that, with its longest
 * border on a circle and everything else in the mean of what surrounds it, holes filled (Tutte 1963).
 * @param triangles of the region
 * @param loops its borders, vertices in order
 * @returns nothing where the region is not a disc with holes
 */
export function flatRegion(facets: Facets, triangles: readonly number[], loops: readonly (readonly number[])[]): FlatPlaces | undefined {
  return seenAlong(facets, triangles) ?? onCircle(facets, triangles, loops);
}

const cornersOf = ({ triangles: v }: Facets, t: number): Triple => [v[3 * t], v[3 * t + 1], v[3 * t + 2]];

function seenAlong(facets: Facets, triangles: readonly number[]): FlatPlaces | undefined {
  const { normals: n, areas } = facets;
  const sum: Triple = [0, 0, 0];
  for (const t of triangles) for (let k = 0; k < 3; k++) sum[k] += areas[t] * n[3 * t + k];
  if (length(sum) === 0) return undefined;
  const up = unit(sum);
  const x = unit(cross(Math.abs(up[0]) < 0.7 ? [1, 0, 0] : [0, 1, 0], up));
  const y = cross(up, x);
  let [turned, whole] = [0, 0];
  const places: FlatPlaces = new Map();
  for (const t of triangles) {
    whole += areas[t];
    if (n[3 * t] * up[0] + n[3 * t + 1] * up[1] + n[3 * t + 2] * up[2] <= 0) turned += areas[t];
    for (const v of cornersOf(facets, t)) if (!places.has(v)) places.set(v, inPlane(facets.at(v), x, y));
  }
  return turned <= TURNED * whole ? places : undefined;
}

const inPlane = (p: Triple, x: Triple, y: Triple): readonly [number, number] => [
  p[0] * x[0] + p[1] * x[1] + p[2] * x[2],
  p[0] * y[0] + p[1] * y[1] + p[2] * y[2]
];

function onCircle(facets: Facets, triangles: readonly number[], loops: readonly (readonly number[])[]): FlatPlaces | undefined {
  const ways = loops.map((loop) => waysAlong([...loop, loop[0]].map((v) => facets.at(v))));
  const wholes = ways.map((way) => way[way.length - 1]);
  const outer = wholes.indexOf(Math.max(...wholes));
  const places: FlatPlaces = new Map();
  loops[outer].forEach((v, i) => {
    const turn = (2 * Math.PI * ways[outer][i]) / wholes[outer];
    places.set(v, [Math.cos(turn), Math.sin(turn)]);
  });
  // a border that comes back to a vertex is no circle
  if (places.size < loops[outer].length) return undefined;
  const index = new Map<number, number>();
  for (const t of triangles) for (const v of cornersOf(facets, t)) if (!places.has(v) && !index.has(v)) index.set(v, index.size);
  const holes = loops.filter((_, i) => i !== outer);
  const size = index.size + holes.length;
  const matrix = new SymmetricBuilder(size, 8 * size);
  const right = [new Float64Array(size), new Float64Array(size)];
  const half = (i: number, v: number) => {
    matrix.add(i, i, 1);
    const at = places.get(v);
    if (at) right.forEach((side, k) => (side[i] += at[k]));
  };
  const edges = new Set<string>();
  const join = (a: number, b: number) => {
    const key = a < b ? `${a} ${b}` : `${b} ${a}`;
    if (edges.has(key)) return;
    edges.add(key);
    const [i, j] = [index.get(a), index.get(b)];
    if (i !== undefined) half(i, b);
    if (j !== undefined) half(j, a);
    if (i !== undefined && j !== undefined) matrix.add(i, j, -1);
  };
  for (const t of triangles) {
    const [a, b, c] = cornersOf(facets, t);
    join(a, b);
    join(b, c);
    join(c, a);
  }
  // the middle of each hole holds it open
  holes.forEach((loop, h) => {
    index.set(-1 - h, index.size);
    for (const v of loop) join(-1 - h, v);
  });
  const built = matrix.done();
  const factor = new Cholesky(built, nestedDissection(built));
  const [x, y] = right.map((side) => factor.solve(side));
  for (const [v, i] of index) places.set(v, [x[i], y[i]]);
  return places;
}
