import { OperationRefused } from '../operations/refusal.ts';
import { type Selection } from '../select/selection.ts';
import { leavingChanges, sharedWith, takingChanges } from './branches.ts';
import { type Entry, type JobState, type Part } from './entry.ts';
import { described, entryTitle } from './entry-words.ts';
import {
  applied,
  documentSettings,
  journalOf,
  knownEntries,
  merged,
  movedWithin,
  recorded,
  reverted,
  wholeChange,
  type Change,
  type DocumentSettings,
  type DocumentState,
  type Journal
} from './journal.ts';
import { takenUp, type Performed } from './perform.ts';
import { ReplayMemory } from './replay-memory.ts';
import { storedIfHeavy, toldApart, withResult } from './stored-entries.ts';
import { lockedRefusal, nothingDone, orFlagged, placed, refuseLocked, refuseNothingDone, replay, type Replayed } from './replay.ts';

/** Results kept in memory at most; others are computed again from the nearest one. */
const KEPT_RESULTS = 40;

/** An entry to be added; the logbook gives it its number, date and places. */
export type NewEntry = Omit<Entry, 'id' | 'notes' | 'at' | 'places'> & { notes?: string[]; at?: string };

/** What an entry made, and of what. */
interface Tried {
  before: JobState;
  made: Replayed;
}

/**
 * The document of a job: entries in order, of which the first `cursor` are in force, and what goes with them. Everything that
 * changes it is a step of one journal, which undo and redo walk.
 */
export class Logbook {
  private document: DocumentState;
  private readonly results = new Map<number, Replayed>();
  private readonly memory = new ReplayMemory();
  private journalNow: Journal;
  /** changes that become one step, while several things are done together */
  private gathered?: Change[];
  /** how many entries were done again so far, and not taken from what is known of them */
  replays = 0;

  /** @param journal steps that led here; for documents that have none, those that add the entries */
  constructor(entries: readonly Entry[] = [], cursor = entries.length, settings: DocumentSettings = documentSettings({}), journal?: Journal) {
    this.document = { ...settings, entries, cursor: Math.min(cursor, entries.length) };
    this.journalNow = journal ?? journalOf(entries, this.document.cursor, entryTitle);
  }

  get entries(): readonly Entry[] {
    return this.document.entries;
  }
  get cursor(): number {
    return this.document.cursor;
  }
  get settings(): DocumentSettings {
    return documentSettings(this.document);
  }
  get journal(): Journal {
    return this.journalNow;
  }
  get state(): JobState {
    return this.replayed(this.cursor).state;
  }
  /** What the last entry in force left selected. */
  get selection(): Selection {
    return this.replayed(this.cursor).selection;
  }
  get last(): Entry | undefined {
    return this.entries[this.cursor - 1];
  }
  /** What undo would take back, and redo do again; nothing where there is nothing. */
  get undoes(): string | undefined {
    return this.journalNow.steps[this.journalNow.position - 1]?.label;
  }
  get redoes(): string | undefined {
    return this.journalNow.steps[this.journalNow.position]?.label;
  }

  part(id: string | undefined): Part | undefined {
    return this.state.parts.find((p) => p.id === id);
  }

  /** State before entry `index`. */
  stateBefore(index: number): JobState {
    return this.replayed(index).state;
  }

  /** What was picked before entry `index`. */
  pickedBefore(index: number): Selection {
    return this.replayed(index).selection;
  }

  /** What replaying an entry in force gave: why it was skipped, and how many of its elements were found by place. */
  outcome(index: number): Pick<Replayed, 'problem' | 'found' | 'notes'> {
    return this.replayed(index + 1);
  }

  /** An entry that `add` would take, with its number: what another thread is given to perform. */
  prepared(entry: NewEntry): Entry {
    return { notes: [], at: new Date().toISOString(), ...entry, id: this.freeId() };
  }

