import { type Cage } from '../mesh/cage.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { facesRound } from '../mesh/topology.ts';
import { Reference } from '../reference/reference.ts';
import { lookingAlong, surfacePoint } from '../reference/triangle-bvh.ts';
import { limitNormals } from '../subdivide/limit-normals.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { applyRows } from '../subdivide/weight-rows.ts';
import { PointFit } from './least-squares.ts';
import { limitPatch, type LimitPatch } from './limit-patch.ts';

export interface FittedCage {
  cage: Cage;
  /** distances of the limit surface from the reference in mm, before and after */
  before: Distances;
  after: Distances;
  /** distances of the cage's vertices from the reference after it; they lie off it where the surface is curved */
  vertices: Distances;
  /** points that found nothing on the reference that looks their way, and were left out */
  unmatched: number;
}

export interface Distances {
  mean: number;
  most: number;
}

/** Cosine of the angle beyond which a point of the reference looks another way: it belongs to another side. */
const LOOKS_AWAY = Math.cos((75 * Math.PI) / 180);

/**
 * Fits a cage so that its limit surface lies on a reference: points of the surface are sent to the nearest points of the
 * reference that look the same way, and the cage follows in the least squares; then again (Besl, McKay 1992).
 * @param movable vertices that may move
 * @param passes how often
 * @param offset mm over the reference that the surface is to lie
 */
export function fitToReference(
  cage: Cage,
  reference: PolygonMesh,
  movable: readonly number[],
  settings: SurfaceSettings,
  passes: number,
  offset = 0
): FittedCage {
  const target = Reference.of(reference);
  const seen = new Set(facesRound(cage, movable, 2));
  const patch = limitPatch(cage, facesRound(cage, movable, 4), settings, 1);
  const { faceStart, faceVertices } = patch.surface.last;
  const used = new Set<number>();
  patch.faceOf.forEach((f, i) => {
    if (seen.has(f)) for (let c = faceStart[i]; c < faceStart[i + 1]; c++) used.add(faceVertices[c]);
  });
  const samples = [...used];
  const isMovable = new Map(movable.map((v, i) => [v, i]));
  const unknownOf = patch.vertices.map((v) => isMovable.get(v) ?? -1);
  const start = new Float64Array(3 * patch.vertices.length);
  patch.vertices.forEach((v, i) => start.set(cage.position(v), 3 * i));
  const positions = start.slice();
  const fit = new PointFit(patch.rows, samples, unknownOf, movable.length, 1e-4);
  const surface = new SurfaceOf(patch);
  // triangles found the last time: the next ones lie near them
  const near = new Int32Array(samples.length).fill(-1);
  const first = gaps(target, surface, positions, samples, offset, near);
  let least = { ...first, positions: positions.slice() };
  let now = first;
  for (let pass = 0; pass < passes; pass++) {
    const moves = fit.moves(now.by);
    unknownOf.forEach((u, i) => {
      if (u >= 0) for (let k = 0; k < 3; k++) positions[3 * i + k] += moves[3 * u + k];
    });
    now = gaps(target, surface, positions, samples, offset, near);
    if (now.mean < least.mean) least = { ...now, positions: positions.slice() };
  }
  const copy = cage.clone();
  patch.vertices.forEach((v, i) => unknownOf[i] >= 0 && copy.positions.set(least.positions.subarray(3 * i, 3 * i + 3), 3 * v));
  const off = target.distances(Float64Array.from([...movable].flatMap((v) => copy.position(v))));
  return {
    cage: copy,
    before: { mean: first.mean, most: first.most },
    after: { mean: least.mean, most: least.most },
    vertices: { mean: off.reduce((a, b) => a + b, 0) / (off.length || 1), most: off.reduce((a, b) => Math.max(a, b), 0) },
    unmatched: least.unmatched
  };
}

/** Limit places and normals of a patch for any positions of its vertices. */
class SurfaceOf {
  readonly places: Float64Array;
  /** one normal a point: that of the first corner there */
  readonly normals: Float64Array;

  constructor(private readonly patch: LimitPatch) {
    this.places = new Float64Array(patch.places.length);
    this.normals = new Float64Array(patch.places.length);
  }

  update(positions: Float64Array): void {
    const { surface, rows } = this.patch;
    surface.evaluate(positions);
    const normals = limitNormals(surface.last, surface.scheme, surface.points[surface.points.length - 1]);
    applyRows(rows, positions, this.places);
    surface.last.faceVertices.forEach((v, c) => this.normals.set(normals.subarray(3 * c, 3 * c + 3), 3 * v));
  }
}

function gaps(target: Reference, surface: SurfaceOf, positions: Float64Array, samples: number[], offset: number, near: Int32Array) {
  surface.update(positions);
  const { places, normals } = surface;
  const by = new Float64Array(3 * samples.length);
  const found = surfacePoint();
  let [sum, most, unmatched] = [0, 0, 0];
  samples.forEach((s, n) => {
    const [at, normal] = [places, normals].map((list) => list.subarray(3 * s, 3 * s + 3));
    const onItsSide = lookingAlong(target.normals, normal, LOOKS_AWAY);
    const { triangle, x, y, z } = target.bvh.closest(at[0], at[1], at[2], found, Infinity, onItsSide, near[n] < 0 ? found.triangle : near[n]);
    near[n] = triangle;
    if (triangle < 0) return void unmatched++;
    const goal = [x, y, z].map((p, k) => p + offset * target.normals[3 * triangle + k]);
    goal.forEach((p, k) => (by[3 * n + k] = p - places[3 * s + k]));
    const off = Math.hypot(by[3 * n], by[3 * n + 1], by[3 * n + 2]);
    sum += off;
    most = Math.max(most, off);
  });
  return { by, mean: sum / Math.max(1, samples.length - unmatched), most, unmatched };
}
