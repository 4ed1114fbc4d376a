import {
  applyOperation,
  applyPartsOperation,
  applySurfaceOperation,
  asPreviewed,
  Cage,
  emptySelection,
  fieldsOf,
  filledOnReference,
  isStored,
  LONG,
  meshAsPreviewed,
  onlyMoved,
  operationById,
  otherCages,
  plainParts,
  refuse,
  secondsFor,
  startShape,
  surroundings,
  takenUp,
  validParams,
  worksLive,
  type CageOperation,
  type Entry,
  type JobState,
  type LiveOperation,
  type NamedCage,
  type NewEntry,
  type Operation,
  type Params,
  type Part,
  type PartsOperation,
  type Performed,
  type PointedPlace,
  type Replayed,
  type Selection,
  type ShapeOperation,
  type SurfaceOperation
} from '@ulvrin/core';
import type { OpenDocument } from '$lib/document/open-document.svelte.ts';
import type { Notes } from '$lib/job/notes.svelte.ts';
import { refusalOf } from '$lib/job/refusal-of.ts';
import type { Picked } from '$lib/selection/picked.svelte.ts';
import type { Background } from '$lib/tasks/background.svelte.ts';
import { RunningTask } from '$lib/tasks/task-runner.svelte.ts';
import { LivePreview } from './live-preview.ts';
import type { Preview, Running } from './preview.ts';
import { SlowPreview } from './slow-preview.svelte.ts';
import { LastUsed } from './last-used.ts';
import { goingOn, paramsToBegin, stepsOf, whyNot } from './why-not.ts';

/** The operation whose card is open: before it is applied with its preview, and afterwards as long as its entry can be changed. */
export class Draft {
  running: Running | undefined = $state.raw();
  /** what was typed into fields of the card that cannot be taken, by field: it stays there, and nothing is made until it is mended */
  refused: Record<string, { typed: string; why: string }> = $state({});
  /** the entry whose card stays open until the next operation */
  liveEntry: number | undefined = $state();
  /** the handle moves the pivot alone */
  movingPivot = $state(false);
  /** the directions of the view, for operations that take them when they begin */
  viewAxes?: () => [number, number, number][];
  readonly lastUsed = new LastUsed();
  /** the open card changed its entry already: what follows is part of the same step */
  private ongoing = false;
  private readonly slow = new SlowPreview();
  private readonly live = new LivePreview();

  constructor(
    private readonly document: OpenDocument,
    private readonly picked: Picked,
    private readonly notes: Notes,
    private readonly background: Background,
    /** does what only a task can: it stores its result itself */
    private readonly runTask: (operation: Operation, params: Params) => void
  ) {}

  // ---- what it would do

  /** Seconds the running operation may take, where these are too many to preview it. */
  takesLong = $derived.by((): number | undefined => {
    const { running } = this;
    const { active } = this.document;
    if (!running || !active?.cage || isStored(running.operation) || running.operation.kind === 'shape') return undefined;
    if (worksLive(running.operation, running.params)) return undefined;
    const seconds = secondsFor(running.operation, active.cage, this.picked.selection, running.params);
    return seconds < LONG ? undefined : seconds;
  });

  /** What the running operation would do now: its cage, or why it cannot. */
  preview = $derived.by((): Preview | undefined => {
    const { running } = this;
    const { active, dense, parts } = this.document;
    if (running && dense?.mesh) return this.live.ofMesh(running, dense.mesh);
    if (!running || !active?.cage) return undefined;
    const { operation, params } = running;
    if (isStored(operation) || operation.kind === 'shape') return undefined;
    if (this.takesLong) return this.slowPreview(running, active);
    try {
      if (worksLive(operation, params)) return this.livePreview(operation, active.cage, params);
      if (operation.kind === 'surface') {
        const { surface, notes } = applySurfaceOperation(operation, active.cage, active, params);
        return { surface, notes, moves: false };
      }
      const { cage, selection, notes } =
        operation.kind === 'cage'
          ? applyOperation(operation, active.cage, this.picked.selection, params, surroundings(parts, active))
          : applyPartsOperation(operation, active as NamedCage, otherCages(parts, active.id), this.picked.selection, params);
      return { cage, selection, notes, moves: onlyMoved(active.cage, cage) };
    } catch (error) {
      return { refusal: refusalOf(error), moves: operation.kind === 'cage' && operation.handle !== undefined };
    }
  });