  /**
   * Does something: the entry is replayed first, and kept only if that works.
   * @param along settings that change with it
   * @param result what another thread made of this entry, prepared, on this state
   * @throws OperationRefused, also where it would change nothing, InvalidParams, or what the operation throws; with nothing changed
   */
  add(entry: NewEntry, along?: Partial<DocumentSettings>, result?: Replayed): Entry {
    const { cursor } = this;
    const { complete, ...made } = this.tried(cursor, entry, result);
    const out = this.entries.slice(cursor);
    const change: Change = { kind: 'entries', at: cursor, out, in: [complete], cursor: [cursor, cursor + 1], stays: out.length === 0 };
    this.record(entryTitle(complete), [change, ...this.settingsChange(along)]);
    this.remember(cursor, complete, made);
    return complete;
  }

  /** An entry done on the state before entry `index`. @throws OperationRefused, also where it would change nothing or what is locked, InvalidParams */
  private tried(index: number, entry: NewEntry, result?: Replayed): Tried & { complete: Entry } {
    const before = this.replayed(index).state;
    const given = this.prepared(entry);
    const made = result ?? replay(before, given);
    refuseNothingDone(before, made, given);
    refuseLocked(before, made.state, this.document.locked);
    const complete = { ...placed(before, given), notes: [...made.notes] };
    return { before, made, complete: storedIfHeavy(complete, made) };
  }

  /** Keeps what entry `index` made, once it is in the list. */
  private remember(index: number, entry: Entry, { before, made }: Tried): void {
    this.memory.keep(before, entry, made);
    this.keep(index + 1, made);
  }

  /** Changes what goes with the entries: the name, sets, which parts are shown. */
  change(label: string, settings: Partial<DocumentSettings>): void {
    this.record(label, this.settingsChange(settings));
  }

  /** Puts the first so many entries in force; the others stay in the list. */
  goTo(cursor: number): void {
    if (cursor === this.cursor) return;
    this.record('Go to another entry', [{ kind: 'entries', at: 0, out: [], in: [], cursor: [this.cursor, cursor] }]);
  }

  /** Takes an entry out; those after it are done again without it. */
  remove(index: number): void {
    this.refuseLockedEntry(index);
    const { cursor } = this;
    const out = [this.entries[index]];
    this.record(`Remove ${entryTitle(out[0])}`, [{ kind: 'entries', at: index, out, in: [], cursor: [cursor, cursor - (index < cursor ? 1 : 0)] }]);
  }

  /**
   * Changes the parameters of an entry; those after it are done again on the new result, and flagged where they cannot be.
   * @param ongoing the card is the one that added or edited the entry last: it stays one step
   * @param result what another thread made of the entry with these parameters, on the state before it
   * @throws OperationRefused, InvalidParams with nothing changed, if the entry itself cannot run so
   */
  edit(index: number, params: Entry['params'], ongoing = false, result?: Replayed): void {
    this.refuseLockedEntry(index);
    // other numbers make another result: a stored one is of no use any more
    const { problem: _problem, result: _stored, ...given } = this.entries[index];
    const before = this.stateBefore(index);
    const made = result ?? replay(before, { ...given, params });
    const changed: Entry = { ...given, params, notes: [...made.notes] };
    const change: Change = { kind: 'entries', at: index, out: [this.entries[index]], in: [changed], cursor: [this.cursor, this.cursor] };
    const together = ongoing ? merged(this.journalNow, changed) : undefined;
    if (together) {
      this.become(applied(this.document, change));
      this.journalNow = together;
    } else this.record(`Edit ${entryTitle(changed)}`, [change]);
    this.remember(index, changed, { before, made });
  }

  /**
   * Puts an entry between others; those after it are done again on what it makes.
   * @throws OperationRefused, InvalidParams with nothing changed, if it cannot run there
   */
  insert(index: number, entry: NewEntry): Entry {
    if (index >= this.cursor) return this.add(entry);
    const { complete, ...made } = this.tried(index, entry);
    this.replace(`Insert ${entryTitle(complete)}`, index, [], [complete], 1);
    this.remember(index, complete, made);
    return complete;
  }

  /** Moves an entry to another place; all from the earlier of both places on is done again. */
  move(index: number, to: number): void {
    const moved = movedWithin(this.entries, index, to);
    if (!moved) return;
    this.refuseLockedEntry(index);
    this.replace(`Move ${entryTitle(this.entries[index])}`, moved.at, moved.out, moved.in);
  }

