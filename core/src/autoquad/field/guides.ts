import { subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { surfacePoint, TriangleBvh } from '../../reference/triangle-bvh.ts';
import { type Ring } from './closed-rings.ts';
import { type Frames } from './curvature.ts';
import { type CutMesh } from './cut-graph.ts';
import { type GuideField, mod4 } from './orientation-field.ts';
import { wayBetween } from '../base/way-between.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';
import { type Guide } from '../base/options.ts';
import { pathPoints } from '../base/strokes.ts';

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

/** A guide's ring as the map takes it: with the arm of the first triangle's cross that is nearest to its direction. */
export function asRing({ crossed, first, way }: GuideRing, frames: Frames, cut: CutMesh): Ring {
  const angle = (angleInFrame(frames, first, way) ?? 0) - cut.theta[first];
  return { crossed, arm: mod4(Math.round(angle / (Math.PI / 2))) };
}