  /** What its numbers come to live: what they move alone is touched. */
  private livePreview(operation: LiveOperation, cage: Cage, params: Params): Preview {
    const { selection } = this.picked;
    const valid = validParams(operation, params);
    const around = surroundings(this.document.parts, this.document.active!);
    const refusal = operation.check(cage, selection, valid, around);
    if (refusal) return { refusal, moves: true };
    return this.live.stepped(operation, cage, selection, valid, around.reference);
  }

  /** The parts as they are shown: a level plan that is tried out counts already. */
  shownParts = $derived.by((): readonly Part[] => {
    const { preview } = this;
    const { active, parts } = this.document;
    return preview?.surface && active ? parts.map((p) => (p === active ? { ...p, ...preview.surface } : p)) : parts;
  });

  /** What is being pointed at, and how, while an operation runs that takes points. */
  pointing = $derived.by((): { kind: NonNullable<Operation['pointed']>; places: PointedPlace[] } | undefined => {
    const kind = this.running?.operation.pointed;
    return kind && { kind, places: (this.running!.params.points as PointedPlace[] | undefined) ?? [] };
  });

  /** What the entries after the one whose card is open came to. */
  laterFound = $derived.by((): string | undefined => {
    const index = this.document.entries.findIndex((e) => e.id === this.liveEntry);
    return index < 0 ? undefined : this.document.later(index);
  });

  /** Has the running operation previewed in the background, where it takes long. */
  previewSlowly(): void {
    const { running } = this;
    const { active, state } = this.document;
    if (!running || !active || !this.takesLong || this.background.task) return;
    const asked = { running, state, selection: this.picked.selection };
    if (this.slow.for(asked)) return;
    try {
      void this.slow.ask(asked, this.document.prepared(this.entryFor(running.operation, active, running.params)));
    } catch {
      // a parameter that cannot be taken is told at its field
    }
  }

  /** What came of it, as a preview; nothing while it is under way. */
  private slowPreview(running: Running, active: Part): Preview | undefined {
    const made = this.slow.for({ running, state: (void this.document.version, this.document.state), selection: this.picked.selection });
    if (!made) return undefined;
    if (made.refusal) return { refusal: made.refusal, moves: false };
    const { state, selection, notes } = made.result!;
    const cage = state.parts.find((p) => p.id === active.id)?.cage;
    return { cage, selection, notes: [...notes], moves: false };
  }

  /** Why an operation cannot start on what is picked now; nothing where it can. */
  whyNot(operation: Operation): string | undefined {
    if (this.document.lookingOn) return this.document.lookingOn;
    return this.background.task ? 'A task is running: stop it, or wait.' : whyNot(operation, this.document, this.picked.selection);
  }

  // ---- doing it

  start(operation: Operation): void {
    const why = this.whyNot(operation);
    if (why) return this.notes.tell('error', `${operation.name}: ${why}`);
    if (stepsOf(this.running, 'acts').length > 0) this.apply();
    if (filledOnReference(operation) && !this.document.active?.cage) this.addShape(startShape, { shape: 'empty' });
    this.notes.message = undefined;
    this.liveEntry = undefined;
    const params = { ...paramsToBegin(operation, this.document, this.lastUsed.for(operation)), ...this.viewOf(operation) };
    if (operation.kind === 'cage' && operation.atOnce) this.commit(operation, params);
    else this.running = { operation, params };
  }

  private viewOf(operation: Operation): Params {
    return operation.kind === 'cage' && operation.takesView && this.viewAxes ? { view: this.viewAxes() } : {};
  }

  /** Changes numbers of the running operation, or of the entry whose card is open. */
  setParams(params: Params): void {
    if (this.running) this.running = { ...this.running, params: { ...this.running.params, ...params } };
    else if (this.liveEntry !== undefined) this.editLive(params);
  }

