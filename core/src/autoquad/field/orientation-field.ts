import { Cholesky, NotPositiveDefinite } from '../../numeric/cholesky.ts';
import { nestedDissection } from '../../numeric/nested-dissection.ts';
import { SymmetricBuilder } from '../../numeric/symmetric-matrix.ts';
import { QUARTER } from '../base/limits.ts';
import { before, type WorkingMesh } from '../base/working-mesh.ts';
import { type CurvatureDirections, type Frames } from './curvature.ts';

/** Weight of curvature that is followed closely, against 1 for neighbours that are to agree. */
export const PULLED = 0.1;

/** A cross on every triangle, and how crosses of neighbours fit together. */
export interface OrientationField {
  /** angle of one arm in the triangle's frame */
  theta: Float64Array;
  /**
   * by half-edge: arm k here continues as arm k - jump across (a quarter turn each), so that
   * theta' = theta + turn + jump * pi / 2 but for a small rest
   */
  jump: Int8Array;
  /** by vertex, in quarter turns: 1 for a pole of valence 3, -1 for valence 5; 0 regular and on borders */
  index: Int8Array;
}

/**
 * The smoothest field of crosses (Knoeppel, Crane, Pinkall, Schroeder 2013): each cross is a complex number of angle
 * 4 theta; neighbours should agree after the turn between their frames. Triangles with a feature edge are held to it,
 * the others pulled towards the curvature directions.
 * @param pull 0: only smooth, 1: follows curvature closely
 * @param guides directions asked for, some of them binding
 * @param graded frames as they turn between quads of different sizes
 */
export function orientationField(
  mesh: WorkingMesh,
  frames: Frames,
  curvature: CurvatureDirections,
  pull: number,
  guides?: GuideField,
  graded = frames
): OrientationField {
  const z = solveField(mesh, graded, curvature, pull, guides);
  const T = mesh.triangles;
  const theta = new Float64Array(T);
  for (let t = 0; t < T; t++) theta[t] = Math.atan2(z[2 * t + 1], z[2 * t]) / 4;
  const jump = new Int8Array(3 * T);
  const rest = new Float64Array(3 * T);
  for (let h = 0; h < 3 * T; h++) {
    const g = mesh.opposite[h];
    if (g < 0 || g < h) continue;
    const difference = theta[Math.floor(g / 3)] - theta[Math.floor(h / 3)] - frames.turn[h];
    const turns = Math.round((difference + frames.turn[h] - graded.turn[h]) / QUARTER);
    jump[h] = mod4(turns);
    jump[g] = mod4(-turns);
    rest[h] = difference - turns * QUARTER;
    rest[g] = -rest[h];
  }
  return { theta, jump, index: fieldIndex(mesh, frames, rest) };
}

export const mod4 = (n: number): number => ((n % 4) + 4) % 4;

/** Held triangles: with a feature edge, which gives the cross its direction. */
function featureCross(mesh: WorkingMesh, frames: Frames, t: number): number | undefined {
  for (let h = 3 * t; h < 3 * t + 3; h++) if (mesh.feature[h]) return frames.angle[h];
  return undefined;
}

function solveField(mesh: WorkingMesh, frames: Frames, curvature: CurvatureDirections, pull: number, guides?: GuideField): Float64Array {
  const T = mesh.triangles;
  const held = new Float64Array(2 * T);
  const place = new Int32Array(T).fill(-1);
  let free = 0;
  let anything = false;
  for (let t = 0; t < T; t++) {
    const angle = featureCross(mesh, frames, t);
    if (angle === undefined) place[t] = free++;
    else {
      held[2 * t] = Math.cos(4 * angle);
      held[2 * t + 1] = Math.sin(4 * angle);
      anything = true;
    }
  }
  const system = new SymmetricBuilder(2 * free, 16 * free);
  const right = new Float64Array(2 * free);
  for (let t = 0; t < T; t++) {
    const k = place[t];
    if (k < 0) continue;
    const pulled = PULLED * pull * curvature.weight[t];
    const guided = guides?.weight[t] ?? 0;
    if (pulled + guided > 1e-3) anything = true;
    if (guides) for (const i of [0, 1]) right[2 * k + i] += guided * guides.cross[2 * t + i];
    right[2 * k] += pulled * curvature.cross[2 * t];
    right[2 * k + 1] += pulled * curvature.cross[2 * t + 1];
    let diagonal = pulled + guided + 1e-6;
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const g = mesh.opposite[h];
      if (g < 0) continue;
      const w = dualWeight(mesh, h);
      diagonal += w;
      // z here should be z across, turned back
      const c = w * Math.cos(4 * frames.turn[h]);
      const s = w * Math.sin(4 * frames.turn[h]);
      const other = Math.floor(g / 3);
      const m = place[other];
      if (m < 0) {
        right[2 * k] += c * held[2 * other] + s * held[2 * other + 1];
        right[2 * k + 1] += c * held[2 * other + 1] - s * held[2 * other];
      } else if (m > k) {
        system.add(2 * k, 2 * m, -c);
        system.add(2 * k, 2 * m + 1, -s);
        system.add(2 * k + 1, 2 * m, s);
        system.add(2 * k + 1, 2 * m + 1, -c);
      }
    }
    system.add(2 * k, 2 * k, diagonal);
    system.add(2 * k + 1, 2 * k + 1, diagonal);
  }
  const solved = free === 0 ? new Float64Array(0) : solveFree(system, right, anything, guides !== undefined);
  for (let t = 0; t < T; t++)
    if (place[t] >= 0) {
      held[2 * t] = solved[2 * place[t]];
      held[2 * t + 1] = solved[2 * place[t] + 1];
    }
  return held;
}

