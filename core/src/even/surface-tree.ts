import { surfacePoint, TriangleBvh } from '../reference/triangle-bvh.ts';
import { FREE, type NetLines } from './held-lines.ts';
import { type VertexNet } from './vertex-net.ts';

/** A tree of a surface's faces as fans, as they lie now; triangles have the vertices' numbers. */
export function surfaceTree({ faceStart, corners }: VertexNet, positions: Float64Array): TriangleBvh {
  const triangles: number[] = [];
  for (let f = 0; f + 1 < faceStart.length; f++)
    for (let i = faceStart[f] + 1; i + 1 < faceStart[f + 1]; i++) triangles.push(corners[faceStart[f]], corners[i], corners[i + 1]);
  return new TriangleBvh(positions.slice(), Uint32Array.from(triangles));
}

/** Puts those of some vertices that slid freely, not along lines, back on a surface. @param p x, y, z by vertex; changed */
export function putBack(p: Float64Array, vertices: Int32Array, { kind }: NetLines, tree: TriangleBvh): void {
  const found = surfacePoint();
  for (const v of vertices) {
    if (kind[v] !== FREE) continue;
    // the one before lies near
    tree.closest(p[3 * v], p[3 * v + 1], p[3 * v + 2], found, Infinity, undefined, found.triangle);
    if (found.triangle >= 0) p.set([found.x, found.y, found.z], 3 * v);
  }
}
