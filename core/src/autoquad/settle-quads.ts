import { Cage, NONE } from '../mesh/cage.ts';
import { uniformMesh } from '../mesh/polygon-mesh.ts';
import { lookingAlong, surfacePoint, type TriangleBvh } from '../reference/triangle-bvh.ts';
import { type QuadList } from './mend.ts';

/** Lines that vertices stay on: those at borders on the border, others on sharp edges. */
export interface FeatureLines {
  border?: TriangleBvh;
  sharp?: TriangleBvh;
}

/**
 * Evens the quads out: vertices move along the surface towards the middle of their faces, those on features along their
 * line, and are put back on the input. A vertex stays where moving it would turn a face corner over.
 * @param shareAt how long edges are to be at a place, against those elsewhere
 * @param normals unit normals by triangle of `surface`; the closest point is taken only where it looks the same way
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
  const rings = Array.from(cage.vertices(), (v) => ringOf(cage, v));
  // where the map was torn at a border, vertices there may lie inside
  rings.forEach((ring, v) => {
    if (!ring.border || !lines.border) return;
    lines.border.closest(p[3 * v], p[3 * v + 1], p[3 * v + 2], found);
    p.set([found.x, found.y, found.z], 3 * v);
  });
  const share = new Float64Array(rings.length).fill(1);
  for (let round = 0; round < rounds; round++) {
    if (shareAt) for (let v = 0; v < rings.length; v++) share[v] = shareAt(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
    for (let v = 0; v < rings.length; v++) {
      const ring = rings[v];
      const hold = ring.border && list.hold[v] === 0 ? 1 : list.hold[v];
      if (hold === 2) continue;
      const normal = cornerNormal(p, v, ring);
      const goal = hold === 1 ? lineGoal(list.hold, p, v, ring) : faceGoal(p, v, ring, share);
      const step = [0, 1, 2].map((k) => 0.5 * (goal[k] - p[3 * v + k]));
      if (hold === 0) {
        const along = step[0] * normal[0] + step[1] * normal[1] + step[2] * normal[2];
        for (let k = 0; k < 3; k++) step[k] -= along * normal[k];
      }
      const to = [p[3 * v] + step[0], p[3 * v + 1] + step[1], p[3 * v + 2] + step[2]] as const;
      if (hold === 1) {
        const own = ring.border ? lines.border : lines.sharp;
        if (!own) continue;
        own.closest(...to, found);
      } else surface.closest(...to, found, Infinity, lookingAlong(normals, normal, 0.2));
      if (found.triangle < 0) continue;
      moveUnlessWorse(p, v, ring, found.x, found.y, found.z, normal);
    }
  }
  list.positions.set(p.subarray(0, list.positions.length));
}

/** Neighbours over edges, and over faces (the corner across), of one vertex. */
interface Ring {
  border: boolean;
  /** of a border vertex the neighbours along the border */
  alongBorder: number[];
  edge: number[];
  /** before, across and after v in each face */
  faces: [number, number, number][];
}

function ringOf(cage: Cage, v: number): Ring {
  const spokes = cage.spokes(v);
  return {
    border: cage.isBorderVertex(v),
    alongBorder: spokes.filter((h) => cage.isBorderEdge(h >> 1)).map((h) => cage.target(h)),
    edge: spokes.map((h) => cage.target(h)),
    faces: spokes
      .filter((h) => cage.face[h] !== NONE)
      .map((h) => {
        const a = cage.target(h);
        const across = cage.target(cage.next[h]);
        return [a, across, cage.target(cage.next[cage.next[h]])];
      })
  };
}

/** Mean of the neighbours over edges; where sizes differ, so that each edge is as long as its ends' shares ask. */
function faceGoal(p: Float64Array, v: number, ring: Ring, share: Float64Array): number[] {
  const sum = [0, 0, 0];
  let whole = 0;
  for (const w of ring.edge) {
    const weight = 2 / (share[v] + share[w]);
    whole += weight;
    for (let k = 0; k < 3; k++) sum[k] += weight * p[3 * w + k];
  }
  return sum.map((x) => x / whole);
}

/** Middle of the two neighbours on the same line; at its end or branch where it is. */
function lineGoal(hold: Uint8Array, p: Float64Array, v: number, ring: Ring): number[] {
  const along = ring.border ? ring.alongBorder : ring.edge.filter((w) => hold[w] > 0);
  if (along.length !== 2) return [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  return [0, 1, 2].map((k) => (p[3 * along[0] + k] + p[3 * along[1] + k]) / 2);
}

function cross(p: Float64Array, o: readonly number[], a: number, b: number): [number, number, number] {
  const ux = p[3 * a] - o[0],
    uy = p[3 * a + 1] - o[1],
    uz = p[3 * a + 2] - o[2];
  const vx = p[3 * b] - o[0],
    vy = p[3 * b + 1] - o[1],
    vz = p[3 * b + 2] - o[2];
  return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
}

function cornerNormal(p: Float64Array, v: number, ring: Ring): [number, number, number] {
  const n: [number, number, number] = [0, 0, 0];
  const o = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  for (const [a, , b] of ring.faces) {
    const c = cross(p, o, a, b);
    for (let k = 0; k < 3; k++) n[k] += c[k];
  }
  const length = Math.hypot(...n) || 1;
  return [n[0] / length, n[1] / length, n[2] / length];
}

/** Least of the corner areas round v, seen along the normal: the three corners of each face that v takes part in. */
function leastCorner(p: Float64Array, at: readonly number[], ring: Ring, normal: readonly number[]): number {
  let least = Infinity;
  for (const [a, across, b] of ring.faces) {
    const corners = [cross(p, at, a, b), crossAt(p, a, across, at), crossAt(p, b, at, across)];
    for (const c of corners) {
      const size = Math.hypot(c[0], c[1], c[2]) || 1;
      least = Math.min(least, (c[0] * normal[0] + c[1] * normal[1] + c[2] * normal[2]) / size);
    }
  }
  return least;
}

/** Cross product at vertex o towards first, then second; one of which is a free point. */
function crossAt(p: Float64Array, o: number, first: number | readonly number[], second: number | readonly number[]): number[] {
  const at = (x: number | readonly number[]) => (typeof x === 'number' ? [p[3 * x], p[3 * x + 1], p[3 * x + 2]] : x);
  const [c, a, b] = [at(o), at(first), at(second)];
  const u = [a[0] - c[0], a[1] - c[1], a[2] - c[2]];
  const w = [b[0] - c[0], b[1] - c[1], b[2] - c[2]];
  return [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
}

function moveUnlessWorse(p: Float64Array, v: number, ring: Ring, x: number, y: number, z: number, normal: readonly number[]): void {
  const was = leastCorner(p, [p[3 * v], p[3 * v + 1], p[3 * v + 2]], ring, normal);
  const will = leastCorner(p, [x, y, z], ring, normal);
  if (will < 0.2 && will < was) return;
  p[3 * v] = x;
  p[3 * v + 1] = y;
  p[3 * v + 2] = z;
}
