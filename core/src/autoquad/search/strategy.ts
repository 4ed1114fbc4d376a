import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { quadJacobians, worstJacobian } from '../../numeric/quad-shape.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { type TaskReport } from '../../task/steps.ts';
import { type QuadList } from '../base/quad-list.ts';
import { type Closeness } from '../fit/deviation.ts';
import { reachTips } from '../fit/reach-tips.ts';
import { type Surface } from '../input/surface.ts';
import { closePoorQuads } from '../quads/close-poor.ts';
import { withLineGapsClosed } from '../quads/line-gaps.ts';
import { settleQuads } from '../quads/settle-quads.ts';
import { straightenQuads, TWISTED, untwistQuads } from '../quads/straighten-quads.ts';
import { Attempt, type Candidate } from './attempt.ts';
import { quadsFromTriangles } from './from-triangles.ts';
import { MANY_WHOLES } from './size-search.ts';
import { type Trouble, waysToLay } from './ways.ts';

/** Where the poorest quad has a lower scaled Jacobian, other roundings of the same way are tried, which costs little. */
export const WELL_SHAPED = 0.5;
/** Lines are kept whole as long as the poorest quad has a higher one. */
const SOUND = 0.2;

/** So many of those laid at once are fitted, at most, where the smooth surface of the first ones lies too far off or a quad is poor. */
const MOST_FITTED = 3;
/** What it speaks against quads, as `Candidate.cost` has it, that they lie off by as much again as is well, and that the poorest has a scaled Jacobian of 0 instead of `WELL_SHAPED`. */
const [FAR, SHARP] = [20, 50];

/** Quads that lie off by so many times what is near enough leave part of the surface out. */
const FAR_OFF = 8;
/** Of a map with many whole unknowns, where each way takes long, quads are taken that miss no place by more than so many quads. */
const TIPS = 2;

/** Of a map with many whole unknowns quads are taken that lie off by so many times what is near enough, and of which none is poorer. */
const [NEAR_ENOUGH, NOT_POOR] = [4, 0.4];

/** Quads that more speaks against than this, by shape and closeness, are laid once more, with more care where they came out poorly. */
const AGAIN = 4;

/** Name of the way without directions. */
const FROM_TRIANGLES = 'from triangles';

/** Why there are no quads, and the places where the map folds over, where that is why. */
export interface Failure {
  failure: string;
  folded: readonly Triple[];
}

/** Quads made whole and fitted. */
export interface Fitted {
  mesh: PolygonMesh;
  /** how far their smooth surface and the surface laid over lie apart; nothing where they were not to be fitted */
  closeness?: Closeness;
}

/** Quads, what was given up or found on the way, a sentence each, and the name of the way. */
export interface Laying extends Fitted {
  notes: string[];
  way: string;
}

interface Judged extends Laying {
  /** how much speaks against them as `Candidate.cost` has it: by shape and closeness, and in all */
  shape: number;
  against: number;
}

/** What layOver is given to make quads whole where they are one side of a mirror, and to fit them. */
interface Finishing {
  /** in a new list: quads that meet at a mirror in two sides become one; nothing where the sides do not join */
  completed(quads: QuadList): QuadList | undefined;
  fitted(whole: QuadList): Fitted;
}

/**
 * Lays quads over a surface, in one way after the other of those that answer what the ones before came to. The first ones that are well
 * shaped and whose smooth surface lies near enough are taken, or those of some that the least speaks against.
 */
export function layOver(surface: Surface, report: TaskReport, finishing: Finishing): Laying | Failure {
  const finisher = new Finisher(surface, report, finishing);
  let failure: Failure = { failure: '', folded: [] };
  let trouble: Trouble = { places: [], cancelled: [], poles: 0, size: surface.size };
  for (const way of waysToLay(surface.options)) {
    if (!way.answers(trouble)) continue;
    const attempt = new Attempt(surface, way, report);
    const fitted = finisher.fitted;
    const none = layInOneWay(attempt, finisher);
    const best = finisher.sound.length > 0 ? leastOf(finisher.sound) : undefined;
    report.tried?.({
      name: way.name,
      poles: attempt.poles,
      wholes: attempt.wholes,
      read: attempt.readings,
      fitted: finisher.fitted - fitted,
      folds: none?.folded.length ?? 0,
      failure: none?.failure,
      worst: best && worstOf(best),
      off: best?.closeness?.share
    });
    if (best && (!isFarOff(best) || (attempt.wholes > MANY_WHOLES && !leavesOut(best, surface.size)))) return best;
    // a few twisted quads come apart beside the surface: no other way is an answer to them
    const untwisted = !best && attempt.wholes > MANY_WHOLES ? finisher.untwisted() : undefined;
    if (untwisted && worstOf(untwisted) > TWISTED) return untwisted;
    if (none) failure = none;
    trouble = { ...trouble, places: best ? weakPlaces(best) : failure.folded, cancelled: attempt.cancelled, poles: attempt.poles };
  }
  return finisher.sound.length > 0 ? leastOf(finisher.sound) : (finisher.untwisted() ?? failure);
}

/** Lays quads in one way, and once more with more care where they came out poorly. @returns why there are none, or none that are sound */
function layInOneWay(attempt: Attempt, finisher: Finisher): Failure | undefined {
  const found = attempt.run();
  if (found.length === 0) return { failure: attempt.failure, folded: attempt.folded };
  const { sound } = finisher;
  if (finisher.finishAny(found, 1)) return undefined;
  // where all of it takes long, what is well enough is not laid again for what little that helps
  if (attempt.wholes > MANY_WHOLES && sound.length > 0 && isWellEnough(leastOf(sound))) return undefined;
  // how the first came out tells where more care helps: that helps more than others of its kind
  const laidAgain = sound.length > 0 && leastOf(sound).shape > AGAIN ? attempt.run(weakPlaces(leastOf(sound))) : [];
  if (!finisher.finishAny(laidAgain, MOST_FITTED)) finisher.finishAny(found, MOST_FITTED - 1);
  if (sound.length === 0) finisher.closeAny();
  return sound.length > 0 ? undefined : { failure: finisher.failure, folded: [] };
}

