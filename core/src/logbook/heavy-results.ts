import { type Entry } from './entry.ts';
import { storeRefusal } from './entry-words.ts';
import { type Replayed } from './replay.ts';
import { storedBytes, storedOf } from './stored-result.ts';

/** Seconds from which on a result is stored by itself: it would be computed again at every change before it. */
const HEAVY = 5;

/** An entry with its result, and a note that tells so, where it took long; else as it is. */
export function storedIfHeavy(entry: Entry, { state, seconds = 0 }: Replayed): Entry {
  const cage = state.parts.find(({ id }) => id === entry.part)?.cage;
  if (seconds < HEAVY || !cage || storeRefusal(entry)) return entry;
  const result = storedOf(cage);
  const size = (storedBytes(result) / 2 ** 20).toFixed(1);
  const note = `It took ${seconds.toFixed(0)} s, so its result is stored (${size} MB): changes before it do not reach it until it is released in the logbook.`;
  return { ...entry, result, notes: [...entry.notes, note] };
}
