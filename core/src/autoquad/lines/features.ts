import { boundsOf, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { triangulate } from '../../mesh/triangulate.ts';
import { triangleNormals } from '../../reference/reference.ts';
import { FEATURE_ANGLE } from '../base/limits.ts';
import { type LinePick } from '../base/options.ts';
import { type FeatureLines } from '../base/quad-list.ts';
import { linesOf } from '../base/remesh.ts';
import { after, WorkingMesh } from '../base/working-mesh.ts';
import { lengthOf, piecesOfLines } from './line-pieces.ts';
import { withoutNoise } from './noisy-lines.ts';
import { markPicked } from './picked-lines.ts';

/** Feature lines shorter than this share of the diagonal are noise; so are those without a closed loop below the second. */
const SHORTEST = 0.08;
const SHORTEST_OPEN = 0.4;

/**
 * Marks borders and sharp edges as features. Noise is kept out: angles are taken between normals averaged over
 * each triangle's neighbours on its own side, lines that branch everywhere lose what is short of them, and short pieces are dropped.
 * @returns a half-edge of each edge that was marked sharp (borders not among them), and how many others were taken for noise
 */
export function markFeatures(mesh: WorkingMesh, diagonal: number, degrees = FEATURE_ANGLE): { sharp: number[]; noise: number } {
  const normals = triangleNormals(mesh.positions, mesh.corner);
  const raw = Math.cos((degrees * Math.PI) / 180);
  const sharp = new Map<number, number>();
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    const g = mesh.opposite[h];
    if (g < 0) mesh.feature[h] = 1;
    else if (h < g) {
      const own = dot(normals, h, g);
      if (own >= raw) continue;
      const fold = Math.max(own, dot(sideNormals(mesh, normals, h, g), 0, 3));
      if (fold < raw) sharp.set(h, (Math.acos(Math.max(-1, fold)) * 180) / Math.PI);
    }
  }
  const clean = withoutNoise(mesh, sharp, diagonal, degrees);
  return { sharp: keepLong(mesh, clean, SHORTEST * diagonal, SHORTEST_OPEN * diagonal), noise: sharp.size - clean.length };
}

/** A surface with the edges marked that quads keep: sharp ones, creases and edges between regions, and what was picked. */
export function withFeatures(surface: PolygonMesh, degrees: number | undefined, picks: readonly LinePick[]): WorkingMesh {
  const { triangles, faceOf } = triangulate(surface);
  const dense = new WorkingMesh(surface.positions, triangles);
  const { diagonal } = boundsOf(surface.positions);
  markFeatures(dense, diagonal, degrees);
  markTagged(dense, surface, faceOf);
  markPicked(dense, picks, diagonal);
  return dense;
}

/** Both ends of some edges, x, y, z each, one after the other. */
export const endsOf = (mesh: WorkingMesh, edges: readonly number[]): Float32Array => Float32Array.from(edges.flatMap((h) => mesh.ends(h).flat()));

/** Trees of the marked lines: those at borders, and the others. */
export function featureLinesOf(mesh: WorkingMesh): FeatureLines {
  const lines = mesh.featureEdges();
  const isBorder = (h: number) => mesh.opposite[h] < 0;
  return {
    border: linesOf(mesh, lines.filter(isBorder)),
    sharp: linesOf(
      mesh,
      lines.filter((h) => !isBorder(h))
    )
  };
}

/** An edge of the surface that edges of quads follow, and how sharp the smooth surface is to be there; 0 between regions. */
export interface FollowedEdge {
  half: number;
  sharpness: number;
}

/** Marks creased edges and those between regions as features. @returns those that were not marked yet */
export function markTagged(mesh: WorkingMesh, { creaseEdges, creaseSharpness, faceRegion }: PolygonMesh, faceOf: ArrayLike<number>): FollowedEdge[] {
  const key = (v: number, w: number) => Math.min(v, w) * mesh.vertices + Math.max(v, w);
  const creased = new Map<number, number>();
  for (let i = 0; i < (creaseSharpness?.length ?? 0); i++)
    if (creaseSharpness![i] > 0) creased.set(key(creaseEdges![2 * i], creaseEdges![2 * i + 1]), creaseSharpness![i]);
  if (creased.size === 0 && !faceRegion) return [];
  const regionOf = (h: number) => faceRegion?.[faceOf[Math.floor(h / 3)]];
  const marked: FollowedEdge[] = [];
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    const g = mesh.opposite[h];
    if (g < h || mesh.feature[h]) continue;
    const sharpness = creased.get(key(mesh.corner[h], mesh.corner[after(h)])) ?? 0;
    if (sharpness === 0 && regionOf(h) === regionOf(g)) continue;
    mesh.markEdge(h, 1);
    marked.push({ half: h, sharpness });
  }
  return marked;
}

/** Cosine between the normals of the triangles of half-edges h and g. */
function dot(normals: Float64Array, h: number, g: number): number {
  const s = 3 * Math.floor(h / 3);
  const t = 3 * Math.floor(g / 3);
  return normals[s] * normals[t] + normals[s + 1] * normals[t + 1] + normals[s + 2] * normals[t + 2];
}

/** Mean normals of the triangle and its outer neighbours, for both sides of an edge, as two unit vectors. */
function sideNormals(mesh: WorkingMesh, normals: Float64Array, h: number, g: number): Float64Array {
  const out = new Float64Array(6);
  [h, g].forEach((side, i) => {
    const t = Math.floor(side / 3);
    const around = [t];
    for (let k = 3 * t; k < 3 * t + 3; k++) if (k !== side && mesh.opposite[k] >= 0) around.push(Math.floor(mesh.opposite[k] / 3));
    for (const s of around) for (let k = 0; k < 3; k++) out[3 * i + k] += normals[3 * s + k];
    const length = Math.hypot(out[3 * i], out[3 * i + 1], out[3 * i + 2]) || 1;
    for (let k = 0; k < 3; k++) out[3 * i + k] /= length;
  });
  return out;
}

/** Marks the sharp edges of connected pieces that are long enough. */
function keepLong(mesh: WorkingMesh, sharp: number[], shortest: number, shortestOpen: number): number[] {
  const isLong = (piece: readonly number[]) => {
    const vertices = new Set(piece.flatMap((h) => [mesh.corner[h], mesh.corner[after(h)]]));
    // a tree of edges has one vertex more than edges
    return lengthOf(mesh, piece) >= (piece.length >= vertices.size ? shortest : shortestOpen);
  };
  const long = new Set(piecesOfLines(mesh, sharp).filter(isLong).flat());
  const kept = sharp.filter((h) => long.has(h));
  for (const h of kept) mesh.markEdge(h, 1);
  return kept;
}
