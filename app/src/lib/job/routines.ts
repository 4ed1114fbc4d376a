import { playRoutine, RoutineError, routineFrom, surroundings, type DoneEntry, type Routine } from '@ulvrin/core';
import type { OpenJob } from './open-job.svelte.ts';

/**
 * Plays a routine on the active part: each step becomes an entry of the logbook.
 * @param numbers in place of the routine's own
 * @returns what the steps found; nothing where the job cannot be changed now
 * @throws RoutineError naming the step that cannot be done; nothing is done then
 */
export function playOn(job: OpenJob, routine: Routine, numbers: Readonly<Record<string, number>>): string | undefined {
  const part = job.active;
  if (!part?.cage) throw new RoutineError('There is no cage to play it on.');
  const { steps } = playRoutine(part.cage, routine, { ...numbers }, surroundings(job.parts, part));
  const done = steps.filter(({ left }) => left === undefined);
  const isDone = job.rework((logbook) => {
    for (const { done: step } of done) logbook.add({ ...step, part: part.id });
  });
  if (!isDone) return undefined;
  const told = steps.map(({ operation, found, left }) => `${operation} on ${found}${left === undefined ? '' : ` was left out: ${left}`}`);
  return `${routine.name}: ${told.join('; ')}.`;
}

/**
 * A routine of some entries of the logbook.
 * @param from and `to`: their numbers as the list shows them, both among them
 * @throws RoutineError naming the entry that none can be made of
 */
export function routineOf({ document }: OpenJob, name: string, from: number, to: number): Routine {
  const { entries, cursor } = document;
  if (!(from >= 1 && from <= to && to <= cursor)) throw new RoutineError(`There are entries 1 to ${cursor}: choose from and to among them.`);
  const cageBefore = (index: number) => document.stateBefore(index).parts.find(({ id }) => id === entries[index].part)?.cage;
  const done = entries.slice(from - 1, to).flatMap((entry, i): DoneEntry[] => {
    if (entry.disabled || entry.problem) return [];
    const before = cageBefore(from - 1 + i);
    if (!before) throw new RoutineError(`Entry ${from + i} makes a part: a routine works on one that is there. Begin after it.`);
    return [{ entry, before, left: document.pickedBefore(from - 1 + i) }];
  });
  return routineFrom(name, done);
}
