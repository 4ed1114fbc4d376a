import { Remesher } from '../src/autoquad/base/remesh.ts';
import { WorkingMesh } from '../src/autoquad/base/working-mesh.ts';
import { curvatureDirections, triangleFrames } from '../src/autoquad/field/curvature.ts';
import { orientationField } from '../src/autoquad/field/orientation-field.ts';
import { markFeatures } from '../src/autoquad/lines/features.ts';
import { boundsOf, type PolygonMesh } from '../src/mesh/polygon-mesh.ts';
import { triangulate } from '../src/mesh/triangulate.ts';
import { TriangleBvh } from '../src/reference/triangle-bvh.ts';

export function working(mesh: PolygonMesh) {
  const triangles = triangulate(mesh).triangles;
  const made = new WorkingMesh(mesh.positions, triangles);
  const { sharp } = markFeatures(made, boundsOf(mesh.positions).diagonal);
  return { mesh: made, triangles, sharp: sharp.length, bvh: new TriangleBvh(mesh.positions, triangles) };
}

export const alive = (mesh: WorkingMesh) => [...Array(mesh.triangles).keys()].filter((t) => mesh.isAlive(t));

export function eulerOf(mesh: WorkingMesh): number {
  const faces = alive(mesh);
  const used = new Set(faces.flatMap((t) => [0, 1, 2].map((k) => mesh.corner[3 * t + k])));
  const edges = faces.flatMap((t) => [0, 1, 2].map((k) => 3 * t + k)).filter((h) => mesh.opposite[h] < h).length;
  return used.size - edges + faces.length;
}

export const fieldOf = (mesh: WorkingMesh, pull = 0) => {
  const frames = triangleFrames(mesh);
  return { frames, field: orientationField(mesh, frames, curvatureDirections(mesh, frames, 3), pull) };
};

/** The working mesh of a surface, with its field and cut. */
export function opened(mesh: PolygonMesh, size: number, pull = 0) {
  const dense = working(mesh);
  dense.mesh.size.fill(size);
  const even = new Remesher(dense.mesh, dense.bvh, new Float64Array(dense.triangles.length / 3).fill(size)).run(5);
  const { frames, field } = fieldOf(even, pull);
  return { mesh: even, frames, field };
}
