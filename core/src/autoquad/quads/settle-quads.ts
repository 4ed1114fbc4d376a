import { Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { uniformMesh } from '../../mesh/polygon-mesh.ts';
import { lookingAlong, surfacePoint, type SurfacePoint, type TriangleBvh } from '../../reference/triangle-bvh.ts';
import { type FeatureLines, type QuadList } from '../base/quad-list.ts';

/** A vertex that moved by less than this share of an edge is where it is to be. */
const STILL = 0.002;
/** Rounds after which it is looked how far edges are from the shares asked for, and by how much another share is asked for at most. */
const CORRECTED = 20;
const MOST_ASKED = 2.5;

/**
 * Evens the quads out: vertices move along the surface towards the middle of their faces, those on features along their
 * line, and are put back on the input. A vertex stays where moving it would turn a face corner over.
 * @param shareAt how long edges are to be at a place, against those elsewhere; left out where all are to be equal
 * @param normals unit normals by triangle of `surface`; the closest point is taken only where it looks the same way, and an edge away at most
 */
export function settleQuads(
  list: QuadList,
  surface: TriangleBvh,
  normals: Float64Array,
  lines: FeatureLines,
  rounds: number,
  shareAt?: (x: number, y: number, z: number) => number
): void {
  const cage = Cage.fromPolygons(uniformMesh(list.positions, list.quads, 4));
  const p = cage.positions;
  const found = surfacePoint();
  const count = list.hold.length;
  // made when first asked for: where a quad is closed nearly all vertices stay
  const rings = new Array<Ring | undefined>(count);
  const ringAt = (v: number): Ring => (rings[v] ??= ringOf(cage, v));
  // where the map was torn at a border, vertices there may lie inside
  for (let v = 0; v < count; v++) {
    if (!lines.border || !cage.isBorderVertex(v)) continue;
    lines.border.closest(p[3 * v], p[3 * v + 1], p[3 * v + 2], found);
    p.set([found.x, found.y, found.z], 3 * v);
  }
  const asked = new Float64Array(count).fill(1);
  const share = shareAt && new Float64Array(count);
  const lastFound = new Int32Array(count).fill(-1);
  // a vertex is looked at again where it or a neighbour has moved
  const due = new Uint8Array(count).fill(1);
  const normal = new Float64Array(3);
  const to = new Float64Array(3);
  for (let round = 0; round < rounds; round++) {
    if (share && round > 0 && round % CORRECTED === 0) correctShares(asked, p, ringAt, share);
    if (share) for (let v = 0; v < count; v++) share[v] = asked[v] * shareAt!(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
    for (let v = 0; v < count; v++) {
      if (due[v] === 0 || list.hold[v] === 2) continue;
      const ring = ringAt(v);
      const hold = ring.border && list.hold[v] === 0 ? 1 : list.hold[v];
      due[v] = 0;
      cornerNormal(p, v, ring, normal);
      if (hold === 1) lineGoal(list.hold, p, v, ring, to);
      else faceGoal(p, v, ring, share, to);
      for (let k = 0; k < 3; k++) to[k] = 0.5 * (to[k] - p[3 * v + k]);
      const along = hold === 0 ? to[0] * normal[0] + to[1] * normal[1] + to[2] * normal[2] : 0;
      for (let k = 0; k < 3; k++) to[k] += p[3 * v + k] - along * normal[k];
      if (hold === 1) {
        const own = ring.border ? lines.border : lines.sharp;
        if (!own) continue;
        own.closest(to[0], to[1], to[2], found);
      } else {
        surface.closest(to[0], to[1], to[2], found, longestEdge(p, v, ring) ** 2, lookingAlong(normals, normal, 0.2), lastFound[v]);
        lastFound[v] = found.triangle;
      }
      if (found.triangle < 0) continue;
      const step2 = moveUnlessWorse(p, v, ring, found, normal);
      if (step2 < (STILL * edgeOf(p, v, ring)) ** 2) continue;
      due[v] = 1;
      for (const w of ring.edge) due[w] = 1;
    }
  }
  list.positions.set(p.subarray(0, list.positions.length));
}

/**
 * Asks for more where edges came out shorter than they are to be, against all others, and for less where longer: loops that stay as many
 * as they are do not let them follow by themselves.
 * @param asked by vertex, factor of its share that is asked for; changed
 */
function correctShares(asked: Float64Array, p: Float64Array, ringAt: (v: number) => Ring, share: Float64Array): void {
  const got = asked.map((own, v) => {
    const { edge } = ringAt(v);
    return (own * edge.reduce((sum, w) => sum + lengthOf(p, v, w), 0)) / (edge.length * share[v]);
  });
  const mean = Math.exp(got.reduce((sum, g) => sum + Math.log(g), 0) / got.length);
  for (let v = 0; v < asked.length; v++) asked[v] = Math.min(MOST_ASKED, Math.max(1 / MOST_ASKED, asked[v] * Math.sqrt(mean / got[v])));
}

/** Neighbours over edges, and over faces (the corner across), of one vertex. */
interface Ring {
  border: boolean;
  /** of a border vertex the neighbours along the border */
  alongBorder: number[];
  edge: number[];
  /** before, across and after v in each face, one face after the other */
  faces: number[];
}

function ringOf(cage: Cage, v: number): Ring {
  const spokes = cage.spokes(v);
  return {
    border: cage.isBorderVertex(v),
    alongBorder: spokes.filter((h) => cage.isBorderEdge(h >> 1)).map((h) => cage.target(h)),
    edge: spokes.map((h) => cage.target(h)),
    faces: spokes
      .filter((h) => cage.face[h] !== NONE)
      .flatMap((h) => {
        const a = cage.target(h);
        const across = cage.target(cage.next[h]);
        return [a, across, cage.target(cage.next[cage.next[h]])];
      })
  };
}

/**
 * Mean of the neighbours over edges; where edges are to differ, weighted by their length over the square of how long they are to be:
 * along a line of them at rest each is as long as it is to be, and one that overshoots is drawn back.
 */
function faceGoal(p: Float64Array, v: number, { edge }: Ring, share: Float64Array | undefined, goal: Float64Array): void {
  goal.fill(0);
  let whole = 0;
  for (const w of edge) {
    const weight = share ? lengthOf(p, v, w) / (share[v] + share[w]) ** 2 : 1;
    whole += weight;
    for (let k = 0; k < 3; k++) goal[k] += weight * p[3 * w + k];
  }
  for (let k = 0; k < 3; k++) goal[k] /= whole;
}

/**
 * Along the chord between the two neighbours on the same line as far as their middle, so that a vertex at a tight turn of the line does
 * not leave it; at the line's end or branch where it is.
 */
function lineGoal(hold: Uint8Array, p: Float64Array, v: number, ring: Ring, goal: Float64Array): void {
  const along = ring.border ? ring.alongBorder : ring.edge.filter((w) => hold[w] > 0);
  const [a, b] = along.length === 2 ? [3 * along[0], 3 * along[1]] : [3 * v, 3 * v];
  let [way, long2] = [0, 0];
  for (let k = 0; k < 3; k++) {
    const chord = p[b + k] - p[a + k];
    way += chord * ((p[a + k] + p[b + k]) / 2 - p[3 * v + k]);
    long2 += chord * chord;
  }
  const share = long2 > 0 ? way / long2 : 0;
  for (let k = 0; k < 3; k++) goal[k] = p[3 * v + k] + share * (p[b + k] - p[a + k]);
}

/** Unit normal of the faces round v, by the areas of their corners there. */
function cornerNormal(p: Float64Array, v: number, { faces }: Ring, normal: Float64Array): void {
  const x = p[3 * v];
  const y = p[3 * v + 1];
  const z = p[3 * v + 2];
  normal.fill(0);
  for (let i = 0; i < faces.length; i += 3) {
    const a = 3 * faces[i];
    const b = 3 * faces[i + 2];
    const ux = p[a] - x;
    const uy = p[a + 1] - y;
    const uz = p[a + 2] - z;
    const vx = p[b] - x;
    const vy = p[b + 1] - y;
    const vz = p[b + 2] - z;
    normal[0] += uy * vz - uz * vy;
    normal[1] += uz * vx - ux * vz;
    normal[2] += ux * vy - uy * vx;
  }
  const length = Math.sqrt(normal[0] ** 2 + normal[1] ** 2 + normal[2] ** 2) || 1;
  for (let k = 0; k < 3; k++) normal[k] /= length;
}

/** Least cosine between the normal and those of the corners round v, were v there: of each face the three that v takes part in. */
function leastCorner(p: Float64Array, x: number, y: number, z: number, { faces }: Ring, normal: Float64Array): number {
  let least = Infinity;
  for (let i = 0; i < faces.length; i += 3) {
    const a = 3 * faces[i];
    const o = 3 * faces[i + 1];
    const b = 3 * faces[i + 2];
    const ax = p[a];
    const ay = p[a + 1];
    const az = p[a + 2];
    const ox = p[o];
    const oy = p[o + 1];
    const oz = p[o + 2];
    const bx = p[b];
    const by = p[b + 1];
    const bz = p[b + 2];
    least = Math.min(
      least,
      cosineOfTurn(ax - x, ay - y, az - z, bx - x, by - y, bz - z, normal),
      cosineOfTurn(ox - ax, oy - ay, oz - az, x - ax, y - ay, z - az, normal),
      cosineOfTurn(x - bx, y - by, z - bz, ox - bx, oy - by, oz - bz, normal)
    );
  }
  return least;
}

/** Cosine between a unit normal and the cross product of two vectors: below 0 where the second lies to the right of the first. */
function cosineOfTurn(ux: number, uy: number, uz: number, vx: number, vy: number, vz: number, normal: Float64Array): number {
  const x = uy * vz - uz * vy;
  const y = uz * vx - ux * vz;
  const z = ux * vy - uy * vx;
  return (x * normal[0] + y * normal[1] + z * normal[2]) / (Math.sqrt(x * x + y * y + z * z) || 1);
}

/** @returns squared distance it moved by */
function moveUnlessWorse(p: Float64Array, v: number, ring: Ring, { x, y, z }: SurfacePoint, normal: Float64Array): number {
  const will = leastCorner(p, x, y, z, ring, normal);
  if (will < 0.2 && will < leastCorner(p, p[3 * v], p[3 * v + 1], p[3 * v + 2], ring, normal)) return 0;
  const step2 = (p[3 * v] - x) ** 2 + (p[3 * v + 1] - y) ** 2 + (p[3 * v + 2] - z) ** 2;
  p[3 * v] = x;
  p[3 * v + 1] = y;
  p[3 * v + 2] = z;
  return step2;
}

/** Length of one edge at a vertex. */
const edgeOf = (p: Float64Array, v: number, { edge }: Ring): number => lengthOf(p, v, edge[0]);

function longestEdge(p: Float64Array, v: number, { edge }: Ring): number {
  let longest = 0;
  for (const w of edge) longest = Math.max(longest, lengthOf(p, v, w));
  return longest;
}

function lengthOf(p: Float64Array, v: number, w: number): number {
  const [a, b] = [3 * v, 3 * w];
  return Math.sqrt((p[a] - p[b]) ** 2 + (p[a + 1] - p[b + 1]) ** 2 + (p[a + 2] - p[b + 2]) ** 2);
}
