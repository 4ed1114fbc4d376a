import { cross, dot, subtract, type Triple } from '../numeric/vectors.ts';
import { type Cage } from './cage.ts';
import { splitEdge, splitFace } from './euler-operators.ts';
import { NONE } from './half-edges.ts';
import { faceNormal } from './normals.ts';
import { cornersInOneFace } from './topology.ts';

export interface SliceLimits {
  /** faces that may be cut; all where missing. Pieces of them take their place in it */
  faces?: Set<number>;
  /** which places of the cut are wanted; a face is cut only where both ends of the cut in it are */
  within?: (p: Triple) => boolean;
}

/**
 * Cuts faces of a cage along a plane, in place; vertices closer to it than `tolerance` count as lying in it.
 * @param plane a point of it and its unit normal
 * @returns the edges that lie along the cut
 */
export function sliceFaces(
  cage: Cage,
  plane: { point: Triple; normal: Triple },
  { faces, within = () => true }: SliceLimits = {},
  tolerance = 1e-7
): number[] {
  const off = (v: number): number => {
    const d = dot(subtract(cage.position(v), plane.point), plane.normal);
    return Math.abs(d) < tolerance ? 0 : d;
  };
  const wanted = faces ? [...faces] : [...cage.faces()];
  const crossed: number[] = [];
  const seen = new Set<number>();
  for (const f of wanted)
    for (const h of cage.loopOf(cage.faceEdge[f])) {
      if (seen.has(h >> 1)) continue;
      seen.add(h >> 1);
      const [a, b] = [off(cage.origin[h & ~1]), off(cage.origin[h | 1])];
      if (a * b >= 0) continue;
      const t = a / (a - b);
      const p = cage.position(cage.origin[h & ~1]);
      const q = cage.position(cage.origin[h | 1]);
      if (within([p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1]), p[2] + t * (q[2] - p[2])])) crossed.push(h >> 1);
    }
  const fractions = crossed.map((e) => {
    const [a, b] = [off(cage.origin[2 * e]), off(cage.origin[2 * e + 1])];
    return a / (a - b);
  });
  const made = new Set(crossed.map((e, i) => splitEdge(cage, e, fractions[i])));
  const onCut = (v: number) => made.has(v) || (off(v) === 0 && within(cage.position(v)));
  const edges: number[] = [];
  for (const f of wanted) {
    const on = cage.faceVertices(f).filter(onCut);
    if (on.length < 2) continue;
    const outline = cage.faceVertices(f).map((v) => cage.position(v));
    const normal = faceNormal(cage, f);
    const along = cross(plane.normal, normal);
    on.sort((a, b) => dot(cage.position(a), along) - dot(cage.position(b), along));
    for (let i = 0; i + 1 < on.length; i++) {
      const there = cage.findHalfEdge(on[i], on[i + 1]);
      if (there !== NONE) {
        edges.push(there >> 1);
        continue;
      }
      const [p, q] = [cage.position(on[i]), cage.position(on[i + 1])];
      if (!isInside([(p[0] + q[0]) / 2, (p[1] + q[1]) / 2, (p[2] + q[2]) / 2], outline, normal)) continue;
      const corners = cornersInOneFace(cage, on[i], on[i + 1]);
      if (!corners) continue;
      const h = splitFace(cage, corners[0], corners[1]);
      edges.push(h >> 1);
      faces?.add(cage.face[h]).add(cage.face[h ^ 1]);
    }
  }
  return [...new Set(edges)];
}

/** Whether a point of a flat polygon's plane lies in it: an odd number of edges to one side, seen along the normal. */
export function isInside(p: Triple, outline: Triple[], normal: Triple): boolean {
  const k = [0, 1, 2].reduce((a, b) => (Math.abs(normal[b]) > Math.abs(normal[a]) ? b : a));
  const [i, j] = [(k + 1) % 3, (k + 2) % 3];
  let odd = false;
  outline.forEach((a, n) => {
    const b = outline[(n + 1) % outline.length];
    if (a[j] > p[j] !== b[j] > p[j] && p[i] < a[i] + ((p[j] - a[j]) / (b[j] - a[j])) * (b[i] - a[i])) odd = !odd;
  });
  return odd;
}
