import {
  emptySelection,
  isBrush,
  measure,
  operationById,
  type BroughtIn,
  type Logbook,
  type Operation,
  type Fix,
  type Params,
  type Part,
  type Selection
} from '@ulvrin/core';
import { comparedPart } from './compared.ts';
import { Findings } from './findings.svelte.ts';
import { OpenDocument } from '$lib/document/open-document.svelte.ts';
import { goingOn } from '$lib/draft/why-not.ts';
import { Draft } from '$lib/draft/draft.svelte.ts';
import { Forecast } from '$lib/draft/forecast.svelte.ts';
import { Laying } from '$lib/draft/laying.svelte.ts';
import { Picked } from '$lib/selection/picked.svelte.ts';
import type { JobRecord } from '$lib/platform/storage/database.ts';
import type { StoredJob } from '$lib/platform/storage/job-store.ts';
import { Background, BUSY } from '$lib/tasks/background.svelte.ts';
import { Notes, type Message } from './notes.svelte.ts';
import type { View } from './view.ts';

/** A plane that cuts the view open: a point on it, and how far it is moved from there, mm. */
export interface Section {
  point: [number, number, number];
  offset: number;
}

/**
 * The job on the page. Its document is what is kept; `picked` is what is picked, `draft` the open card, `laying` auto quads,
 * `background` the task that runs, `notes` what is told. Here they are put together, and what belongs to several is done.
 */
export class OpenJob {
  readonly notes = new Notes();
  readonly background = new Background(this.notes);
  readonly document: OpenDocument;
  readonly picked: Picked;
  readonly draft: Draft;
  readonly forecasts: Forecast;
  readonly findings: Findings;
  readonly laying: Laying;
  section: Section | undefined = $state.raw();
  /** level of the smooth surface that is really drawn; lower than asked for where that would be too much */
  shownLevel: number | undefined = $state();

  /** @param logbook of the same job, where it has been replayed already */
  constructor(stored: StoredJob, logbook?: Logbook) {
    const events = {
      changed: () => void (this.picked.isolated = undefined),
      adopted: () => {
        this.draft.close();
        this.picked.isolated = undefined;
        this.picked.settle();
      }
    };
    this.document = new OpenDocument(stored, this.notes, events, logbook);
    this.picked = new Picked(this.document, this.notes);
    this.laying = new Laying(this.document, this.picked, this.notes, this.background, (entry, used) => {
      this.draft.lastUsed.keep(operationById(this.document.entries.find((e) => e.id === entry)!.operation)!, used);
      this.draft.running = undefined;
      this.draft.open(entry);
    });
    this.draft = new Draft(this.document, this.picked, this.notes, this.background, (_operation, params) => void this.laying.lay(params));
    this.forecasts = new Forecast(this.document, this.picked, this.draft);
    this.findings = new Findings(this.document);
  }

  /** what the active part is compared with; nothing where it is not */
  compared = $derived.by(() => (this.view.compare === undefined ? undefined : comparedPart(this.document, this.view.compare)));
  measures = $derived.by(() => (this.active?.cage ? measure(this.active.cage) : undefined));

  // ---- what belongs to several

  start(operation: Operation): void {
    this.laying.strokeKind = 'none';
    this.draft.start(operation);
  }

  /** Begins the operation that mends a finding, on what it is picked for. */
  mend({ operation, params, pick }: Fix): void {
    this.pickMany(pick, 'instead');
    this.start(operationById(operation)!);
    if (this.running?.operation.id === operation && Object.keys(params).length > 0) this.setParams(params);
  }

  setParams(params: Params): void {
    this.draft.setParams(this.laying.completed(params));
  }

  /** Lays quads again with the open card's settings, as a new entry. */
  layAgain(params: Params): void {
    if (!this.draft.tellRefused()) void this.laying.lay(params);
  }

  /** Opens the card of an entry in force again. */
  reopen(id: number): void {
    this.laying.strokeKind = 'none';
    this.draft.reopen(id);
  }

  removePart(id: string): void {
    if (this.task) return this.notes.tell('error', BUSY);
    const { cursor } = this;
    this.document.removePart(id);
    if (this.cursor === cursor) return;
    this.draft.liveEntry = undefined;
    this.selection = emptySelection();
  }

  /** Puts a brought-in mesh into the job. */
  addBroughtIn(result: BroughtIn, fileName: string, as: 'reference' | 'cage', settings: Params): void {
    const { cursor } = this;
    this.document.addBroughtIn(result, fileName, as, settings);
    if (this.cursor !== cursor) this.selection = emptySelection();
  }

