import { type Cage } from '../mesh/cage.ts';
import { operationById } from '../operations/registry.ts';
import { finds } from '../select/finds.ts';
import { describeSelection, emptySelection, isEmpty, type Selection } from '../select/selection.ts';
import { type Entry } from './entry.ts';
import { type Query, readRoutine, type Routine, RoutineError, type RoutineStep } from './routine.ts';

/** An entry with what it was done on. */
export interface DoneEntry {
  entry: Entry;
  /** its part before it */
  before: Cage;
  /** what the entry before it left picked; nothing picked where there is none */
  left: Selection;
}

/** Numbers that are tried with ways to find which take one; others are tried with the number they begin with. */
const TRIED: Readonly<Record<string, readonly number[]>> = {
  sharp: [30, 5, 10, 15, 20, 25, 35, 40, 45, 50, 55, 60, 65, 70, 75, 80, 85],
  valence: [3, 5, 6, 7, 8]
};

const isSame = (a: Selection, b: Selection): boolean =>
  (['vertices', 'edges', 'faces'] as const).every((kind) => {
    const own = new Set(a[kind]);
    return own.size === new Set(b[kind]).size && b[kind].every((x) => own.has(x));
  });

/** The question that finds just what was picked; nothing where none does. */
export function queryFor(cage: Cage, selection: Selection): Query | undefined {
  for (const way of finds) {
    if (way.fromPicks) continue;
    const numbers = way.number ? (TRIED[way.id] ?? [way.number.initial]) : [0];
    const number = numbers.find((n) => isSame(way.pick(cage, emptySelection(), n), selection));
    if (number !== undefined) return way.number ? { find: way.id, number } : { find: way.id };
  }
  return undefined;
}

function workedOn({ entry: { selection }, before, left }: DoneEntry): Pick<RoutineStep, 'on'> | undefined {
  if (isEmpty(selection)) return {};
  const query = queryFor(before, selection);
  if (query) return { on: [query] };
  if (isSame(selection, left)) return { on: 'picked' };
  return selection.faces.length === before.faceCount ? { on: 'all faces' } : undefined;
}

/**
 * A routine of a run of entries: what each was done on is told by a question that finds just that, so that it fits other parts.
 * @throws RoutineError naming the entry whose pick no question finds, or that a routine cannot do
 */
export function routineFrom(name: string, done: readonly DoneEntry[]): Routine {
  const steps = done.map((own, i): RoutineStep => {
    const { operation: id, params } = own.entry;
    const operation = operationById(id);
    const said = `Entry ${i + 1} of these, ${operation?.name ?? id},`;
    if (operation?.kind !== 'cage') throw new RoutineError(`${said} is not done on a cage: a routine cannot repeat it.`);
    const on = workedOn(own);
    if (!on)
      throw new RoutineError(
        `${said} works on ${describeSelection(own.before, own.entry.selection)}, which no way of Find and pick finds. Pick that way, and do it again.`
      );
    return { operation: id, params, optional: false, ...on };
  });
  return readRoutine({ format: 'ulvrin-routine', version: 1, name, steps });
}
