import { Cage, type PlainCage } from '../mesh/cage.ts';
import { type Refusal } from '../operations/operation.ts';
import { OperationRefused } from '../operations/refusal.ts';
import { type Entry, type JobState, type Part } from './entry.ts';
import { replay, type Replayed, surroundings } from './replay.ts';
import { type PlayedStep, playRoutine, type Routine } from './routine.ts';

/** A part as plain data, for another thread. */
export type PlainPart = Omit<Part, 'cage'> & { cage?: PlainCage };

/** What an entry made in another thread: parts that it left as they were are told by their ids alone. */
export type Performed =
  | { parts: (PlainPart | { id: string; same: true })[]; rest: Omit<Replayed, 'state'> }
  /** why it could not run: classes of errors do not get across threads */
  | { refusal: Refusal };

/** The parts of a state as plain data; arrays are shared until they are handed over. */
export const plainParts = ({ parts }: JobState): PlainPart[] => parts.map(({ cage, ...part }) => ({ ...part, cage: cage?.plain() }));

const revived = ({ cage, ...part }: PlainPart): Part => (cage ? { ...part, cage: Cage.revived(cage) } : part);

/** A step of a routine as plain data, for another thread. */
export type PlainStep = Omit<PlayedStep, 'done'> & { done: Omit<PlayedStep['done'], 'cage'> & { cage: PlainCage } };

/**
 * Plays a routine on a part that came as plain data: what a worker runs.
 * @param id of the part
 * @throws RoutineError
 */
export function performRoutine(
  parts: readonly PlainPart[],
  id: string,
  routine: Routine,
  numbers: Readonly<Record<string, number>>,
  tell: (step: string, fraction: number) => void
): PlainStep[] {
  const own = parts.map(revived);
  const part = own.find((p) => p.id === id)!;
  const { steps } = playRoutine(part.cage!, routine, numbers, surroundings(own, part), tell);
  return steps.map((step) => ({ ...step, done: { ...step.done, cage: step.done.cage.plain() } }));
}

/** Does an entry on parts that came as plain data: what a worker runs. @returns the refusal where the operation refuses */
export function perform(parts: readonly PlainPart[], entry: Entry): Performed {
  const before = parts.map(revived);
  try {
    const begun = Date.now();
    const { state, ...rest } = { ...replay({ parts: before }, entry), seconds: (Date.now() - begun) / 1000 };
    const same = new Set(before);
    return { parts: state.parts.map((part) => (same.has(part) ? { id: part.id, same: true } : plainParts({ parts: [part] })[0])), rest };
  } catch (error) {
    if (error instanceof OperationRefused) return { refusal: error.refusal };
    return { refusal: { found: error instanceof Error ? error.message : String(error) } };
  }
}

/** The outcome of `perform` on the state it was asked for. @throws OperationRefused as the operation did there */
export function takenUp(state: JobState, performed: Performed): Replayed {
  if ('refusal' in performed) throw new OperationRefused(performed.refusal);
  const byId = new Map(state.parts.map((p) => [p.id, p]));
  return { ...performed.rest, state: { parts: performed.parts.map((part) => ('same' in part ? byId.get(part.id)! : revived(part))) } };
}
