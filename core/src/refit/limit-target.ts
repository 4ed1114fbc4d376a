import { add, closestOnSegment, cross, dot, scaled, subtract, unit, weightedSum, type Triple } from '../numeric/vectors.ts';
import { surfacePoint, TriangleBvh } from '../reference/triangle-bvh.ts';
import { limitNormals } from '../subdivide/limit-normals.ts';
import { patchTriangles, type LimitPatch } from './limit-patch.ts';

export interface TargetPoint {
  point: Triple;
  /** unit normal of a surface, or unit direction of a line */
  direction: Triple;
}

/** A limit surface to come back to: closest points on it and on its lines. */
export class LimitTarget {
  private readonly triangles: Uint32Array;
  /** face corner of the patch's last level at each triangle corner */
  private readonly corners: Uint32Array;
  private readonly normals: Float64Array;
  private readonly bvh: TriangleBvh;
  private readonly found = surfacePoint();

  constructor(private readonly patch: LimitPatch) {
    const { surface } = patch;
    this.normals = limitNormals(surface.last, surface.scheme, surface.points[surface.points.length - 1]);
    this.corners = patchTriangles(patch);
    this.triangles = this.corners.map((c) => surface.last.faceVertices[c]);
    this.bvh = new TriangleBvh(patch.places, this.triangles);
  }

  /**
   * The point of the surface closest to p. Between the points of the patch the surface is taken as the cubic that meets their
   * places and normals (Vlachos, Peters, Boyd, Mitchell 2001), which is far closer to the limit than flat triangles are.
   */
  onSurface(p: Triple): TargetPoint {
    const { triangle, b, c } = this.bvh.closest(p[0], p[1], p[2], this.found);
    const at = (k: number): Triple => {
      const i = 3 * this.triangles[3 * triangle + k];
      return [this.patch.places[i], this.patch.places[i + 1], this.patch.places[i + 2]];
    };
    const normal = (k: number): Triple => {
      const i = 3 * this.corners[3 * triangle + k];
      return [this.normals[i], this.normals[i + 1], this.normals[i + 2]];
    };
    const weights: Triple = [1 - b - c, b, c];
    const places = [at(0), at(1), at(2)];
    const normals = [normal(0), normal(1), normal(2)];
    const direction = unit(weightedSum(normals.map((n, k) => [weights[k], n])));
    const flat = cross(subtract(places[1], places[0]), subtract(places[2], places[0]));
    return { point: curvedPoint(places, normals, weights), direction: dot(direction, direction) > 0.5 ? direction : unit(flat) };
  }

  /** The point of the borders and creases closest to p; nothing where there are none. */
  onLine(p: Triple): TargetPoint | undefined {
    const { patch } = this;
    const { edgeVertices } = patch.surface.last;
    const at = (v: number): Triple => [patch.places[3 * v], patch.places[3 * v + 1], patch.places[3 * v + 2]];
    let best: TargetPoint | undefined;
    let least = Infinity;
    for (const e of patch.lines) {
      const [a, b] = [at(edgeVertices[2 * e]), at(edgeVertices[2 * e + 1])];
      const point = closestOnSegment(p, a, b);
      const off = subtract(p, point);
      const distance = dot(off, off);
      if (distance < least) [least, best] = [distance, { point, direction: unit(subtract(b, a)) }];
    }
    return best;
  }
}

/** A point of the cubic triangle over three places and their normals. */
function curvedPoint(places: Triple[], normals: Triple[], weights: Triple): Triple {
  const control: [number, Triple][] = places.map((p, k) => [weights[k] ** 3, p]);
  let edges: Triple = [0, 0, 0];
  for (let i = 0; i < 3; i++)
    for (const j of [(i + 1) % 3, (i + 2) % 3]) {
      const rise = dot(subtract(places[j], places[i]), normals[i]);
      const point = scaled(
        weightedSum([
          [2, places[i]],
          [1, places[j]],
          [-rise, normals[i]]
        ]),
        1 / 3
      );
      edges = add(edges, scaled(point, 1 / 6));
      control.push([3 * weights[i] ** 2 * weights[j], point]);
    }
  const middle = scaled(weightedSum(places.map((p) => [1, p])), 1 / 3);
  control.push([6 * weights[0] * weights[1] * weights[2], add(edges, scaled(subtract(edges, middle), 0.5))]);
  return weightedSum(control);
}
