import { Cage } from '../../mesh/cage.ts';
import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { dot, scaled, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { surfacePoint } from '../../reference/triangle-bvh.ts';
import { STAYS_SHARP } from '../../subdivide/level-topology.ts';
import { type FollowedEdge } from '../lines/features.ts';
import { followsLine } from '../lines/follows-line.ts';
import { linesOf } from '../base/remesh.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';

/** A line turns at a corner by more than the angle of this cosine. */
const STRAIGHT = Math.cos(Math.PI / 6);

/**
 * Edges of quads that lie on creased edges of the surface become creases as sharp as those; where such a line turns sharply its
 * vertex becomes a corner.
 * @param held 1 by vertex on lines that quads follow, 2 at their corners
 */
export function creaseSharp(mesh: PolygonMesh, held: Uint8Array, surface: WorkingMesh, creased: readonly FollowedEdge[]): PolygonMesh {
  const sharp = linesOf(
    surface,
    creased.map(({ half }) => half)
  );
  if (!sharp) return mesh;
  const cage = Cage.fromPolygons(mesh);
  const found = surfacePoint();
  const pairs: number[] = [];
  const sharpness: number[] = [];
  const ways = new Map<number, Triple[]>();
  for (const e of cage.edges()) {
    if (cage.isBorderEdge(e)) continue;
    const [v, w] = [cage.origin[2 * e], cage.target(2 * e)];
    if (held[v] === 0 || held[w] === 0) continue;
    const [a, b] = [cage.position(v), cage.position(w)];
    if (!followsLine(sharp, a, b, found)) continue;
    const way = subtract(b, a);
    pairs.push(v, w);
    sharpness.push(creased[found.triangle].sharpness);
    for (const [x, outward] of [
      [v, way],
      [w, scaled(way, -1)]
    ] as const)
      ways.set(x, [...(ways.get(x) ?? []), unit(outward)]);
  }
  if (pairs.length === 0) return mesh;
  const turns = (out: Triple[]) => out.length === 2 && -dot(out[0], out[1]) < STRAIGHT;
  const corners = [...ways.keys()].filter((v) => held[v] === 2 && turns(ways.get(v)!));
  return {
    ...mesh,
    creaseEdges: Int32Array.from(pairs),
    creaseSharpness: Float64Array.from(sharpness),
    ...(corners.length > 0 && {
      cornerVertices: Int32Array.from(corners),
      cornerSharpness: new Float64Array(corners.length).fill(STAYS_SHARP)
    })
  };
}
