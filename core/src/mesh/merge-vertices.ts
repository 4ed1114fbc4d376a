import { type Cage } from './cage.ts';
import { NONE } from './half-edges.ts';
import { replaceFaces, type NewFace } from './replace-faces.ts';

/**
 * Makes one vertex of each group: it stays the group's first, at the given place. Faces keep the corners that are still
 * different; those with fewer than three go.
 * @throws CageError where an edge would get more than two faces
 */
export function mergeVertices(cage: Cage, groups: { vertices: number[]; at: readonly [number, number, number] }[]): { facesGone: number } {
  const target = new Map<number, number>();
  for (const { vertices, at } of groups) {
    for (const v of vertices) target.set(v, vertices[0]);
    cage.positions.set(at, 3 * vertices[0]);
  }
  const faces = new Set<number>();
  for (const v of target.keys()) for (const h of cage.spokes(v)) if (cage.face[h] !== NONE) faces.add(cage.face[h]);
  const added: NewFace[] = [];
  for (const f of faces) {
    const loop = cage.loopOf(cage.faceEdge[f]);
    const merged = loop.map((h) => target.get(cage.origin[h]) ?? cage.origin[h]);
    const kept = loop.map((_, i) => i).filter((i) => merged[i] !== merged[(i + loop.length - 1) % loop.length]);
    const corners = kept.map((i) => merged[i]);
    if (corners.length >= 3) added.push({ corners, like: f, cornersLike: kept.map((i) => loop[i]) });
  }
  replaceFaces(cage, { gone: faces, added: twoSidedApart(added) });
  return { facesGone: faces.size - added.length };
}

/** Two faces over the same corners, back to back, cancel out: an edge cannot have them beside each other. */
function twoSidedApart(faces: NewFace[]): NewFace[] {
  const key = (corners: number[]) => [...corners].sort((a, b) => a - b).join(' ');
  const count = new Map<string, number>();
  for (const { corners } of faces) count.set(key(corners), (count.get(key(corners)) ?? 0) + 1);
  return faces.filter(({ corners }) => count.get(key(corners)) === 1);
}
