import { type Condition } from '../brief/conditions.ts';
import { type Branch, type Entry, type Layer, type NamedSet } from './entry.ts';

/** What a document holds beside its entries. */
export interface DocumentSettings {
  name: string;
  sets: readonly NamedSet[];
  /** ids of parts that are not shown */
  hidden: readonly string[];
  /** ids of parts that nothing may change */
  locked: readonly string[];
  /** groups of parts; left out: none */
  layers?: readonly Layer[];
  /** other ways that it took; left out: none */
  branches?: readonly Branch[];
  /** what the way is called that it is on; left out: the first one */
  branch?: string;
  /** when it is done: a checklist */
  doneWhen: readonly Condition[];
}

/** What a document holds beside its entries, out of whatever has it among other things; what is missing is empty. */
export function documentSettings({
  name = '',
  sets = [],
  hidden = [],
  locked = [],
  doneWhen = [],
  // each by its name: what has them may have them as getters, which the rest of an object leaves out
  layers,
  branches,
  branch
}: Partial<DocumentSettings>): DocumentSettings {
  return { name, sets, hidden, locked, doneWhen, layers, branches, branch };
}

/** A document at one time: entries in order, of which the first `cursor` are in force. */
export interface DocumentState extends DocumentSettings {
  entries: readonly Entry[];
  cursor: number;
}

/** One change of a document, with what it takes to undo it. */
export type Change =
  | {
      kind: 'entries';
      /** place of the first entry that goes or comes */
      at: number;
      out: readonly Entry[];
      in: readonly Entry[];
      cursor: readonly [before: number, after: number];
      /** an entry added at the end stays in the list when it is undone, out of force */
      stays?: boolean;
    }
  | { kind: 'settings'; before: Partial<DocumentSettings>; after: Partial<DocumentSettings> };

/** The entries that a change tells of, those of ways that were left or forgotten included. */
export function entriesOf(change: Change): readonly Entry[] {
  if (change.kind === 'entries') return [...change.out, ...change.in];
  return [change.before, change.after].flatMap(({ branches = [] }) => branches.flatMap((b) => b.entries));
}

/** What one undo takes back. */
export interface Step {
  /** what was done, as undo and redo name it */
  label: string;
  changes: readonly Change[];
}

const spliced = (list: readonly Entry[], at: number, out: number, added: readonly Entry[]): Entry[] => [
  ...list.slice(0, at),
  ...added,
  ...list.slice(at + out)
];

export function applied(state: DocumentState, change: Change): DocumentState {
  if (change.kind === 'settings') return { ...state, ...change.after };
  const { at, out, cursor, stays } = change;
  if (stays && state.entries[at]?.id === change.in[0]?.id) return { ...state, cursor: cursor[1] };
  return { ...state, entries: spliced(state.entries, at, out.length, change.in), cursor: cursor[1] };
}

export function reverted(state: DocumentState, change: Change): DocumentState {
  if (change.kind === 'settings') return { ...state, ...change.before };
  const { at, out, cursor, stays } = change;
  if (stays) return { ...state, cursor: cursor[0] };
  return { ...state, entries: spliced(state.entries, at, change.in.length, out), cursor: cursor[0] };
}

/** The changes that make one document of another, the entries as a whole. */
export const wholeChange = (from: DocumentState, to: DocumentState): Change[] => [
  { kind: 'entries', at: 0, out: from.entries, in: to.entries, cursor: [from.cursor, to.cursor] },
  { kind: 'settings', before: documentSettings(from), after: documentSettings(to) }
];

/** Steps kept at most; the oldest go first. */
export const MOST_STEPS = 500;

/** All steps of a document in order, of which the first `position` are done. Immutable. */
export interface Journal {
  steps: readonly Step[];
  position: number;
}

/** A journal of entries alone, for documents that have none: each was added, in order. */
export const journalOf = (entries: readonly Entry[], cursor: number, label: (entry: Entry) => string): Journal => ({
  steps: entries.map((entry, i) => ({
    label: label(entry),
    changes: [{ kind: 'entries', at: i, out: [], in: [entry], cursor: [i, i + 1], stays: true }]
  })),
  position: cursor
});

/** The journal with one more step; those that were undone before go. */
export function recorded({ steps, position }: Journal, step: Step): Journal {
  const kept = [...steps.slice(Math.max(0, position + 1 - MOST_STEPS), position), step];
  return { steps: kept, position: kept.length };
}

/**
 * The journal with an edit taken into its last step, where that added or edited the same entry: what was typed into a card that
 * stays open is one step. @returns nothing where the last step is another one
 */
export function merged({ steps, position }: Journal, entry: Entry): Journal | undefined {
  const last = steps[position - 1];
  if (!last || position < steps.length) return undefined;
  const at = last.changes.findIndex((c) => c.kind === 'entries' && c.in.length === 1 && c.in[0].id === entry.id);
  if (at < 0) return undefined;
  const changes = last.changes.map((c, i) => (i === at ? { ...c, in: [entry] } : c)) as Change[];
  return { steps: [...steps.slice(0, -1), { ...last, changes }], position };
}

/** The list with one entry at another place: which entries change places, from where on, and how they stand then. Nothing where it is there already. */
export function movedWithin(entries: readonly Entry[], index: number, to: number): { at: number; out: Entry[]; in: Entry[] } | undefined {
  const goal = Math.max(0, Math.min(to, entries.length - 1));
  if (goal === index) return undefined;
  const at = Math.min(index, goal);
  const out = entries.slice(at, Math.max(index, goal) + 1);
  const rest = out.filter((e) => e !== entries[index]);
  return { at, out, in: goal < index ? [entries[index], ...rest] : [...rest, entries[index]] };
}

/** Every entry of a document that is there, in other ways too, or that a step would bring back. */
export const knownEntries = ({ entries, branches = [] }: DocumentState, { steps }: Journal): Entry[] => [
  ...entries,
  ...branches.flatMap((b) => b.entries),
  ...steps.flatMap(({ changes }) => changes.flatMap(entriesOf))
];
