import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { cross, dot, length, scaled, subtract, type Triple } from '../numeric/vectors.ts';
import { deepestLevel, possibleScheme, type SurfaceSettings } from '../subdivide/level-plan.ts';
import { Subdivision } from '../subdivide/subdivision.ts';

/** Curvatures of a smooth surface at the points of one of its levels. */
export interface Curvatures {
  /** 1/mm; above 0 where it bulges out */
  mean: Float64Array;
  /** 1/mm2 */
  gauss: Float64Array;
}

/** Faces of the finest level at most, and levels. */
const [MOST_FINE, LEVELS, FEWEST] = [300_000, 4, 1];

/**
 * Mean and Gaussian curvature of the limit surface at the points of a level of it, by the cotangents and the angle defect of its triangles (Meyer,
 * Desbrun, Schroeder, Barr 2003): second derivatives of the limit itself have no bound at poles. On borders both are 0.
 * @returns points of lower levels, and of the cage, are the first
 */
export function limitCurvatures(mesh: PolygonMesh, settings: SurfaceSettings): Curvatures {
  const scheme = possibleScheme(settings.scheme, mesh.faceStart.length - 1, mesh.faceVertices.length);
  const least = Math.max(FEWEST, settings.plan?.steps.length ?? 0);
  const levels = Math.max(least, deepestLevel(mesh.faceVertices.length / 4, MOST_FINE, LEVELS, least));
  const surface = new Subdivision(mesh, { ...settings, scheme, levels, limit: true });
  const positions = surface.evaluate(mesh.positions);
  const { faceStart, faceVertices, edgeFaces, edgeVertices } = surface.last;
  const curved = curvaturesOf(positions, triangulate({ positions, faceStart, faceVertices }).triangles);
  for (let e = 0; e < edgeFaces.length / 2; e++)
    if (edgeFaces[2 * e + 1] < 0) for (const v of [edgeVertices[2 * e], edgeVertices[2 * e + 1]]) curved.mean[v] = curved.gauss[v] = 0;
  return curved;
}

/** Curvatures at the vertices of triangles. */
function curvaturesOf(p: Float64Array, triangles: Uint32Array): Curvatures {
  const many = p.length / 3;
  const [area, defect] = [new Float64Array(many), new Float64Array(many).fill(2 * Math.PI)];
  const [bend, normal] = [new Float64Array(p.length), new Float64Array(p.length)];
  const at = (v: number): Triple => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  const put = (to: Float64Array, v: number, d: Triple) => d.forEach((x, k) => (to[3 * v + k] += x));
  for (let t = 0; t < triangles.length; t += 3) {
    const own = [triangles[t], triangles[t + 1], triangles[t + 2]];
    const q = own.map(at);
    const n = cross(subtract(q[1], q[0]), subtract(q[2], q[0]));
    const double = length(n);
    if (!(double > 0)) continue;
    const cotangents = q.map((_, i) => dot(subtract(q[(i + 1) % 3], q[i]), subtract(q[(i + 2) % 3], q[i])) / double);
    const obtuse = cotangents.findIndex((c) => c < 0);
    own.forEach((v, i) => {
      const [u, w] = [subtract(q[(i + 1) % 3], q[i]), subtract(q[(i + 2) % 3], q[i])];
      const cotangent = cotangents[i];
      defect[v] -= Math.atan2(double, dot(u, w));
      // mixed areas: those nearest to the corner, but for obtuse triangles
      if (obtuse >= 0) area[v] += double / (obtuse === i ? 4 : 8);
      else area[v] += (dot(u, u) * cotangents[(i + 2) % 3] + dot(w, w) * cotangents[(i + 1) % 3]) / 8;
      put(normal, v, n);
      // across this corner lies the edge between the other two
      const edge = scaled(subtract(q[(i + 2) % 3], q[(i + 1) % 3]), 0.5 * cotangent);
      put(bend, own[(i + 1) % 3], scaled(edge, -1));
      put(bend, own[(i + 2) % 3], edge);
    });
  }
  const [mean, gauss] = [new Float64Array(many), new Float64Array(many)];
  for (let v = 0; v < many; v++) {
    if (!(area[v] > 0)) continue;
    const [b, n] = [bend, normal].map((of): Triple => [of[3 * v], of[3 * v + 1], of[3 * v + 2]]);
    mean[v] = (0.5 * Math.sign(dot(b, n)) * length(b)) / area[v];
    gauss[v] = defect[v] / area[v];
  }
  return { mean, gauss };
}
