import { arraysOf, bytesOf } from '../mesh/cage-arrays.ts';
import { OperationRefused } from '../operations/refusal.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
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

const isSame = (a: Float64Array | Int32Array, b: Float64Array | Int32Array): boolean => a.length === b.length && a.every((x, i) => x === b[i]);
const isSameMesh = (a: PolygonMesh, b: PolygonMesh): boolean =>
  a === b || (isSame(a.positions, b.positions) && isSame(a.faceStart, b.faceStart) && isSame(a.faceVertices, b.faceVertices));

/**
 * Entries of an earlier version that come among known ones. What is stored is found by an entry's number, and numbers of entries that were undone
 * are given again: where a known one of the same number has another mesh, the entry gets a new number. A mesh that is the same is taken from there.
 * @param free a number from which on none is taken by a known entry
 */
export function toldApart(entries: readonly Entry[], known: readonly Entry[], free: number): Entry[] {
  const casts = new Map(known.flatMap(({ id, cast }) => (cast ? [[id, cast] as const] : [])));
  let next = entries.reduce((most, { id }) => Math.max(most, id + 1), free);
  return entries.map((entry) => {
    const cast = casts.get(entry.id);
    if (!cast) return entry;
    return entry.cast && isSameMesh(entry.cast, cast) ? { ...entry, cast } : { ...entry, id: next++ };
  });
}