  /** Leaves an entry in the list without effect, or lets it work again. */
  disable(index: number, disabled: boolean): void {
    const { disabled: _before, problem: _problem, ...entry } = this.entries[index];
    this.swap(`${disabled ? 'Disable' : 'Enable'} ${entryTitle(entry)}`, index, { ...entry, ...(disabled && { disabled }) });
  }

  /**
   * Has an entry work on something else.
   * @throws OperationRefused, InvalidParams with nothing changed, if it cannot run there
   */
  repick(index: number, selection: Selection): void {
    this.refuseLockedEntry(index);
    const { problem: _problem, result: _stored, ...entry } = this.entries[index];
    const before = this.replayed(index).state;
    const { places: _places, topology: _topology, ...given } = { ...entry, selection };
    const made = replay(before, given);
    const changed = { ...placed(before, given), notes: [...made.notes] };
    this.replace(`Pick again for ${entryTitle(entry)}`, index, [this.entries[index]], [changed]);
    this.remember(index, changed, { before, made });
  }

  /**
   * Keeps what an entry made: it is not computed again, whatever comes before it. What it was computed from can be changed all the same.
   * @throws OperationRefused where it made no cage, or has a result that is stored already
   */
  store(index: number): void {
    const entry = this.entries[index];
    const [before, made] = [this.replayed(index).state, this.replayed(index + 1)];
    const kept = withResult(entry, made);
    this.replace(`Store ${entryTitle(kept)}`, index, [entry], [kept]);
    this.remember(index, kept, { before, made });
  }

  /** Lets an entry compute its result again. */
  release(index: number): void {
    const { result: _stored, ...entry } = this.entries[index];
    this.swap(`Release ${entryTitle(entry)}`, index, entry);
  }

  /**
   * Leaves the entries behind the first so many as a branch, and goes on without them under another name.
   * @throws OperationRefused where a way has that name, or nothing is behind
   */
  branchOff(shared: number, name: string): void {
    this.record(`Try another way: ${name}`, leavingChanges(this.document, shared, name));
  }

  /** Goes over to a branch; the way the job was on becomes one. @throws OperationRefused where there is none of that name */
  takeBranch(name: string): void {
    this.record(`Go over to ${name}`, takingChanges(this.document, name));
  }

  /** Forgets a branch. */
  dropBranch(name: string): void {
    this.change(`Forget ${name}`, { branches: (this.document.branches ?? []).filter((b) => b.name !== name) });
  }

  /** The state at the end of a branch. */
  branchState(name: string): JobState | undefined {
    const branch = this.document.branches?.find((b) => b.name === name);
    if (!branch) return undefined;
    const shared = Math.min(this.cursor, sharedWith(this.entries, branch));
    return branch.entries.reduce(({ state }, entry) => this.memory.recall(state, entry) ?? this.doneAnew(state, entry), this.replayed(shared)).state;
  }

  /** Puts another document in the place of this one, as one step: what was there comes back with an undo. */
  restore(label: string, to: DocumentState): void {
    const entries = toldApart(to.entries, knownEntries(this.document, this.journalNow), this.freeId());
    this.record(label, wholeChange(this.document, { ...to, entries }));
  }

  /** Gives an entry a name, a note and a group of its own; empty ones are taken away, what is left out stays. */
  describe(index: number, given: Pick<Entry, 'name' | 'note' | 'group'>): void {
    const entry = this.entries[index];
    this.replace(`Name ${entryTitle({ operation: entry.operation })}`, index, [entry], [described(entry, given)]);
  }

  /** @throws OperationRefused where the entry's part is locked */
  private refuseLockedEntry(index: number): void {
    const { part } = this.entries[index];
    if (this.document.locked.includes(part)) throw new OperationRefused(lockedRefusal(this.part(part)?.name ?? 'This part'));
  }

  /** Puts a changed entry in the place of one; those after it are done again. @throws OperationRefused where its part is locked */
  swap(label: string, index: number, changed: Entry): void {
    this.refuseLockedEntry(index);
    this.replace(label, index, [this.entries[index]], [changed]);
  }

