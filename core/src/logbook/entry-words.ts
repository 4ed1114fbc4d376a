import { CageError } from '../mesh/half-edges.ts';
import { InvalidParams, OperationRefused, type Refusal } from '../operations/refusal.ts';
import { operationById } from '../operations/registry.ts';
import { type Entry, REMOVE_PART, RENAME_PART } from './entry.ts';

/** Entries that are no operations of a bench. */
const ON_PARTS: Readonly<Record<string, string>> = { [REMOVE_PART]: 'Remove part', [RENAME_PART]: 'Rename part' };

/** What an entry is called in lists and in what undo says. */
export const entryTitle = (entry: Pick<Entry, 'operation' | 'name'>): string =>
  entry.name ?? ON_PARTS[entry.operation] ?? operationById(entry.operation)?.name ?? entry.operation;

/** An entry with other words of its own; empty ones are taken away, what is left out stays. */
export function described({ name, note, group, ...entry }: Entry, given: Pick<Entry, 'name' | 'note' | 'group'>): Entry {
  const own = Object.entries({ name, note, group, ...given }).flatMap(([key, text]) => (text?.trim() ? [[key, text.trim()]] : []));
  return { ...entry, ...(Object.fromEntries(own) as typeof given) };
}

/** Why the result of an entry cannot be stored; nothing where it can. */
export function storeRefusal(entry: Entry): Refusal | undefined {
  if (entry.result || entry.cast) return { found: 'Its result is stored already.', instead: 'Release it, to have it computed again.' };
  return entry.makes || operationById(entry.operation)?.kind !== 'cage'
    ? { found: 'Only what changes one cage can be stored.', instead: 'Choose an entry that works on a cage.' }
    : undefined;
}

/** Why an entry is flagged. Errors that no operation means to throw say so, to be reported. */
export function problemOf(entry: Entry, error: unknown): string {
  const message = error instanceof Error ? error.message : String(error);
  const meant = [OperationRefused, InvalidParams, CageError].some((kind) => error instanceof kind);
  if (meant) return message;
  return `${entryTitle(entry)} failed unexpectedly: ${message}.`;
}
