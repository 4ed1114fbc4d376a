import {
  bringInFile,
  describeLater,
  emptySelection,
  REMOVE_PART,
  type Branch,
  type BroughtIn,
  type Condition,
  type DocumentSettings,
  type Entry,
  RENAME_PART,
  stemOf,
  type JobState,
  type Layer,
  type Logbook,
  type NewEntry,
  type Params,
  type Part,
  type Replayed,
  type Selection
} from '@ulvrin/core';
import type { Notes } from '$lib/job/notes.svelte.ts';
import { countsOf, restoredView, type View } from '$lib/job/view.ts';
import type { JobRecord } from '$lib/platform/storage/database.ts';
import type { StoredJob } from '$lib/platform/storage/job-store.ts';
import { DocumentKeeper } from './document-keeper.svelte.ts';
import { logbookOf } from './opened-logbook.ts';
import type { Snapshot } from './save-queue.ts';

/** What a document tells of itself. */
export interface DocumentEvents {
  /** its entries, or what goes with them, have changed */
  changed(): void;
  /** it is as another page left it now */
  adopted(): void;
}

/** The logbook of a job as the page shows it and the browser keeps it, with what it makes, and how it is looked at. */
export class OpenDocument {
  view: View = $state(restoredView(undefined));
  /** counts up with every change of the logbook */
  version = $state(0);
  record: JobRecord;
  readonly keeper: DocumentKeeper;
  private logbook: Logbook;
  takePicture?: () => Promise<string>;

  /** @param logbook of the same job, where it has been replayed already */
  constructor(
    stored: StoredJob,
    private readonly notes: Notes,
    private readonly events: DocumentEvents,
    logbook = logbookOf(stored)
  ) {
    this.record = stored.job;
    this.logbook = logbook;
    this.view = restoredView(stored.view);
    this.settleActive();
    this.keeper = new DocumentKeeper(stored.job.id, stored, {
      snapshot: () => this.snapshot(),
      view: () => $state.snapshot(this.view) as unknown as Record<string, unknown>,
      picture: () => this.takePicture?.(),
      adopt: (now) => this.adopt(now),
      renamed: (name) => this.rename(name),
      tell: (kind, text) => this.notes.tell(kind, text)
    });
  }

  // ---- reading

  entries = $derived.by((): readonly Entry[] => (void this.version, this.logbook.entries));
  cursor = $derived.by(() => (void this.version, this.logbook.cursor));
  name = $derived.by(() => (void this.version, this.logbook.settings.name));
  sets = $derived.by(() => (void this.version, this.logbook.settings.sets));
  /** ids of parts that are not shown */
  hidden = $derived.by(() => (void this.version, this.logbook.settings.hidden));
  /** ids of parts that nothing may change */
  locked = $derived.by(() => (void this.version, this.logbook.settings.locked));
  /** groups of parts */
  layers = $derived.by((): readonly Layer[] => (void this.version, this.logbook.settings.layers ?? []));
  /** other ways the job took, and what the present one is called */
  branches = $derived.by((): readonly Branch[] => (void this.version, this.logbook.settings.branches ?? []));
  branch = $derived.by(() => (void this.version, this.logbook.settings.branch));
  /** when the job is done */
  doneWhen = $derived.by(() => (void this.version, this.logbook.settings.doneWhen));
  /** what undo would take back, and redo do again */
  undoes = $derived.by(() => (void this.version, this.logbook.undoes));
  redoes = $derived.by(() => (void this.version, this.logbook.redoes));
  parts = $derived.by((): readonly Part[] => (void this.version, this.logbook.state.parts));
  /** the parts as they were before the last entry in force */
  partsBefore = $derived.by((): readonly Part[] => (void this.version, this.cursor > 0 ? this.logbook.stateBefore(this.cursor - 1).parts : []));
  /** the cage that operations work on */
  active = $derived.by((): Part | undefined => this.parts.find((p) => p.id === this.view.activePart && p.kind === 'cage'));
  reference = $derived.by(
    (): Part | undefined =>
      this.parts.find((p) => p.kind === 'reference' && !this.hidden.includes(p.id)) ?? this.parts.find((p) => p.kind === 'reference')
  );
  /** the dense mesh that brushes work on, where no cage is active */
  dense = $derived.by((): Part | undefined => {
    if (this.active) return undefined;
    return this.parts.find((p) => p.id === this.view.activePart && p.kind === 'reference') ?? this.reference;
  });
  /** what quads are laid over: the reference, or else the active cage */
  underQuads = $derived.by((): Part | undefined => this.reference ?? this.active);