  undo(): void {
    // what is done in steps is taken back step by step
    if (!this.draft.stepBack()) this.travel('undo');
  }
  redo(): void {
    this.travel('redo');
  }
  /** Brings the job to the state after so many entries. */
  goTo(cursor: number): void {
    this.travel({ to: cursor });
  }

  /** Changes the list of entries; what is open is closed first. @returns whether it could be done */
  rework(change: (logbook: Logbook) => void): boolean {
    if (this.task) {
      this.notes.tell('error', BUSY);
      return false;
    }
    this.draft.close();
    const isDone = this.document.rework(change);
    if (isDone) this.picked.settle();
    return isDone;
  }

  private travel(step: 'undo' | 'redo' | { to: number }): void {
    if (this.task) return this.notes.tell('error', BUSY);
    const { message } = this.notes;
    if (!this.document.travel(step)) return;
    const { running } = this.draft;
    this.draft.close();
    // a brush stays in hand
    if (running && isBrush(running.operation) && (this.active?.cage || this.document.dense)) this.draft.running = goingOn(running);
    if (this.notes.message === message) this.notes.message = undefined;
    this.picked.settle();
  }

  /** Makes a part the one that operations work on; it is shown. */
  workOn(part: Part): void {
    this.view.activePart = part.id;
    if (this.hidden.includes(part.id)) this.toggleHidden(part);
    this.picked.pick(undefined, false);
    this.saveViewSoon();
  }

  /** Esc: closes the operation, then clears the selection. @returns whether there was anything to close */
  escape(): boolean {
    if (this.draft.escape() || this.picked.escape()) return true;
    if (this.draft.liveEntry === undefined) return false;
    this.draft.liveEntry = undefined;
    return true;
  }

  /** Ends what works for this job; called when the page leaves it. */
  end(): void {
    this.task?.stop();
    this.draft.end();
    this.forecasts.end();
    this.keeper.end();
  }

  // ---- what is asked for most, where it is

  get view(): View {
    return this.document.view;
  }
  get record(): JobRecord {
    return this.document.record;
  }
  get keeper() {
    return this.document.keeper;
  }
  get version(): number {
    return this.document.version;
  }
  get entries() {
    return this.document.entries;
  }
  get cursor(): number {
    return this.document.cursor;
  }
  get name(): string {
    return this.document.name;
  }
  get sets() {
    return this.document.sets;
  }
  get hidden() {
    return this.document.hidden;
  }
  get undoes(): string | undefined {
    return this.document.undoes;
  }
  get redoes(): string | undefined {
    return this.document.redoes;
  }
  get parts(): readonly Part[] {
    return this.document.parts;
  }
  get active(): Part | undefined {
    return this.document.active;
  }
  get reference(): Part | undefined {
    return this.document.reference;
  }
  get lookingOn(): string | undefined {
    return this.document.lookingOn;
  }
  get selection(): Selection {
    return this.picked.selection;
  }
  set selection(selection: Selection) {
    this.picked.selection = selection;
  }
  get isolated(): number[] | undefined {
    return this.picked.isolated;
  }
  get running() {
    return this.draft.running;
  }
  /** the paint that the running operation is seen by, by id */
  get shows(): string | undefined {
    const operation = this.running?.operation;
    return operation?.kind === 'cage' ? operation.shows : undefined;
  }
  get preview() {
    return this.draft.preview;
  }
  get pointing() {
    return this.draft.pointing;
  }
  get laterFound(): string | undefined {
    return this.draft.laterFound;
  }
  get forecast(): string | undefined {
    return this.forecasts.text;
  }
  get task() {
    return this.background.task;
  }
  get message(): Message | undefined {
    return this.notes.message;
  }
  set message(message: Message | undefined) {
    this.notes.message = message;
  }

  tell(kind: Message['kind'], text: string): void {
    this.notes.tell(kind, text);
  }
  whyNot(operation: Operation): string | undefined {
    return this.draft.whyNot(operation);
  }
  apply(goOn = false): void {
    this.draft.apply(goOn);
  }
  discard(): void {
    this.draft.discard();
  }
  repeat(): void {
    this.draft.repeat();
  }
  pick(picked: Selection | undefined, add: boolean): void {
    this.picked.pick(picked, add);
  }
  pickMany(picked: Selection, how: 'instead' | 'add' | 'take'): void {
    this.picked.pickMany(picked, how);
  }
  isolate(): void {
    this.picked.isolate();
  }
  keepSet(name: string): void {
    this.picked.keepSet(name);
  }
  rename(name: string): void {
    this.document.rename(name);
  }
  toggleHidden(part: Part): void {
    this.document.toggleHidden(part);
  }
  save(): Promise<void> {
    return this.document.save();
  }
  saveViewSoon(): void {
    this.document.saveViewSoon();
  }
}
