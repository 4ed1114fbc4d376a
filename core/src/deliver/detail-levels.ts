import { Cage } from '../mesh/cage.ts';
import { lengthInWords } from '../numeric/length-words.ts';
import { applyOperation } from '../operations/apply.ts';
import { type Idle, leftOf, wholeLoops, withoutLoop } from '../operations/check/idle-loops.ts';
import { dissolve } from '../operations/flow/dissolve.ts';
import { unlessRefused } from '../operations/refusal.ts';
import { emptySelection, selectEdges } from '../select/selection.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { differenceAt } from './difference.ts';
import { type Sent } from './receive.ts';

/** One of a row of cages of the same part, each with fewer faces than the one before. */
export interface DetailLevel {
  cage: Cage;
  /** mm that its smooth surface lies off the finest one, at most */
  difference: number;
}

/** How levels of detail are made. */
export interface DetailSettings {
  /** how many beside the cage as it is */
  levels: number;
  /** mm that the smooth surface of the first may lie off; each further one twice as far */
  within: number;
}

/**
 * Cages of the same part with fewer and fewer faces: whole loops are taken out, those first without which the smooth surface moves least, so that what is
 * left lies on the loops that there were. Creases, kept edges and seams of texture coordinates stay.
 * @param tell gets how far it is, 0 to 1
 * @returns the cage as it is first; fewer levels than asked for where no further loop can go
 */
export function detailLevels(
  { mesh, settings }: Sent,
  { levels, within }: DetailSettings,
  tell: (fraction: number) => void = () => undefined
): DetailLevel[] {
  const found: DetailLevel[] = [{ cage: Cage.fromPolygons(mesh), difference: 0 }];
  for (let level = 1; level <= levels; level++) {
    tell((level - 1) / levels);
    const from = found[found.length - 1];
    const most = within * 2 ** (level - 1);
    const next = thinned(from, { mesh, settings }, most);
    if (!next) break;
    found.push(next);
  }
  return found;
}

/** What is told where fewer levels were made than asked for; nothing where all were. @param made levels beside the cage as it is */
export const fewerLevels = (made: number, { levels, within }: DetailSettings): string | undefined =>
  made < levels
    ? `${made === 0 ? 'No lower level' : `${made} of ${levels} lower levels`} could be made: taking out more loops would move the smooth surface by more than ${lengthInWords(within * 2 ** made)}.`
    : undefined;

/** Faces that the move of a single loop is measured with: it only puts them in order. */
const RATED = 600;

/** A cage with as many loops fewer as its smooth surface allows; of two beside each other at most one goes, so that what is left stays even. */
function thinned({ cage }: DetailLevel, finest: Sent, most: number): DetailLevel | undefined {
  const { settings } = finest;
  const loops = wholeLoops(cage, emptySelection())
    .flatMap((edges) => withoutLoop(cage, edges, settings, RATED) ?? [])
    .filter(({ move }) => move <= most)
    .sort((a, b) => a.move - b.move);
  const beside = new Set<number>();
  const chosen = loops.filter(({ edges }) => {
    if (edges.some((e) => beside.has(e))) return false;
    for (const e of edges) for (const h of [2 * e, 2 * e + 1]) if (cage.loopOf(h).length === 4) beside.add(cage.next[cage.next[h]] >> 1);
    return true;
  });
  // many loops together move it farther than each: as many as stay within, by halving
  let [found, low, high]: [DetailLevel | undefined, number, number] = [undefined, 0, chosen.length];
  for (let many = high; many > low; many = Math.ceil((low + high) / 2)) {
    const made = withoutLoops(cage, chosen.slice(0, many), settings);
    const difference = differenceAt(finest, { mesh: made.toPolygons(), settings, losses: [] });
    const fits = difference !== undefined && difference <= most && made.faceCount < cage.faceCount;
    if (fits) [found, low] = [{ cage: made, difference }, many];
    else high = many - 1;
  }
  return found;
}

function withoutLoops(cage: Cage, loops: readonly Idle[], surface: SurfaceSettings): Cage {
  return loops.reduce((now, { edges }) => {
    const loop = leftOf(now, edges);
    return (loop && unlessRefused(() => applyOperation(dissolve, now, selectEdges(loop), {}, { surface }).cage)) ?? now;
  }, cage);
}