  private replace(label: string, at: number, out: Entry[], into: Entry[], more = 0): void {
    this.record(label, [{ kind: 'entries', at, out, in: into, cursor: [this.cursor, this.cursor + more] }]);
  }

  undo(): void {
    const { steps, position } = this.journalNow;
    if (position === 0) return;
    this.become([...steps[position - 1].changes].reverse().reduce(reverted, this.document));
    this.journalNow = { steps, position: position - 1 };
  }
  redo(): void {
    const { steps, position } = this.journalNow;
    if (position === steps.length) return;
    this.become(steps[position].changes.reduce(applied, this.document));
    this.journalNow = { steps, position: position + 1 };
  }

  /** An id that no entry has or had, undone ones included. */
  private freeId(): number {
    return 1 + knownEntries(this.document, this.journalNow).reduce((most, { id }) => Math.max(most, id), 0);
  }

  private settingsChange(after: Partial<DocumentSettings> | undefined): Change[] {
    if (!after) return [];
    const before = Object.fromEntries(Object.keys(after).map((key) => [key, this.document[key as keyof DocumentSettings]]));
    return [{ kind: 'settings', before, after }];
  }

  private record(label: string, changes: Change[]): void {
    if (changes.length === 0) return;
    this.become(changes.reduce(applied, this.document));
    if (this.gathered) this.gathered.push(...changes);
    else this.journalNow = recorded(this.journalNow, { label, changes });
  }

  /** Does several things as one step: all of them, or none where one throws. */
  together(label: string, work: () => void): void {
    const before = this.document;
    const changes = (this.gathered = [] as Change[]);
    try {
      work();
    } catch (error) {
      this.become(before);
      throw error;
    } finally {
      this.gathered = undefined;
    }
    if (changes.length > 0) this.journalNow = recorded(this.journalNow, { label, changes });
  }

  /** Takes up another state; results of entries that are the same up to there stay at hand. */
  private become(document: DocumentState): void {
    const before = this.entries;
    let same = 0;
    while (same < before.length && before[same] === document.entries[same]) same++;
    for (const k of [...this.results.keys()]) if (k > same) this.results.delete(k);
    this.document = document;
  }

  private keep(count: number, result: Replayed): void {
    this.results.set(count, result);
    if (this.results.size <= KEPT_RESULTS) return;
    // the oldest go first, but every eighth stays so that no undo is far from a kept result
    for (const k of this.results.keys()) if (k % 8 !== 0 && k !== count) return void this.results.delete(k);
  }

  /** Result of the first `count` entries. Whatever an entry throws flags it: the job opens all the same. */
  private replayed(count: number): Replayed {
    if (count === 0) return nothingDone;
    let from = count;
    while (from > 0 && !this.results.has(from)) from--;
    let result = this.results.get(from) ?? nothingDone;
    for (let i = from; i < count; i++) {
      const entry = this.entries[i];
      const { state } = result;
      result = this.memory.recall(state, entry) ?? this.doneAnew(state, entry);
      this.told(i, result);
      this.keep(i + 1, result);
    }
    return result;
  }

  private doneAnew(state: JobState, entry: Entry): Replayed {
    this.replays++;
    const made = orFlagged(state, entry, () => replay(state, entry));
    return this.memory.keep(state, entry, made);
  }

  /** Takes up what another thread made of an entry, on the state before it. */
  takeUp(index: number, performed: Performed): void {
    const { state } = this.replayed(index);
    const result = orFlagged(state, this.entries[index], () => takenUp(state, performed));
    this.memory.keep(state, this.entries[index], result);
    this.told(index, result);
    this.keep(index + 1, result);
  }

  /** Puts a new entry in the place of one whose notes or flag are not those of its last replay. */
  private told(index: number, { notes, problem }: Replayed): void {
    const { problem: flagged, ...entry } = this.entries[index];
    if (flagged === problem && entry.notes.length === notes.length && entry.notes.every((n, i) => n === notes[i])) return;
    const entries = this.entries.slice();
    entries[index] = { ...entry, notes: [...notes], ...(problem !== undefined && { problem }) };
    this.document = { ...this.document, entries };
  }
}
