import { LONG, secondsFor } from '../operations/operation.ts';
import { operationById } from '../operations/registry.ts';
import { type Entry } from './entry.ts';
import { entryTitle } from './entry-words.ts';
import { type Logbook } from './logbook.ts';
import { plainParts, type Performed, type PlainPart } from './perform.ts';

/** How entries are replayed ahead. */
export interface Ahead {
  /** does an entry that takes long in another thread; left out: here */
  elsewhere?: (parts: PlainPart[], entry: Entry) => Promise<Performed>;
  /** is told of each entry before it is replayed; what it waits for is waited for */
  tell?: (title: string, index: number, of: number) => void | Promise<void>;
}

/** Replays the entries in force one after the other, so that the state is at hand afterwards; those that take long elsewhere. */
export async function replayAhead(logbook: Logbook, { elsewhere, tell }: Ahead): Promise<void> {
  const of = logbook.cursor;
  for (let i = 0; i < of; i++) {
    const entry = logbook.entries[i];
    await tell?.(entryTitle(entry), i, of);
    const state = logbook.stateBefore(i);
    if (elsewhere && takesLong(logbook, i)) logbook.takeUp(i, await elsewhere(plainParts(state), entry));
    else void logbook.stateBefore(i + 1);
  }
}

function takesLong(logbook: Logbook, index: number): boolean {
  const entry = logbook.entries[index];
  const operation = operationById(entry.operation);
  const cage = logbook.stateBefore(index).parts.find((p) => p.id === entry.part)?.cage;
  if (!operation || !cage || entry.makes) return false;
  try {
    return secondsFor(operation, cage, entry.selection, entry.params) >= LONG;
  } catch {
    // an estimate asks for elements that may be gone; the replay finds that out, and says so
    return false;
  }
}
