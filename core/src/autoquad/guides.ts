import { length, subtract, unit, type Triple } from '../numeric/vectors.ts';
import { surfacePoint, TriangleBvh } from '../reference/triangle-bvh.ts';
import { type Ring } from './closed-rings.ts';
import { type Frames } from './curvature.ts';
import { type CutMesh } from './cut-graph.ts';
import { mod4 } from './orientation-field.ts';
import { above, reflected, type Mirror } from './symmetry.ts';
import { wayBetween } from './way-between.ts';
import { type WorkingMesh } from './working-mesh.ts';

/** A stroke on the surface that loops follow. */
export interface Guide {
  /** x, y, z of its points, in order */
  points: Triple[];
  /** 0 to 100: how strongly loops near it follow it; 100 binds */
  influence: number;
  /** it runs back to where it began, round a limb or an eye: quads along it close */
  closed?: boolean;
  /** nothing is told of it: it was not drawn by the user */
  silent?: boolean;
  /** of a closed one how many quads lie along it; left open where it is missing or 0 */
  count?: number;
}

/** A touch of the size brush: quads there get so many percent of the size they would have, less and less towards its radius. */
export interface SizeDab {
  at: Triple;
  radius: number;
  percent: number;
}

/** Directions that guides give the field, by triangle. */
export interface GuideField {
  /** cosine and sine of four times the angle in the triangle's frame */
  cross: Float64Array;
  /** 0: none */
  weight: Float64Array;
}

/** A closed guide on the working mesh. */
export interface GuideRing {
  /** number of the guide, from 0 */
  guide: number;
  crossed: number[];
  first: number;
  /** direction it sets out in */
  way: Triple;
  count: number;
}

/** Weight of a guide that binds, against 1 for neighbours that are to agree. */
const STRONGEST = 10;
/** Triangles between two points of a guide, at most. */
const APART = 12;

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

/** Puts guides on the working mesh: the directions they give, and the ways of closed ones. */
export function layGuides(
  mesh: WorkingMesh,
  frames: Frames,
  guides: readonly Guide[],
  size: number
): { field: GuideField; rings: GuideRing[]; lost: number[] } {
  const T = mesh.triangles;
  const field: GuideField = { cross: new Float64Array(2 * T), weight: new Float64Array(T) };
  const rings: GuideRing[] = [];
  const lost: number[] = [];
  const bvh = new TriangleBvh(mesh.positions, mesh.corner);
  const found = surfacePoint();
  guides.forEach((guide, number) => {
    const points = pathPoints(guide.closed ? [...guide.points, guide.points[0]] : guide.points, 0.4 * size);
    if (points.length < 2) return void lost.push(number);
    const on = points.map((p) => {
      bvh.closest(...p, found);
      return { t: found.triangle, off: Math.sqrt(found.distance2), at: [found.x, found.y, found.z] as Triple };
    });
    if (on.every(({ off }) => off > 2 * size)) return void lost.push(number);
    const crossed: number[] = [];
    let whole = true;
    on.forEach(({ t, at }, i) => {
      const next = on[i + 1];
      const [from, to] = next ? [at, next.at] : [on[i - 1].at, at];
      const way = subtract(to, from);
      const passed = next ? wayBetween(mesh, t, next.t, APART) : [];
      if (!passed) whole = false;
      for (const s of [t, ...(passed ?? []).map((h) => Math.floor(mesh.opposite[h] / 3))]) follow(field, frames, s, way, guide.influence);
      crossed.push(...(passed ?? []));
    });
    if (guide.closed && whole && on[0].t === on[on.length - 1].t && crossed.length > 2)
      rings.push({ guide: number, crossed, first: on[0].t, way: unit(subtract(on[1].at, on[0].at)), count: guide.count ?? 0 });
  });
  for (let t = 0; t < T; t++) {
    const long = Math.hypot(field.cross[2 * t], field.cross[2 * t + 1]);
    if (long > 0) for (const k of [0, 1]) field.cross[2 * t + k] /= long;
  }
  return { field, rings, lost };
}

/** Angle of a direction in a triangle's frame; nothing where it stands upright on the triangle. */
function angleInFrame({ axes }: Frames, t: number, way: Triple): number | undefined {
  const along = (axis: number) => way[0] * axes[9 * t + axis] + way[1] * axes[9 * t + axis + 1] + way[2] * axes[9 * t + axis + 2];
  const [x, y] = [along(0), along(3)];
  return x === 0 && y === 0 ? undefined : Math.atan2(y, x);
}

/** Adds a direction to a triangle's wish. */
function follow(field: GuideField, frames: Frames, t: number, way: Triple, influence: number): void {
  const own = angleInFrame(frames, t, way);
  if (own === undefined) return;
  const angle = 4 * own;
  field.cross[2 * t] += Math.cos(angle);
  field.cross[2 * t + 1] += Math.sin(angle);
  field.weight[t] = Math.max(field.weight[t], STRONGEST * (influence / 100) ** 3);
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

/** A guide's ring as the map takes it: with the arm of the first triangle's cross that is nearest to its direction. */
export function asRing({ crossed, first, way }: GuideRing, frames: Frames, cut: CutMesh): Ring {
  const angle = (angleInFrame(frames, first, way) ?? 0) - cut.theta[first];
  return { crossed, arm: mod4(Math.round(angle / (Math.PI / 2))) };
}