/** Lays quads without directions: see `quadsFromTriangles`. */
export function layFromTriangles(surface: Surface, report: TaskReport, finishing: Finishing): Laying | Failure {
  report.phase('Triangles', 0.5);
  const quads = quadsFromTriangles(surface);
  if (!quads) return { failure: 'coarse triangles would change the topology.', folded: [] };
  const finisher = new Finisher(surface, report, finishing);
  const way = FROM_TRIANGLES;
  finisher.finishAny([{ quads: { ...quads, positions: quads.positions.slice() }, cost: 0, notes: [], way }], 1);
  if (finisher.sound.length > 0) return leastOf(finisher.sound);
  // as they were made none is turned over, and a fit leaves it so
  const whole = finishing.completed(quads);
  return whole ? { ...finishing.fitted(whole), notes: [], way } : { failure: 'the halves do not join.', folded: [] };
}

/** Moves vertices of quads, makes them whole and fits them, one candidate after the other. */
class Finisher {
  /** those without twisted quads */
  readonly sound: Judged[] = [];
  /** how many were fitted */
  fitted = 0;
  failure = '';
  private tried: Candidate[] = [];
  private best?: { candidate: Candidate; whole: QuadList; worst: number };

  constructor(
    private readonly surface: Surface,
    private readonly report: TaskReport,
    private readonly finishing: Finishing
  ) {}

  /**
   * @param candidates those that are tried are taken out
   * @param fits how many are fitted at most
   * @returns whether some were found that nothing speaks against: then the others are left
   */
  finishAny(candidates: Candidate[], fits: number): boolean {
    const { sound, surface, report } = this;
    const most = sound.length + fits;
    while (candidates.length > 0 && sound.length < most) {
      const candidate = candidates.shift()!;
      // no fit makes up for that
      if (sound.length > 0 && candidate.cost >= leastOf(sound).against) continue;
      report.phase('Evening out', 0.85);
      const moved = { ...candidate, quads: evenedOut(candidate.quads, surface) };
      this.tried.push(moved);
      if (this.finish(moved)) return true;
    }
    return false;
  }

  /** Closes poor quads of those that have been tried, until one is without twisted ones. */
  closeAny(): void {
    for (const candidate of this.tried.splice(0)) {
      if (this.sound.length > 0) return;
      this.finish({ ...candidate, quads: closePoorQuads(candidate.quads, this.surface) });
    }
  }

  /** Those that came nearest, their twisted quads beside the surface. */
  untwisted(): Laying | undefined {
    if (!this.best) return undefined;
    const { candidate, whole } = this.best;
    untwistQuads(candidate.quads, this.surface.bvh, this.surface.normals);
    this.report.phase('Fitting', 0.93);
    return { ...this.finishing.fitted(this.finishing.completed(candidate.quads) ?? whole), notes: candidate.notes, way: candidate.way };
  }

  /** @returns whether nothing speaks against them */
  private finish(candidate: Candidate): boolean {
    const whole = this.finishing.completed(candidate.quads);
    if (!whole) {
      this.failure = 'the halves do not join.';
      return false;
    }
    const worst = worstJacobian(whole.positions, whole.quads);
    if (worst > (this.best?.worst ?? -Infinity)) this.best = { candidate, whole, worst };
    if (worst <= TWISTED) return false;
    this.report.phase('Fitting', 0.93);
    const fit = this.finishing.fitted(whole);
    this.fitted++;
    const off = Math.max(0, (fit.closeness?.share ?? 0) - 1);
    const poor = Math.max(0, 1 - worstOf(fit) / WELL_SHAPED);
    const shape = FAR * off + SHARP * poor;
    this.sound.push({ ...fit, notes: candidate.notes, way: candidate.way, shape, against: candidate.cost + shape });
    return shape === 0;
  }
}

/** Whether part of the surface is not covered: quads may be well shaped without a limb. */
export const isFarOff = ({ closeness }: Pick<Fitted, 'closeness'>): boolean => (closeness?.share ?? 0) > FAR_OFF;

const worstOf = ({ mesh }: Fitted): number => worstJacobian(mesh.positions, mesh.faceVertices);

/** Whether some place lies farther off than tips of a quad or two that were cut. */
const leavesOut = ({ closeness }: Fitted, size: number): boolean =>
  closeness !== undefined && Math.max(closeness.most, closeness.missed?.off ?? 0) > TIPS * size;

/** Whether quads lie near enough, and none is as poor as what folds leave. */
const isWellEnough = (fit: Fitted): boolean => (fit.closeness?.share ?? 0) <= NEAR_ENOUGH && worstOf(fit) >= NOT_POOR;

const leastOf = (list: readonly Judged[]): Judged => list.reduce((a, b) => (b.against < a.against ? b : a));

/** Places where quads lie off, or are poor. */
function weakPlaces({ mesh: { positions, faceVertices }, closeness }: Fitted): Triple[] {
  const poor: Triple[] = [];
  quadJacobians(positions, faceVertices).forEach((shape, q) => {
    const v = 3 * faceVertices[4 * q];
    if (shape < WELL_SHAPED) poor.push([positions[v], positions[v + 1], positions[v + 2]]);
  });
  return [...(closeness?.apart ?? []), ...poor];
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
