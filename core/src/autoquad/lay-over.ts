import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { worstJacobian } from '../numeric/quad-shape.ts';
import { type TaskReport } from '../task/steps.ts';
import { pullOf } from './auto-quads-options.ts';
import { type QuadList } from './mend.ts';
import { reachTips } from './reach-tips.ts';
import { closePoorQuads } from './close-poor.ts';
import { withLineGapsClosed } from './line-gaps.ts';
import { settleQuads } from './settle-quads.ts';
import { straightenQuads, TWISTED, untwistQuads } from './straighten-quads.ts';
import { Attempt, type Candidate } from './attempt.ts';
import { type Surface } from './surface.ts';

/** Where the poorest quad has a lower scaled Jacobian, other roundings of the same way are tried, which costs little. */
export const WELL_SHAPED = 0.5;
/** Lines are kept whole as long as the poorest quad has a higher one. */
const SOUND = 0.2;

/** So many well shaped ones are fitted, at most, where the smooth surface of the first ones lies too far off; what that speaks against them, as `Candidate.cost` has it. */
const [MOST_FITTED, FAR] = [3, 20];

/** Quads made whole and fitted. */
export interface Fitted {
  mesh: PolygonMesh;
  /** how far their smooth surface lies off, against what is wanted: 1 or less is well */
  off: number;
}

/** What layOver is given to make quads whole where they are one side of a mirror, and to fit them. */
interface Finishing {
  /** in a new list: quads that meet at a mirror in two sides become one; nothing where the sides do not join */
  completed(quads: QuadList): QuadList | undefined;
  fitted(whole: QuadList): Fitted;
}

/**
 * Lays quads over a surface; all poles of the field, rings that need not close, a finer working mesh, and a field without pull,
 * are what helps where a first attempt fails. Of those that end with poor quads the best one is taken, of others the first whose smooth surface
 * lies near enough.
 */
export function layOver(
  surface: Surface,
  report: TaskReport,
  { completed, fitted }: Finishing
): { mesh: PolygonMesh; notes: string[] } | { failure: string } {
  const pull = pullOf(surface.options);
  const cancel = surface.options.cancelWithin ?? 1;
  const ways: [fineness: number, pull: number, cancelWithin: number, beside: number[]][] = [
    [1, pull, cancel, [1, 0]],
    ...(cancel > 0 ? [[1, pull, 0, [1, 0]] as [number, number, number, number[]]] : []),
    [0.7, pull, cancel, [0]],
    [0.7, 0, 0, [0]]
  ];
  let failure = '';
  let best: (Candidate & { whole: QuadList; worst: number }) | undefined;
  let cancelled = 0;
  for (const [fineness, strength, cancelWithin, beside] of ways) {
    // without anything cancelled it would come to the same
    if (fineness === 1 && cancelWithin === 0 && cancel > 0 && cancelled === 0) continue;
    const attempt = new Attempt(surface, fineness, strength, cancelWithin, beside, report);
    const found = attempt.run();
    cancelled += attempt.cancelled;
    if (found.length === 0) failure = attempt.failure;
    const judged = (candidate: Candidate) => {
      const whole = completed(candidate.quads);
      if (!whole) failure = 'the halves do not join.';
      const worst = whole ? worstJacobian(whole.positions, whole.quads) : -Infinity;
      if (whole && worst > (best?.worst ?? -Infinity)) best = { ...candidate, whole, worst };
      return { candidate, whole, worst };
    };
    const evened: ReturnType<typeof judged>[] = [];
    const well: (Fitted & { candidate: Candidate; against: number })[] = [];
    for (const candidate of found) {
      report.phase('Evening out', 0.85);
      const moved = judged({ ...candidate, quads: evenedOut(candidate.quads, surface) });
      evened.push(moved);
      if (!moved.whole || moved.worst <= WELL_SHAPED) continue;
      report.phase('Fitting', 0.93);
      const fit = fitted(moved.whole);
      well.push({ ...fit, candidate, against: candidate.cost + FAR * Math.max(0, fit.off - 1) });
      if (fit.off <= 1 || well.length === MOST_FITTED) break;
    }
    if (well.length > 0) {
      const { mesh, candidate } = well.reduce((a, b) => (b.against < a.against ? b : a));
      return { mesh, notes: candidate.notes };
    }
    evened.sort((a, b) => b.worst - a.worst);
    for (const { candidate } of evened) {
      if (best && best.worst > TWISTED) break;
      judged({ ...candidate, quads: closePoorQuads(candidate.quads, surface) });
    }
    if (best && best.worst > TWISTED) break;
  }
  if (!best) return { failure };
  if (best.worst <= TWISTED) {
    untwistQuads(best.quads, surface.bvh, surface.normals);
    best.whole = completed(best.quads) ?? best.whole;
  }
  report.phase('Fitting', 0.93);
  return { mesh: fitted(best.whole).mesh, notes: best.notes };
}

/** Quads with gaps in their lines closed, unless that leaves poor ones, and with vertices moved. */
function evenedOut(quads: QuadList, surface: Surface): QuadList {
  const { sharp } = surface.lines;
  const closed = sharp && withLineGapsClosed(quads, sharp);
  const worstOf = (list: QuadList) => worstJacobian(list.positions, list.quads);
  if (closed) {
    moveVertices(closed, surface);
    if (worstOf(closed) > SOUND) return closed;
  }
  moveVertices(quads, surface);
  return closed && worstOf(closed) > worstOf(quads) ? closed : quads;
}

/** Moves vertices: even, at tips, and out of poor quads. Changes the list. */
function moveVertices(quads: QuadList, { bvh, normals, lines, shareAt, dense, size }: Surface): void {
  // different sizes spread slowly
  settleQuads(quads, bvh, normals, lines, shareAt ? 100 : 12, shareAt);
  const tips = reachTips(quads, dense.positions, size, lines.border);
  const own = quads.hold.slice();
  for (const v of tips) quads.hold[v] = 2;
  settleQuads(quads, bvh, normals, lines, 5, shareAt);
  quads.hold.set(own);
  straightenQuads(quads, bvh, normals, lines);
  if (worstJacobian(quads.positions, quads.quads) > TWISTED) return;
  // what is tangled on the surface comes apart beside it
  untwistQuads(quads, bvh, normals);
  settleQuads(quads, bvh, normals, lines, 3, shareAt);
  straightenQuads(quads, bvh, normals, lines);
}
