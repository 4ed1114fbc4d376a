import { asPreviewed, Cage, isUnchanged, RoutineError, routineFrom, type DoneEntry, type Part, type PlainStep, type Routine } from '@ulvrin/core';
import type { OpenJob } from './open-job.svelte.ts';

/**
 * Puts the steps of a routine that was played on the active part into the logbook: each becomes an entry.
 * @returns what the steps found; nothing where the job cannot be changed now
 */
export function addSteps(job: OpenJob, part: Part, { name }: Routine, steps: readonly PlainStep[]): string | undefined {
  const told: string[] = [];
  const isDone = job.rework((logbook) => {
    for (const { operation, found, done, notes, left } of steps) {
      const { cage: made, picked, ...step } = done;
      const cage = Cage.revived(made);
      const why = left ?? (isUnchanged(logbook.part(part.id)!.cage!, cage) ? 'it would change nothing.' : undefined);
      told.push(`${operation} on ${found}${why === undefined ? '' : ` was left out: ${why}`}`);
      if (why !== undefined) continue;
      const entry = { ...step, part: part.id };
      logbook.add(entry, undefined, asPreviewed(logbook.state, entry, { cage, selection: picked, notes }));
    }
  });
  return isDone ? `${name}: ${told.join('; ')}.` : undefined;
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
