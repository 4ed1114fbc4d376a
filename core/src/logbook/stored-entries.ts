import { arraysOf, bytesOf } from '../mesh/cage-arrays.ts';
import { OperationRefused } from '../operations/refusal.ts';
import { type Entry } from './entry.ts';
import { storeRefusal } from './entry-words.ts';
import { type Replayed } from './replay.ts';

/** Seconds from which on a result is stored by itself: it would be computed again at every change before it. */
const HEAVY = 5;

/** An entry with what it made. @throws OperationRefused where that is no cage, or is stored already */
export function withResult(entry: Entry, { state, problem }: Replayed): Entry {
  const refusal = storeRefusal(entry);
  if (refusal) throw new OperationRefused(refusal);
  const cage = state.parts.find(({ id }) => id === entry.part)?.cage;
  if (!cage || problem !== undefined) throw new OperationRefused({ found: 'It made no cage.', instead: 'Mend the entry first.' });
  return { ...entry, result: arraysOf(cage) };
}

/** An entry with its result, and a note that tells so, where it took long; else as it is. */
export function storedIfHeavy(entry: Entry, made: Replayed): Entry {
  const { seconds = 0 } = made;
  if (seconds < HEAVY || storeRefusal(entry)) return entry;
  const { result, notes, ...rest } = withResult(entry, made);
  const size = (bytesOf(result!) / 2 ** 20).toFixed(1);
  const note = `It took ${seconds.toFixed(0)} s, so its result is stored (${size} MB): changes before it do not reach it until it is released in the logbook.`;
  return { ...rest, result, notes: [...notes, note] };
}
