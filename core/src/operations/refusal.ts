import { type Selection } from '../select/selection.ts';

/** Why an operation cannot run: what was found, where, and what would make it possible. */
export interface Refusal {
  found: string;
  where?: Selection;
  /** the step that makes it possible */
  instead?: string;
  /** other numbers on the card would make it possible: it can be started all the same */
  numbers?: true;
  /** nothing is wrong: it waits for what is drawn or pointed at */
  waits?: true;
}

/** Thrown by `applyOperation`; carries the refusal. */
export class OperationRefused extends Error {
  constructor(readonly refusal: Refusal) {
    super([refusal.found, refusal.instead].filter(Boolean).join(' '));
  }
}

/** Thrown where parameters break their schema; the message names the field. */
export class InvalidParams extends Error {}

/** Faces that an operation may leave: more cannot be drawn and saved. */
export const MOST_FACES = 2_000_000;

/** Why something cannot be made that would have so many faces; nothing where it can. */
export function tooMany(what: string, faces: number, instead: string, where?: Selection): Refusal | undefined {
  if (faces <= MOST_FACES) return undefined;
  const [many, most] = [faces, MOST_FACES].map((n) => Math.round(n).toLocaleString('en'));
  return { found: `${what} would have ${many} faces; ${most} is the most.`, where, instead };
}

/** The same, thrown. @throws OperationRefused */
export function refuseTooMany(what: string, faces: number, instead: string): void {
  const refusal = tooMany(what, faces, instead);
  if (refusal) throw new OperationRefused(refusal);
}

/** Ends a `run` with a refusal that only the run itself could find out. */
export function refuse(found: string, where?: Selection, instead?: string): never {
  throw new OperationRefused({ found, where, instead });
}

/** What some work gives, or nothing where an operation in it is refused. */
export function unlessRefused<T>(work: () => T): T | undefined {
  try {
    return work();
  } catch (error) {
    if (error instanceof OperationRefused) return undefined;
    throw error;
  }
}
