import { OperationRefused } from '../operations/refusal.ts';
import { type Branch, type Entry } from './entry.ts';
import { type Change, type DocumentState } from './journal.ts';

/** What a way is called that nobody named. */
export const FIRST_BRANCH = 'First way';

/** How many entries a branch shares with the way that the job is on. */
export function sharedWith(entries: readonly Entry[], { after }: Branch): number {
  const known = new Set(after);
  return 1 + entries.findLastIndex(({ id }) => known.has(id));
}

/** A branch of the entries behind the first so many. */
const branchFrom = (name: string, entries: readonly Entry[], shared: number): Branch => ({
  name,
  after: entries.slice(0, shared).map(({ id }) => id),
  entries: entries.slice(shared)
});

/**
 * What leaves the entries behind the first so many as a branch.
 * @param name of the way that goes on without them
 * @throws OperationRefused where a way has that name, or nothing is behind
 */
export function leavingChanges({ entries, cursor, branches = [], branch }: DocumentState, shared: number, name: string): Change[] {
  const now = branch ?? FIRST_BRANCH;
  if ([now, ...branches.map((b) => b.name)].includes(name))
    throw new OperationRefused({ found: `There is a way called ${name} already.`, instead: 'Give it another name.' });
  if (shared >= entries.length)
    throw new OperationRefused({ found: 'Nothing comes after this entry.', instead: 'Just go on: no other way is lost.' });
  const after = { branches: [...branches, branchFrom(now, entries, shared)], branch: name };
  return [
    { kind: 'entries', at: shared, out: entries.slice(shared), in: [], cursor: [cursor, shared] },
    { kind: 'settings', before: { branches, branch }, after }
  ];
}

/** What goes over to a branch and leaves the way the job was on as one. @throws OperationRefused where there is none of that name */
export function takingChanges({ entries, cursor, branches = [], branch }: DocumentState, name: string): Change[] {
  const chosen = branches.find((b) => b.name === name);
  if (!chosen) throw new OperationRefused({ found: `There is no way called ${name} any more.`, instead: 'Undo brings back one that was forgotten.' });
  const shared = sharedWith(entries, chosen);
  const into = chosen.entries;
  const left = branchFrom(branch ?? FIRST_BRANCH, entries, shared);
  const after = { branches: branches.map((b) => (b === chosen ? left : b)), branch: name };
  return [
    { kind: 'entries', at: shared, out: entries.slice(shared), in: into, cursor: [cursor, shared + into.length] },
    { kind: 'settings', before: { branches, branch }, after }
  ];
}
