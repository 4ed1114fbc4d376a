import { subtract, length, type Triple } from '../../numeric/vectors.ts';
import { type Guide, type SizeDab } from './options.ts';
import { type Mirror, above, reflected } from './mirror.ts';

/** How large quads are to be at a place, against the size they would have: from size dabs. */
export function sizeShare(dabs: readonly SizeDab[], x: number, y: number, z: number): number {
  let share = 1;
  for (const { at, radius, percent } of dabs) {
    const far = Math.hypot(x - at[0], y - at[1], z - at[2]) / radius;
    if (far >= 1) continue;
    const t = 1 - far * far;
    share *= (percent / 100) ** (t * t);
  }
  return Math.min(3, Math.max(0.3, share));
}

/** Guides and dabs on the side of mirrors that is laid: what lies on the other side comes over. */
export function onThisSide(p: Triple, mirrors: readonly Mirror[]): Triple {
  return mirrors.reduce<Triple>((at, mirror) => (above(mirror, at) < 0 ? reflected(mirror, at) : at), p);
}

/** Whether a closed guide runs across a mirror: there it closes by being mirrored, and a count cannot be held in one half. */
export const runsAcross = ({ points, closed }: Guide, mirror: Mirror, size: number): boolean => {
  const heights = points.map((p) => above(mirror, p));
  return closed === true && Math.min(...heights) < -0.5 * size && Math.max(...heights) > 0.5 * size;
};

/** A guide as it is on the side of mirrors that is laid: a closed one that runs across any of them is open there. */
export function guideOnThisSide(guide: Guide, mirrors: readonly Mirror[], size: number): Guide {
  if (!mirrors.some((mirror) => runsAcross(guide, mirror, size))) return { ...guide, points: guide.points.map((p) => onThisSide(p, mirrors)) };
  const here = guide.points.map((p) => mirrors.every((mirror) => above(mirror, p) >= 0));
  const n = here.length;
  const start = here.findIndex((own, i) => own && !here[(i + n - 1) % n]);
  const points: Triple[] = [];
  for (let i = 0; i < n && here[(start + i) % n]; i++) points.push(guide.points[(start + i) % n]);
  return { points, influence: guide.influence };
}

/** Points along a line, no more than so many mm apart. */
export function pathPoints(points: readonly Triple[], step: number): Triple[] {
  const made: Triple[] = points.slice(0, 1);
  for (let i = 1; i < points.length; i++) {
    const way = subtract(points[i], points[i - 1]);
    const pieces = Math.max(1, Math.ceil(length(way) / step));
    for (let k = 1; k <= pieces; k++) made.push([0, 1, 2].map((a) => points[i - 1][a] + (k / pieces) * way[a]) as Triple);
  }
  return made;
}