/**
 * With anything to follow, one solve; with nothing, the eigenvector of the least eigenvalue by inverse iteration. Away from
 * what is followed in few places the field would fade out, and its poles crowd round them: there the least eigenvalue is taken
 * off nearly whole (Knoeppel and others 2013).
 */
function solveFree(system: SymmetricBuilder, right: Float64Array, anything: boolean, inFewPlaces: boolean): Float64Array {
  const matrix = system.done();
  const order = nestedDissection(matrix);
  const factor = new Cholesky(matrix, order);
  if (anything && !inFewPlaces) return factor.solve(right);
  const smoothest = leastEigenvector(matrix.size, factor);
  if (!anything) return smoothest;
  const least = 1 / Math.sqrt(factor.solve(smoothest).reduce((sum, c) => sum + c * c, 0));
  const value = matrix.value.slice();
  for (let j = 0; j < matrix.size; j++)
    for (let k = matrix.start[j]; k < matrix.start[j + 1]; k++) if (matrix.row[k] === j) value[k] -= TAKEN_OFF * least;
  try {
    return new Cholesky({ ...matrix, value }, order).solve(right);
  } catch (error) {
    // several eigenvalues lie close together, and the least was not found exactly
    if (!(error instanceof NotPositiveDefinite)) throw error;
    return factor.solve(right);
  }
}

/** Share of the least eigenvalue that is taken off. */
const TAKEN_OFF = 0.95;

function leastEigenvector(size: number, factor: Cholesky): Float64Array {
  let x = new Float64Array(size).map((_, i) => Math.sin(1 + i * 0.7));
  for (let round = 0; round < 12; round++) {
    x = factor.solve(x) as Float64Array<ArrayBuffer>;
    const length = Math.sqrt(x.reduce((sum, c) => sum + c * c, 0));
    for (let i = 0; i < x.length; i++) x[i] /= length;
  }
  return x;
}

/** Edge length over the distance of the triangles' middles, kept within bounds. */
export function dualWeight(mesh: WorkingMesh, h: number): number {
  const p = mesh.positions;
  const c = 3 * mesh.corner[before(h)];
  const d = 3 * mesh.corner[before(mesh.opposite[h])];
  const apart = Math.hypot(p[c] - p[d], p[c + 1] - p[d + 1], p[c + 2] - p[d + 2]) / 3;
  return Math.min(10, Math.max(0.1, Math.sqrt(mesh.edgeLength2(h)) / (apart + 1e-300) / 3));
}

/** Quarter turns of the field round each inner vertex: angle defect plus what the crosses turn on the way round. */
function fieldIndex(mesh: WorkingMesh, frames: Frames, rest: Float64Array): Int8Array {
  const index = new Int8Array(mesh.vertices);
  const turned = new Float64Array(mesh.vertices).fill(2 * Math.PI);
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    const v = mesh.corner[h];
    turned[v] -= cornerAngle(frames, h);
    // counter-clockwise round v one crosses the half-edge that comes in to v
    turned[v] += rest[before(h)];
  }
  for (let v = 0; v < mesh.vertices; v++) if (mesh.outgoing[v] >= 0 && !mesh.isBorder(v)) index[v] = Math.round(turned[v] / QUARTER);
  return index;
}

/** Angle of a triangle at the start of a half-edge. */
export const cornerAngle = (frames: Frames, h: number): number => Math.PI - Math.abs(wrap(frames.angle[before(h)] - frames.angle[h]));

/** An angle between half a turn back and half a turn on. */
export function wrap(angle: number): number {
  return Math.atan2(Math.sin(angle), Math.cos(angle));
}

/** Directions that guides give the field, by triangle. */
export interface GuideField {
  /** cosine and sine of four times the angle in the triangle's frame */
  cross: Float64Array;
  /** 0: none */
  weight: Float64Array;
}