  private editLive(params: Params): void {
    const { document } = this;
    const index = document.entries.findIndex((e) => e.id === this.liveEntry);
    if (index < 0 || this.background.task) return;
    const entry = document.entries[index];
    const operation = operationById(entry.operation);
    const changed = { ...entry.params, ...$state.snapshot(params) };
    const before = document.stateBefore(index);
    const cage = before.parts.find((p) => p.id === entry.part)?.cage ?? (operation?.kind === 'shape' ? new Cage() : undefined);
    if (!operation || !cage || secondsFor(operation, cage, entry.selection, changed) < LONG)
      return document.attempt(() => this.edited(index, changed));
    const isStill = () => document.entries[index] === entry;
    void this.performElsewhere(operation, before, { ...entry, params: changed }, isStill, (made) => this.edited(index, changed, made));
  }

  private edited(index: number, params: Params, result?: Replayed): void {
    this.document.edit(index, params, this.ongoing, result);
    this.ongoing = true;
    this.notes.message = undefined;
  }

  /** The last operation once more, with the same numbers, on what is picked now. */
  repeat(): void {
    const { entries, cursor } = this.document;
    const last = entries.slice(0, cursor).findLast((e) => operationById(e.operation)?.kind === 'cage');
    if (!last) return this.notes.tell('info', 'There is nothing to repeat yet.');
    this.commit(operationById(last.operation) as CageOperation, last.params);
  }

  /** @param goOn begin the next one on the result, where the operation is made for that */
  apply(goOn = false): void {
    const { running } = this;
    if (!running || this.tellRefused()) return;
    const { operation, params } = running;
    if (operation.kind === 'cage' && operation.tries) return this.discard();
    if (operation.kind === 'task') return this.runTask(operation, params);
    if (operation.kind === 'shape') return this.addShape(operation, params);
    if (operation.kind === 'file') return;
    this.commit(operation, params);
    if (goOn && operation.goesOn && operation.kind === 'cage' && this.running === undefined) this.running = goingOn(running);
  }

  /** Opens the card of an entry in force again. */
  reopen(id: number): void {
    this.running = undefined;
    this.open(id, false);
  }

  /** Opens the card of an entry. @param ongoing what is changed there is part of the step that made it */
  open(id: number, ongoing = true): void {
    this.liveEntry = id;
    this.ongoing = ongoing;
  }

  discard(): void {
    this.slow.end();
    this.live.end();
    this.running = undefined;
    this.movingPivot = false;
  }

  /** Closes the card: its operation is not done, or its entry stays as it is. */
  close(): void {
    this.running = undefined;
    this.liveEntry = undefined;
  }

  /** Esc: closes the operation; what was laid by hand is kept. @returns whether there was one */
  escape(): boolean {
    if (!this.running) return false;
    if (stepsOf(this.running, 'acts').length > 0) this.apply();
    else this.discard();
    return true;
  }

  /** Takes back the last step of an operation that is done in steps. @returns whether there was one */
  stepBack(): boolean {
    const name = ['acts', 'clicks', 'strokes', 'points'].find((own) => stepsOf(this.running, own).length > 0);
    if (name) this.setParams({ [name]: stepsOf(this.running, name).slice(0, -1) });
    return name !== undefined;
  }

  private commit(operation: CageOperation | PartsOperation | SurfaceOperation, params: Params): void {
    const { active, dense } = this.document;
    if (dense) return this.commitToMesh(operation, params, dense);
    if (!active?.cage) return;
    const { cage } = active;
    this.document.attempt(() => {
      const entry = this.entryFor(operation, active, params);
      const made = this.previewed(operation, params, entry);
      if (made || secondsFor(operation, cage, this.picked.selection, params) < LONG) this.committed(operation, entry, made);
      else this.commitInBackground(operation, entry);
    });
  }

  /** An entry on a dense mesh: what its preview made is taken up. */
  private commitToMesh(operation: Operation, params: Params, dense: Part): void {
    const { mesh, notes = [] } = this.preview ?? {};
    this.document.attempt(() => {
      const made = mesh && meshAsPreviewed(this.document.state, dense.id, { mesh, notes });
      this.committed(operation, this.entryFor(operation, dense, params), made);
    });
  }

