import { Cholesky } from '../../numeric/cholesky.ts';
import { nestedDissection } from '../../numeric/nested-dissection.ts';
import { SymmetricBuilder } from '../../numeric/symmetric-matrix.ts';
import { length, subtract, type Triple } from '../../numeric/vectors.ts';
import { surfacePoint, TriangleBvh } from '../../reference/triangle-bvh.ts';
import { QUARTER } from '../base/limits.ts';
import { type PoleMove } from '../base/options.ts';
import { wayAlongEdges } from '../base/way-between.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';
import { loopsBetween } from './closed-rings.ts';
import { type Frames } from './curvature.ts';
import { dualWeight, mod4, type OrientationField } from './orientation-field.ts';

/** Loops that are so many quads round at most stay: those round fingers. */
const ROUND_FINGERS = 10;

/** What is asked of the poles of a field. */
export interface PoleWishes {
  moves: readonly PoleMove[];
  /** poles of three and of five edges that lie no farther apart than this cancel, nearest first; within a quad those stay between which a loop closes round a finger; 0: none */
  cancelWithin: number;
  /** edge length of a quad */
  quad: number;
  /** a pole this near to where a move begins is meant, and one this near to its end is met */
  near: number;
}

/**
 * Moves poles of a field and cancels pairs of them: what turns over the edges on the way changes by a quarter, and the crosses
 * are smoothed again with the turns held (after Bommes, Zimmer, Kobbelt 2009). Poles do not pass features or borders. Changes the field.
 * @param pull by triangle, how strongly a cross stays as it was, against 1 for neighbours that are to agree
 * @returns numbers of the moves that could not be made, and the places of poles that were cancelled by their distance, in pairs
 */
export function movePoles(
  mesh: WorkingMesh,
  frames: Frames,
  field: OrientationField,
  pull: Float64Array,
  wishes: PoleWishes
): { lost: number[]; cancelled: Triple[] } {
  const { theta, index } = field;
  const held = mesh.onFeatures();
  const turns = new Int32Array(3 * mesh.triangles);
  for (let h = 0; h < turns.length; h++)
    if (mesh.opposite[h] >= 0) turns[h] = Math.round((thetaAcross(mesh, theta, h) - theta[Math.floor(h / 3)] - frames.turn[h]) / QUARTER);
  const carry = (from: number, to: number, mayGo: (way: readonly number[]) => boolean = () => true): boolean => {
    const way = held[from] || held[to] ? undefined : wayAlongEdges(mesh, from, to, (v) => !held[v]);
    if (!way || from === to || !mayGo(way)) return false;
    const quarters = Math.sign(index[from]);
    // the half-edge from a to b adds what turns over it to b's sum, with the sign turned
    for (const h of way) {
      turns[h] -= quarters;
      turns[mesh.opposite[h]] += quarters;
    }
    index[from] -= quarters;
    index[to] += quarters;
    return true;
  };
  const lost: number[] = [];
  let changed = 0;
  if (wishes.moves.length > 0) {
    const bvh = new TriangleBvh(mesh.positions, mesh.corner);
    wishes.moves.forEach(({ from, to }, i) => {
      const pole = nearestPole(mesh, index, from, wishes.near, () => true);
      const sign = pole < 0 ? 0 : Math.sign(index[pole]);
      const met = nearestPole(mesh, index, to, wishes.near, (v) => Math.sign(index[v]) === -sign);
      const end = met >= 0 ? met : nearestFree(mesh, bvh, held, to);
      // two of a kind do not fit on one vertex
      if (pole < 0 || end < 0 || Math.abs(index[end] + sign) > 1 || !carry(pole, end)) lost.push(i);
      else changed++;
    });
  }
  const cancelled: Triple[] = [];
  if (wishes.cancelWithin > 0) {
    const { quad } = wishes;
    // fewer poles than these are asked for at the cost of loops
    const hasLoopBetween = wishes.cancelWithin > quad ? () => false : loopsBetween(mesh, frames, field, quad, ROUND_FINGERS);
    for (const [from, to] of nearPairs(mesh, index, held, wishes.cancelWithin))
      if (carry(from, to, (way) => !hasLoopBetween(way))) cancelled.push(mesh.point(from), mesh.point(to));
  }
  if (changed + cancelled.length > 0) smoothHeld(mesh, frames, field, turns, pull);
  return { lost, cancelled };
}

