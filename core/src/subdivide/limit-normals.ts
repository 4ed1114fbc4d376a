import { add, cross, dot, length, scaled, subtract, unit, weightedSum, type Triple } from '../numeric/vectors.ts';
import { dartMasks } from './dart-masks.ts';
import { STAYS_SHARP, type LevelTopology } from './level-topology.ts';
import { type Scheme } from './level-plan.ts';
import { cornerOn, sectorsAt, type Sector } from './sectors.ts';
import { vertexRings } from './vertex-rings.ts';

/**
 * Unit normals of the limit surface at the vertices of a level, one a face corner: where a crease that stays, a border or a
 * corner ends a stretch of faces, its sides have normals of their own. Tangents of smooth vertices after Halstead, Kass,
 * DeRose 1993 (Loop: Loop 1987), of Catmull-Clark creases and borders after Biermann, Levin, Zorin 2000, of darts from
 * `dartMasks`. At corners the sides' edges are the tangents of up to two faces; a wider stretch has no tangent plane under these
 * rules, and the mean normal of its faces stands in. Edges that are still semi-sharp count as smooth: refine until their sharpness is used up.
 * @param points the level's own points, not yet pushed to the limit
 * @returns three numbers a corner of `level.faceVertices`; Catmull-Clark levels must be all quads
 */
export function limitNormals(level: LevelTopology, scheme: Scheme, points: Float64Array): Float64Array {
  const rings = vertexRings(level);
  const out = new Float64Array(3 * level.faceVertices.length);
  for (let v = 0; v < level.vertices; v++) {
    const isCorner = level.vertexSharpness[v] >= STAYS_SHARP;
    const sectors = sectorsAt(level, rings, v);
    for (const sector of sectors) {
      const normal = sectorNormal(level, scheme, points, v, sector, isCorner || sectors.length > 2);
      for (const c of sector.corners) out.set(normal, 3 * c);
    }
  }
  return out;
}

function sectorNormal(level: LevelTopology, scheme: Scheme, points: Float64Array, v: number, sector: Sector, asCorner: boolean): Triple {
  const at = (p: number): Triple => [points[3 * p], points[3 * p + 1], points[3 * p + 2]];
  const { corners, closed } = sector;
  const size = scheme === 'loop' ? 3 : 4;
  const turned = (c: number, by: number) => at(level.faceVertices[cornerOn(c, by, size)]);
  const edges = corners.map((c) => turned(c, 1));
  if (!closed) edges.push(turned(corners[corners.length - 1], size - 1));
  const opposite = corners.map((c) => turned(c, 2));
  const centre = at(v);
  const rough = corners.reduce<Triple>((sum, c) => add(sum, cross(subtract(turned(c, 1), centre), subtract(turned(c, size - 1), centre))), [0, 0, 0]);
  let normal: Triple;
  if (asCorner) normal = closed || corners.length > 2 ? rough : cross(subtract(edges[0], centre), subtract(edges[edges.length - 1], centre));
  else if (sector.dart) {
    const around = [centre, ...edges, ...(scheme === 'loop' ? [] : opposite)];
    const [a, b] = dartMasks(scheme, edges.length).tangents;
    normal = cross(weightedSum(around.map((p, i) => [a[i], p])), weightedSum(around.map((p, i) => [b[i], p])));
  } else if (closed) normal = smoothNormal(scheme, edges, opposite);
  else normal = creaseNormal(scheme, centre, edges, opposite);
  // masks are symmetric: which way is out is told by the faces; a flat sector may leave nothing
  if (length(normal) < 1e-12 * length(rough)) normal = rough;
  return unit(dot(normal, rough) < 0 ? scaled(normal, -1) : normal);
}

function smoothNormal(scheme: Scheme, edges: Triple[], opposite: Triple[]): Triple {
  const n = edges.length;
  const angle = (2 * Math.PI) / n;
  if (scheme === 'loop')
    return cross(weightedSum(edges.map((p, i) => [Math.cos(i * angle), p])), weightedSum(edges.map((p, i) => [Math.sin(i * angle), p])));
  const a = 1 + Math.cos(angle) + Math.cos(angle / 2) * Math.sqrt(2 * (9 + Math.cos(angle)));
  const tangent = (wave: (x: number) => number) =>
    add(
      weightedSum(edges.map((p, i) => [a * wave(i * angle), p])),
      weightedSum(opposite.map((p, i) => [wave(i * angle) + wave((i + 1) * angle), p]))
    );
  return cross(tangent(Math.cos), tangent(Math.sin));
}

function creaseNormal(scheme: Scheme, centre: Triple, edges: Triple[], opposite: Triple[]): Triple {
  const k = edges.length - 1;
  const angle = Math.PI / k;
  const along = subtract(edges[0], edges[k]);
  const ends = add(edges[0], edges[k]);
  if (k === 1) return cross(along, subtract(ends, scaled(centre, 2)));
  const inner = edges.slice(1, k);
  const [s, c] = [Math.sin(angle), Math.cos(angle)];
  if (scheme === 'loop') {
    // left eigenvector for 3/8 + cos(pi / k) / 4 of the matrix with (1, 6, 1) / 8 on the crease
    const end = (-s * c) / ((1 - c) * (2 * c + 1));
    const middle = end * (2 * c - 1) - s;
    return cross(along, weightedSum([[middle, centre], [end, ends], ...inner.map((p, i): [number, Triple] => [Math.sin((i + 1) * angle), p])]));
  }
  const across = weightedSum([
    [-4 * s, centre],
    [(-(1 + 2 * c) * Math.sqrt(1 + c)) / Math.sqrt(1 - c), ends],
    ...inner.map((p, i): [number, Triple] => [4 * Math.sin((i + 1) * angle), p]),
    ...opposite.map((p, i): [number, Triple] => [Math.sin(i * angle) + Math.sin((i + 1) * angle), p])
  ]);
  return cross(along, across);
}