  /** What the preview of an entry made, in a worker or here, where it shows just that, with these numbers: it is not done again. */
  private previewed(operation: Operation, params: Params, entry: NewEntry): Replayed | undefined {
    const { running, preview } = this;
    if (running?.operation !== operation || running.params !== params) return undefined;
    const { state } = this.document;
    const slow = this.slow.for({ running, state, selection: this.picked.selection });
    if (slow?.result) return slow.result;
    if (operation.kind !== 'cage' || !preview?.cage) return undefined;
    return asPreviewed(state, entry, { cage: preview.cage, selection: preview.selection!, notes: preview.notes! });
  }

  private entryFor(operation: Operation, active: Part, params: Params): NewEntry {
    const valid = validParams(operation, $state.snapshot(params));
    return {
      operation: operation.id,
      part: active.id,
      params: valid,
      selection: structuredClone($state.snapshot(this.picked.selection)) as Selection
    };
  }

  /** Does it in a worker, with Stop: nothing is changed until it is done. */
  private commitInBackground(operation: Operation, entry: NewEntry): void {
    if (this.background.task) return;
    const { document } = this;
    const { state } = document;
    this.slow.end();
    const isStill = () => document.state === state;
    void this.performElsewhere(operation, state, document.prepared(entry), isStill, (result) => this.committed(operation, entry, result));
  }

  /** Does an entry in a worker, with Stop. @param isStill whether what it was done on is there when it comes back */
  private performElsewhere(
    operation: Operation,
    state: JobState,
    entry: Entry,
    isStill: () => boolean,
    taken: (made: Replayed) => void
  ): Promise<void> {
    const task = new RunningTask<Performed>(operation.name, (tasks, tell) => tasks.perform(plainParts(state), entry, tell));
    return this.background.run(task, (performed) => {
      if (!isStill()) refuse(`${operation.name}: the job was changed while it ran, so nothing was done.`, undefined, 'Apply it again.');
      taken(takenUp(state, performed));
    });
  }

  private committed(operation: Operation, given: NewEntry, result?: Replayed): void {
    const entry = this.document.add(given, { result });
    this.running = undefined;
    this.live.end();
    this.movingPivot = false;
    this.lastUsed.keep(operation, entry.params);
    this.open(entry.id);
    this.picked.selection = this.document.picked;
    if (entry.notes.length > 0) this.notes.tell('info', entry.notes.join(' '));
  }

  private addShape(operation: ShapeOperation, params: Params): void {
    const { document } = this;
    document.attempt(() => {
      const valid = validParams(operation, params);
      const label = fieldsOf(operation)[0].choices?.find((c) => c.value === valid.shape)?.label;
      const entry: NewEntry = {
        operation: operation.id,
        part: crypto.randomUUID(),
        params: valid,
        selection: emptySelection(),
        makes: { name: document.freeName(label ?? `${document.dense?.name ?? 'New'} cage`), kind: 'cage' },
        // an empty one is begun for what is laid into it next
        ...(!label && { name: 'New cage' })
      };
      if (secondsFor(operation, new Cage(), entry.selection, valid) < LONG) return this.shapeAdded(operation, entry);
      const { state } = document;
      const isStill = () => document.state === state;
      void this.performElsewhere(operation, state, document.prepared(entry), isStill, (made) => this.shapeAdded(operation, entry, made));
    });
  }

  private shapeAdded(operation: Operation, given: NewEntry, result?: Replayed): void {
    const entry = this.document.add(given, { result, activate: true });
    this.lastUsed.keep(operation, given.params);
    this.running = undefined;
    this.open(entry.id);
    this.picked.selection = emptySelection();
  }

  /** Says again what a field of the card cannot take. @returns whether there is one */
  tellRefused(): boolean {
    const [first] = Object.values(this.refused);
    if (first) this.notes.tell('error', first.why);
    return first !== undefined;
  }

  /** Gives up what is under way; called when the page leaves the job. */
  end(): void {
    this.slow.end();
  }
}