const thetaAcross = (mesh: WorkingMesh, theta: Float64Array, h: number): number => theta[Math.floor(mesh.opposite[h] / 3)];

function nearestPole(mesh: WorkingMesh, index: Int8Array, at: Triple, within: number, fits: (v: number) => boolean): number {
  let [best, least] = [-1, within];
  for (let v = 0; v < mesh.vertices; v++) {
    if (index[v] === 0 || !fits(v)) continue;
    const off = length(subtract(mesh.point(v), at));
    if (off <= least) [best, least] = [v, off];
  }
  return best;
}

/** The vertex nearest to a place on the surface that lies on no feature. */
function nearestFree(mesh: WorkingMesh, bvh: TriangleBvh, held: Uint8Array, at: Triple): number {
  const { triangle } = bvh.closest(...at, surfacePoint());
  const corners = [0, 1, 2].map((k) => mesh.corner[3 * triangle + k]).filter((v) => !held[v]);
  const off = (v: number) => length(subtract(mesh.point(v), at));
  return corners.length === 0 ? -1 : corners.reduce((best, v) => (off(v) < off(best) ? v : best));
}

/** Pairs of poles of opposite kind, nearest first, each pole in one pair at most. */
function nearPairs(mesh: WorkingMesh, index: Int8Array, held: Uint8Array, within: number): [number, number][] {
  const poles = [...index.keys()].filter((v) => index[v] !== 0 && !held[v]);
  const pairs: { from: number; to: number; off: number }[] = [];
  for (const from of poles)
    if (index[from] > 0)
      for (const to of poles) {
        const off = index[to] < 0 ? length(subtract(mesh.point(to), mesh.point(from))) : Infinity;
        if (off <= within) pairs.push({ from, to, off });
      }
  const used = new Set<number>();
  return pairs
    .sort((a, b) => a.off - b.off)
    .flatMap(({ from, to }): [number, number][] => {
      if (used.has(from) || used.has(to)) return [];
      used.add(from).add(to);
      return [[from, to]];
    });
}

/** The smoothest crosses with these turns: angles that agree after turning, near what they were, those on features as they are. */
function smoothHeld(mesh: WorkingMesh, frames: Frames, field: OrientationField, turns: Int32Array, pull: Float64Array): void {
  const { theta, jump } = field;
  const T = mesh.triangles;
  const place = new Int32Array(T).fill(-1);
  let free = 0;
  for (let t = 0; t < T; t++) if (![0, 1, 2].some((k) => mesh.feature[3 * t + k])) place[t] = free++;
  const system = new SymmetricBuilder(free, 4 * free);
  const right = new Float64Array(free);
  for (let t = 0; t < T; t++) {
    const k = place[t];
    if (k < 0) continue;
    const own = pull[t] + 1e-6;
    let diagonal = own;
    right[k] += own * theta[t];
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const g = mesh.opposite[h];
      if (g < 0) continue;
      const w = dualWeight(mesh, h);
      diagonal += w;
      const other = Math.floor(g / 3);
      right[k] -= w * (frames.turn[h] + turns[h] * QUARTER);
      if (place[other] < 0) right[k] += w * theta[other];
      else if (place[other] > k) system.add(k, place[other], -w);
    }
    system.add(k, k, diagonal);
  }
  const matrix = system.done();
  const solved = free > 0 ? new Cholesky(matrix, nestedDissection(matrix)).solve(right) : new Float64Array(0);
  for (let t = 0; t < T; t++) if (place[t] >= 0) theta[t] = solved[place[t]];
  for (let h = 0; h < 3 * T; h++) if (mesh.opposite[h] >= 0) jump[h] = mod4(turns[h]);
}
