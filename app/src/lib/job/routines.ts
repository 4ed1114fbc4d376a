import { asPreviewed, Cage, RoutineError, routineFrom, type DoneEntry, type Part, type PlainStep, type Routine } from '@ulvrin/core';
import type { OpenJob } from './open-job.svelte.ts';

/**
 * Puts the steps of a routine that was played on the active part into the logbook: each becomes an entry.
 * @returns what the steps found; nothing where the job cannot be changed now
 */
export function addSteps(job: OpenJob, part: Part, { name }: Routine, steps: readonly PlainStep[]): string | undefined {
  const isDone = job.rework((logbook) => {
    for (const { done, notes, left } of steps) {
      if (left !== undefined) continue;
      const { cage, picked, ...step } = done;
      const entry = { ...step, part: part.id };
      logbook.add(entry, undefined, asPreviewed(logbook.state, entry, { cage: Cage.revived(cage), selection: picked, notes }));
    }
  });
  if (!isDone) return undefined;
  const told = steps.map(({ operation, found, left }) => `${operation} on ${found}${left === undefined ? '' : ` was left out: ${left}`}`);
  return `${name}: ${told.join('; ')}.`;
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