  get state(): JobState {
    return this.logbook.state;
  }
  /** what the last entry picked */
  get picked(): Selection {
    return this.logbook.selection;
  }
  /** the parts at the end of another way */
  branchState(name: string): JobState | undefined {
    return this.logbook.branchState(name);
  }
  stateBefore(index: number): JobState {
    return this.logbook.stateBefore(index);
  }
  /** What was picked before an entry. */
  pickedBefore(index: number): Selection {
    return this.logbook.pickedBefore(index);
  }
  /** An entry as it would be added, for a worker to perform. @throws where its parameters cannot be taken */
  prepared(entry: NewEntry): Entry {
    return this.logbook.prepared(entry);
  }
  /** What the entries after one came to. */
  later(index: number): string | undefined {
    return describeLater(this.logbook, index);
  }
  freeName(name: string): string {
    const taken = new Set(this.parts.map((p) => p.name));
    let free = name;
    for (let n = 2; taken.has(free); n++) free = `${name} ${n}`;
    return free;
  }

  // ---- changing

  /** Takes a step that changes the document; refused while another page holds it. */
  attempt(step: () => void): void {
    if (this.lookingOn) return this.notes.tell('error', this.lookingOn);
    this.notes.attempt(step);
  }

  /**
   * Adds an entry.
   * @param more what goes with it, what it comes to where that is known already, and whether its part is worked on from then on
   * @throws OperationRefused, InvalidParams
   */
  add(entry: NewEntry, more: { settings?: Partial<DocumentSettings>; result?: Replayed; activate?: boolean } = {}): Entry {
    const added = this.logbook.add(entry, more.settings, more.result);
    if (more.activate) this.view.activePart = added.part;
    this.changed();
    return added;
  }

  /** Changes an entry's numbers. @param ongoing it is part of the step before */
  edit(index: number, params: Params, ongoing: boolean, result?: Replayed): void {
    this.logbook.edit(index, params, ongoing, result);
    this.changed();
  }

  /** Changes the list of entries: what comes after is done again, as far as it depends on it. @returns whether it could be done */
  rework(change: (logbook: Logbook) => void): boolean {
    let isDone = false;
    this.attempt(() => {
      change(this.logbook);
      isDone = true;
      this.changed();
    });
    return isDone;
  }

  /** Puts a brought-in mesh into the job. */
  addBroughtIn(result: BroughtIn, fileName: string, as: 'reference' | 'cage', settings: Params): void {
    this.attempt(() => {
      const id = crypto.randomUUID();
      const name = this.freeName(stemOf(fileName));
      const entry: NewEntry = {
        operation: bringInFile.id,
        part: id,
        params: { ...settings, file: fileName, as },
        selection: emptySelection(),
        cast: result.mesh,
        notes: result.notes,
        makes: { name, kind: as, scheme: result.scheme === 'loop' ? 'loop' : 'catmull-clark', borderCorners: result.borderCorners }
      };
      this.add(entry, { activate: as === 'cage' });
      this.notes.tell('info', [`${name} was brought in as a ${as}.`, ...result.notes].join(' '));
    });
  }

  /** Uses a part that was brought in as what quads are laid over, or as a cage to work on; what comes after is done again. */
  useAs({ id, name }: Part, kind: Part['kind']): void {
    const index = this.entries.findIndex((entry) => entry.part === id && entry.operation === bringInFile.id);
    const { params, makes, ...entry } = this.entries[index];
    this.rework((logbook) =>
      logbook.swap(`Use ${name} as a ${kind}`, index, { ...entry, params: { ...params, as: kind }, makes: { ...makes!, kind } })
    );
  }

