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
const WELL_SHAPED = 0.5;
/** Lines are kept whole as long as the poorest quad has a higher one. */
const SOUND = 0.2;

/**
 * Lays quads over a surface; all poles of the field, rings that need not close, a finer working mesh, and a field without pull,
 * are what helps where a first attempt fails. Of those that end with poor quads the best one is taken.
 * @param completed makes them whole where they are one side of a mirror, in a new list: quads that meet there in two sides become one;
 * nothing where the sides do not join
 * @returns quads made whole
 */
export function layOver(
  surface: Surface,
  report: TaskReport,
  completed: (quads: QuadList) => QuadList | undefined
): { whole: QuadList; notes: string[] } | { failure: string } {
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
    const judged = ({ quads, notes }: Candidate) => {
      const whole = completed(quads);
      if (!whole) failure = 'the halves do not join.';
      const worst = whole ? worstJacobian(whole.positions, whole.quads) : -Infinity;
      if (whole && worst > (best?.worst ?? -Infinity)) best = { quads, whole, notes, worst };
      return worst;
    };
    const evened: { candidate: Candidate; worst: number }[] = [];
    for (const candidate of found) {
      report.phase('Evening out', 0.85);
      const moved = { ...candidate, quads: evenedOut(candidate.quads, surface) };
      const worst = judged(moved);
      evened.push({ candidate: moved, worst });
      if (worst > WELL_SHAPED) break;
    }
    evened.sort((a, b) => b.worst - a.worst);
    for (const { candidate } of evened) {
      if (best && best.worst > TWISTED) break;
      judged({ ...candidate, quads: closePoorQuads(candidate.quads, surface) });
    }
    if (best && best.worst > TWISTED) return best;
  }
  if (!best) return { failure };
  untwistQuads(best.quads, surface.bvh, surface.normals);
  return { ...best, whole: completed(best.quads) ?? best.whole };
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
