import { TriangleBvh } from '../reference/triangle-bvh.ts';
import { type VertexNet } from './vertex-net.ts';

/** A tree of a surface's faces as fans, as they lie now; triangles have the vertices' numbers. */
export function surfaceTree({ faceStart, corners }: VertexNet, positions: Float64Array): TriangleBvh {
  const triangles: number[] = [];
  for (let f = 0; f + 1 < faceStart.length; f++)
    for (let i = faceStart[f] + 1; i + 1 < faceStart[f + 1]; i++) triangles.push(corners[faceStart[f]], corners[i], corners[i + 1]);
  return new TriangleBvh(positions.slice(), Uint32Array.from(triangles));
}