  removePart(id: string): void {
    this.attempt(() => void this.add({ operation: REMOVE_PART, part: id, params: {}, selection: emptySelection() }));
  }

  renamePart(id: string, name: string): void {
    this.attempt(() => void this.add({ operation: RENAME_PART, part: id, params: { name }, selection: emptySelection() }));
  }

  /** Walks the journal. @returns whether it was walked */
  travel(step: 'undo' | 'redo' | { to: number }): boolean {
    if (this.lookingOn) {
      this.notes.tell('error', this.lookingOn);
      return false;
    }
    if (typeof step === 'object') this.logbook.goTo(step.to);
    else this.logbook[step]();
    this.changed();
    return true;
  }

  // ---- what goes with the entries

  rename(name: string): void {
    if (name !== this.name) this.settle('Rename', { name });
  }

  /** Sets when the job is done. */
  finishWhen(doneWhen: readonly Condition[]): void {
    this.settle('Change the checklist', { doneWhen });
  }

  /** Shows a part that is hidden, or hides it. */
  toggleHidden(part: Part): void {
    const { hidden } = this;
    if (hidden.includes(part.id)) this.settle(`Show ${part.name}`, { hidden: hidden.filter((id) => id !== part.id) });
    else this.settle(`Hide ${part.name}`, { hidden: [...hidden, part.id] });
  }

  /** Keeps anything from changing a part, or lets it again. */
  toggleLocked(part: Part): void {
    const { locked } = this;
    if (locked.includes(part.id)) this.settle(`Unlock ${part.name}`, { locked: locked.filter((id) => id !== part.id) });
    else this.settle(`Lock ${part.name}`, { locked: [...locked, part.id] });
  }

  /** Shows one part alone; where it is alone already, all of them. */
  solo(part: Part): void {
    const others = this.parts.filter(({ id }) => id !== part.id).map(({ id }) => id);
    const isAlone = !this.hidden.includes(part.id) && others.every((id) => this.hidden.includes(id));
    this.settle(isAlone ? 'Show all parts' : `Show ${part.name} alone`, { hidden: isAlone ? [] : others });
  }

  /** Changes what goes with the entries, as a step of its own. */
  settle(label: string, settings: Partial<DocumentSettings>): void {
    this.attempt(() => {
      this.logbook.change(label, settings);
      this.changed();
    });
  }

  private settleActive(): void {
    const { parts } = this.logbook.state;
    if (!parts.some((p) => p.id === this.view.activePart && p.kind === 'cage'))
      this.view.activePart = parts.findLast((p) => p.kind === 'cage')?.id ?? '';
  }

  private changed(): void {
    this.version++;
    this.settleActive();
    this.events.changed();
    void this.save();
    this.keepPictureSoon();
  }

  // ---- keeping

  /** Why nothing can be changed here; nothing where this page holds the job. */
  get lookingOn(): string | undefined {
    if (this.keeper.saving.is === 'lost') return 'This job can no longer be changed here: see the note on the stand.';
    return this.keeper.holds ? undefined : 'This job is open in another tab: take it over to change it here.';
  }

  /** Takes up the job as another page left it. */
  private adopt(stored: StoredJob): void {
    this.record = stored.job;
    this.logbook = logbookOf(stored);
    this.version++;
    this.settleActive();
    this.events.adopted();
  }

  private snapshot(): Snapshot {
    // a replay may still put flags and notes on entries: it comes first
    const counts = countsOf(this.logbook.state.parts);
    const { entries, cursor, journal } = this.logbook;
    const { branches, ...settings } = this.logbook.settings;
    this.record = { ...this.record, ...settings, changed: new Date().toISOString(), cursor, counts };
    return { job: this.record, entries, branches, journal };
  }

  /** Writes what changed since the last time, the view included. @returns when it is committed, or could not be */
  save(): Promise<void> {
    return this.keeper.save();
  }

  /** Saves the view soon; called with every move of the eye. */
  saveViewSoon(): void {
    this.keeper.saveViewSoon();
  }

  /** A picture for the jobs page, once what changed has been drawn. */
  keepPictureSoon(): void {
    this.keeper.keepPictureSoon();
  }
}
