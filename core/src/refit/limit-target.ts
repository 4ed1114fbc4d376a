import { add, closestOnSegment, cross, dot, scaled, subtract, unit, weightedSum, type Triple } from '../numeric/vectors.ts';
import { surfacePoint, TriangleBvh } from '../reference/triangle-bvh.ts';
import { limitNormals } from '../subdivide/limit-normals.ts';
import { STAYS_SHARP } from '../subdivide/level-topology.ts';
import { levelTriangles, type LimitPatch } from './limit-patch.ts';

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

  constructor(private readonly patch: Pick<LimitPatch, 'surface' | 'places' | 'lines'>) {
    const { surface } = patch;
    // a rounding narrower than the last level's faces is none between them
    const edgeSharpness = surface.last.edgeSharpness.map((s) => (s >= 1 ? STAYS_SHARP : s));
    this.normals = limitNormals({ ...surface.last, edgeSharpness }, surface.scheme, surface.points[surface.points.length - 1]);
    this.corners = levelTriangles(surface.last);
    this.triangles = this.corners.map((c) => surface.last.faceVertices[c]);
    this.bvh = new TriangleBvh(patch.places, this.triangles);
  }

  /**
   * Distances of points (x, y, z) from the flat triangles between the surface's own points, and by how much the surface may lie off
   * the triangle there: zero distance where a point is one of them.
   */
  flatDistances(points: Float64Array): { distance: Float64Array; bulge: Float64Array } {
    const [distance, bulge] = [new Float64Array(points.length / 3), new Float64Array(points.length / 3)];
    const bulges = new Float64Array(this.triangles.length / 3).fill(-1);
    const { found } = this;
    found.triangle = -1;
    for (let i = 0; i < distance.length; i++) {
      this.bvh.closest(points[3 * i], points[3 * i + 1], points[3 * i + 2], found, Infinity, undefined, found.triangle);
      distance[i] = Math.sqrt(found.distance2);
      if (bulges[found.triangle] < 0) bulges[found.triangle] = this.bulgeOf(found.triangle);
      bulge[i] = bulges[found.triangle];
    }
    return { distance, bulge };
  }

  /** How far the cubic over a triangle lies off it at most: a quarter of how far an end of a side lies off the other end's tangent plane. */
  private bulgeOf(t: number): number {
    const { triangles, corners, normals } = this;
    const { places } = this.patch;
    let most = 0;
    for (let i = 3 * t; i < 3 * t + 3; i++)
      for (let j = 3 * t; j < 3 * t + 3; j++) {
        const [a, b, n] = [3 * triangles[i], 3 * triangles[j], 3 * corners[i]];
        const rise =
          (places[b] - places[a]) * normals[n] + (places[b + 1] - places[a + 1]) * normals[n + 1] + (places[b + 2] - places[a + 2]) * normals[n + 2];
        most = Math.max(most, Math.abs(rise));
      }
    return 0.35 * most;
  }

  /**
   * The point of the surface closest to p. Between the points of the patch the surface is taken as the cubic that meets their
   * places and normals (Vlachos, Peters, Boyd, Mitchell 2001), which is far closer to the limit than flat triangles are.
   */
  onSurface(p: Triple): TargetPoint {
    const { triangle, b, c } = this.bvh.closest(p[0], p[1], p[2], this.found);
    const weights: Triple = [1 - b - c, b, c];
    const { places, normals } = this.cornersOf(triangle);
    const direction = unit(weightedSum(normals.map((n, k) => [weights[k], n])));
    const flat = cross(subtract(places[1], places[0]), subtract(places[2], places[0]));
    return { point: curvedPoint(places, normals, weights), direction: dot(direction, direction) > 0.5 ? direction : unit(flat) };
  }

  /** Points of the surface on the triangles round some of its own points, `steps` to a side. */
  *pointsRound(points: ReadonlySet<number>, steps: number): Generator<Triple> {
    for (let t = 0; 3 * t < this.triangles.length; t++) {
      if (![0, 1, 2].some((k) => points.has(this.triangles[3 * t + k]))) continue;
      const { places, normals } = this.cornersOf(t);
      for (let i = 0; i <= steps; i++)
        for (let j = 0; i + j <= steps; j++) yield curvedPoint(places, normals, [1 - (i + j) / steps, i / steps, j / steps]);
    }
  }

  private cornersOf(triangle: number): { places: Triple[]; normals: Triple[] } {
    const { triangles, corners } = this;
    const of = (values: Float64Array, i: number): Triple => [values[3 * i], values[3 * i + 1], values[3 * i + 2]];
    const three = [3 * triangle, 3 * triangle + 1, 3 * triangle + 2];
    return { places: three.map((i) => of(this.patch.places, triangles[i])), normals: three.map((i) => of(this.normals, corners[i])) };
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
