import { type Cage } from '../mesh/cage.ts';
import { facesRound } from '../mesh/topology.ts';
import { subtract, type Triple } from '../numeric/vectors.ts';
import { surfacePoint, TriangleBvh } from '../reference/triangle-bvh.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { levelTriangles, limitPatch } from './limit-patch.ts';

/** A place of the limit surface as a weighted mean of cage vertices. */
export interface SurfacePlace {
  at: Triple;
  vertices: number[];
  weights: number[];
}

/** The place of the limit surface nearest to a point, on the part of it that belongs to a cage face. */
export function surfacePlaceAt(cage: Cage, face: number, point: Triple, settings: SurfaceSettings): SurfacePlace {
  const patch = limitPatch(cage, facesRound(cage, cage.faceVertices(face), 3), settings, 3);
  const points = levelTriangles(patch.surface.last, (f) => patch.faceOf[f] === face).map((c) => patch.surface.last.faceVertices[c]);
  const { triangle, b, c, x, y, z } = new TriangleBvh(patch.places, points).closest(...point, surfacePoint());
  const weights = new Map<number, number>();
  [1 - b - c, b, c].forEach((share, k) => {
    const row = points[3 * triangle + k];
    for (let i = patch.rows.start[row]; i < patch.rows.start[row + 1]; i++) {
      const v = patch.vertices[patch.rows.index[i]];
      weights.set(v, (weights.get(v) ?? 0) + share * patch.rows.weight[i]);
    }
  });
  return { at: [x, y, z], vertices: [...weights.keys()], weights: [...weights.values()] };
}

/**
 * Moves the cage so that a place of its limit surface goes to a point: of all ways the one with the shortest moves, which for
 * one place is each vertex by its share of the weights' squares.
 */
export function pulledTo(cage: Cage, place: SurfacePlace, point: Triple): Cage {
  const by = subtract(point, place.at);
  const square = place.weights.reduce((sum, w) => sum + w * w, 0);
  const copy = cage.clone();
  place.vertices.forEach((v, i) => {
    for (let k = 0; k < 3; k++) copy.positions[3 * v + k] += (place.weights[i] / square) * by[k];
  });
  return copy;
}
