import Joi from 'joi';
import { changedSurface, largestMove } from '../../check/forecast.ts';
import { type Cage } from '../../mesh/cage.ts';
import { isPole, isSeam } from '../../mesh/topology.ts';
import { lengthInWords } from '../../numeric/length-words.ts';
import { loopThrough } from '../../select/loops.ts';
import { emptySelection, selectEdges, type Selection } from '../../select/selection.ts';
import { type SurfaceSettings } from '../../subdivide/level-plan.ts';
import { applyOperation } from '../apply.ts';
import { dissolve } from '../flow/dissolve.ts';
import { type CageOperation, type CageResult, type Params, type Surroundings } from '../operation.ts';
import { refuse, unlessRefused } from '../refusal.ts';
import { counted } from '../shared/words.ts';

/** Faces that a move is measured with finely. */
const FINE = 3000;

/** A loop, and how far the smooth surface would move without it. */
export interface Idle {
  edges: number[];
  /** mm */
  move: number;
  without: Cage;
}

/** Loops of a cage that run through regular vertices alone, closed or from border to border; each once. */
export function wholeLoops(cage: Cage, selection: Selection): number[][] {
  const seen = new Set<number>();
  const from = selection.edges.length > 0 ? selection.edges : [...cage.edges()];
  const loops: number[][] = [];
  for (const e of from) {
    if (seen.has(e) || cage.isBorderEdge(e)) continue;
    const run = loopThrough(cage, 2 * e);
    const edges = run.halves.map((h) => h >> 1);
    for (const own of edges) seen.add(own);
    const isWhole = run.closed || run.ends.every(({ why }) => why === 'border');
    const hasPole = run.halves.some((h) => [cage.origin[h], cage.target(h)].some((v) => isPole(cage, v)));
    if (
      isWhole &&
      !hasPole &&
      !run.spiral &&
      run.crossings.length === 0 &&
      edges.every((own) => cage.value('crease', own) === 0 && cage.value('kept', own) === 0 && !isSeam(cage, own))
    )
      loops.push(edges);
  }
  return loops;
}

/** What a cage would be without a loop; nothing where it cannot go. @param fine faces that the move is measured with, at most */
export function withoutLoop(cage: Cage, edges: readonly number[], surface: SurfaceSettings, fine = FINE): Idle | undefined {
  const made = unlessRefused(() => applyOperation(dissolve, cage, selectEdges([...edges]), {}, { surface }));
  if (!made || made.cage.faceCount === cage.faceCount) return undefined;
  const move = largestMove(changedSurface(cage, made.cage, surface), fine);
  return move === undefined ? undefined : { edges: [...edges], move, without: made.cage };
}

/** What is left of a loop in a cage that others went out of: where one that crossed it has gone, its edges are longer ones. */
export function leftOf(now: Cage, edges: readonly number[]): number[] | undefined {
  const left = edges.find((e) => now.hasEdge(e) && !now.isBorderEdge(e));
  return left === undefined ? undefined : wholeLoops(now, selectEdges([left]))[0];
}

function run(cage: Cage, selection: Selection, params: Params, { surface }: Surroundings): CageResult {
  const within = params.within as number;
  let now = cage;
  let [gone, most] = [0, 0];
  // the least first: each is measured again on what is left
  const loops = wholeLoops(cage, selection);
  if (loops.length === 0)
    refuse('No loop runs through regular vertices from border to border, or back into itself.', undefined, 'Dissolve single edges instead.');
  const rated = loops
    .flatMap((edges) => withoutLoop(cage, edges, surface) ?? [])
    .filter(({ move }) => move <= within)
    .sort((a, b) => a.move - b.move);
  for (const { edges } of rated) {
    const loop = leftOf(now, edges);
    const idle = loop && withoutLoop(now, loop, surface);
    if (!idle || idle.move > within) continue;
    now = idle.without;
    gone++;
    most = Math.max(most, idle.move);
  }
  const notes =
    gone === 0
      ? ['No loop can go: without any of them the smooth surface would move farther.']
      : [
          `${counted(gone, 'loop')} taken out, ${counted(cage.faceCount - now.faceCount, 'face')} fewer; each moved the smooth surface by ${lengthInWords(most)} at most.`
        ];
  return { cage: now === cage ? cage.clone() : now, selection: emptySelection(), notes };
}

/** Takes out loops without which the smooth surface hardly moves. */
export const idleLoops: CageOperation = {
  kind: 'cage',
  id: 'idle-loops',
  bench: 7,
  group: 'Mending',
  name: 'Drop idle loops',
  purpose: 'Take out whole loops that add nothing: without each of them the smooth surface moves by no more than a typed distance.',
  icon: 'SubtractAlt',
  needs: 'Needs a part with loops; with edges picked only theirs are tried.',
  params: Joi.object({
    within: Joi.number().min(0).max(1e4).default(0.02).label('Moves by at most').unit('mm').meta({ step: 0.01 })
  }),
  // each loop is taken out once to measure it
  seconds: (cage, { edges }) => 0.05 + 2e-6 * Math.min(edges.length || Infinity, 2 * Math.sqrt(cage.faceCount)) * cage.faceCount * 20,
  // which loops are whole takes a look at every edge: the run tells it
  check: (cage) => (cage.faceCount > 0 ? undefined : { found: 'The part has no faces.', instead: 'Lay or bring in faces first.' }),
  run
};
