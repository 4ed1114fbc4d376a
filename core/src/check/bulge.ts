import { Cage } from '../mesh/cage.ts';
import { vertexNormal } from '../mesh/normals.ts';
import { polygonsOfFaces, withoutPinches } from '../mesh/polygons-of-faces.ts';
import { facesRound } from '../mesh/topology.ts';
import { dot, subtract, type Triple } from '../numeric/vectors.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { Subdivision } from '../subdivide/subdivision.ts';
import { withoutDefect } from './without-defect.ts';

/** How far the limit surface leaves what it would be without a defect. */
export interface Bulge {
  /** mm */
  size: number;
  /** where it is farthest */
  at: Triple;
}

/** Rings of faces round a defect that are subdivided with it, and without it. */
const RINGS = 4;

/**
 * How far the limit surface at a face that is no quad lies from where it would be without that face: the same surroundings are refined with it and
 * mended, and points that both have are compared along the normals. In flat surroundings it is nothing by itself.
 * @returns nothing where no mending is known that leaves the surroundings as they are
 */
export function bulgeAt(cage: Cage, f: number, settings: SurfaceSettings): Bulge | undefined {
  const near = facesRound(cage, cage.faceVertices(f), RINGS);
  const faces = withoutPinches(cage, [f, ...near.filter((g) => g !== f)]);
  if (!faces) return undefined;
  const { mesh } = polygonsOfFaces(cage, faces);
  const patch = Cage.fromPolygons(mesh);
  const mended = withoutDefect(patch, 0);
  if (!mended) return undefined;
  const [was, is] = [limitPlaces(patch, settings), limitPlaces(mended, settings)];
  let found: Bulge = { size: 0, at: patch.position(patch.faceVertices(0)[0]) };
  for (const [key, p] of was) {
    const q = is.get(key);
    if (!q) continue;
    const size = Math.abs(dot(subtract(q.at, p.at), p.normal));
    if (size > found.size) found = { size, at: p.at };
  }
  return found;
}

/** Points of the limit surface at vertices, edges and faces of a cage, by what they belong to, with the normal there. */
function limitPlaces(cage: Cage, settings: SurfaceSettings): Map<string, { at: Triple; normal: Triple }> {
  const mesh = cage.toPolygons();
  const { scheme: _scheme, ...rest } = settings;
  const surface = new Subdivision(mesh, { ...rest, levels: Math.max(1, settings.plan?.steps.length ?? 0), limit: true });
  const points = surface.evaluate(mesh.positions);
  const { vertices, edges, edgeVertices } = surface.levels[0];
  const places = new Map<string, { at: Triple; normal: Triple }>();
  const at = (i: number): Triple => [points[3 * i], points[3 * i + 1], points[3 * i + 2]];
  const idOf = (i: number) => mesh.vertexIds[i];
  const normals = Array.from({ length: vertices }, (_, i) => vertexNormal(cage, idOf(i)));
  for (let i = 0; i < vertices; i++) places.set(`${idOf(i)}`, { at: at(i), normal: normals[i] });
  for (let e = 0; e < edges; e++) {
    const [a, b] = [edgeVertices[2 * e], edgeVertices[2 * e + 1]];
    const key = [idOf(a), idOf(b)].sort((x, y) => x - y).join(' ');
    places.set(key, { at: at(vertices + e), normal: normals[a] });
  }
  return places;
}
