import { type Triple, unit, subtract, scaled, dot } from '../../numeric/vectors.ts';
import { above } from './mirror.ts';
import { type WorkingMesh, after } from './working-mesh.ts';

/** Normals at border vertices that lie on a mirror are those of the whole surface: they have no part along the mirror's normal. */
export function straightenNormals(normals: Float64Array, mesh: WorkingMesh): void {
  if (mesh.mirrors.length === 0) return;
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    if (mesh.opposite[h] >= 0 || mesh.corner[h] < 0) continue;
    for (const v of [mesh.corner[h], mesh.corner[after(h)]])
      for (const mirror of mesh.mirrors) {
        if (Math.abs(above(mirror, mesh.positions, v)) > 1e-6 * (1 + Math.abs(mirror.offset))) continue;
        const normal: Triple = [normals[3 * v], normals[3 * v + 1], normals[3 * v + 2]];
        normals.set(unit(subtract(normal, scaled(mirror.normal, dot(mirror.normal, normal)))), 3 * v);
      }
  }
}
