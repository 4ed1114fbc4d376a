import {
  applyOperation,
  applyPartsOperation,
  applySurfaceOperation,
  asPreviewed,
  autoQuadsOptions,
  checkPartsOperation,
  describeForecast,
  describeLoops,
  describeMove,
  emptySelection,
  FEWEST_QUADS,
  facesAround,
  facesOf,
  fieldsOf,
  forecast,
  selectFaces,
  isEmpty,
  Logbook,
  LONG,
  measure,
  onlyPresent,
  describeLater,
  otherCages,
  patchOf,
  plainParts,
  refuse,
  secondsFor,
  takenUp,
  onlyMoved,
  surroundings,
  united,
  operationById,
  REMOVE_PART,
  toggled,
  validParams,
  without,
  type Laid,
  type LookAhead,
  type BroughtIn,
  Cage,
  type CageOperation,
  type DocumentSettings,
  type Entry,
  type JobState,
  type Forecast,
  type NamedCage,
  type NewEntry,
  type Performed,
  type Replayed,
  type Operation,
  type Params,
  type Part,
  type PartsOperation,
  type PointedPlace,
  type PolygonMesh,
  type Refusal,
  type Selection,
  type SurfaceOperation,
  type SurfaceSettings,
  type PlannedPole
} from '@ulvrin/core';
import { proxy } from 'comlink';
import { RunningTask, TaskStopped, workAhead } from '$lib/tasks/task-runner.svelte.ts';
import { DocumentKeeper } from '$lib/document/document-keeper.svelte.ts';
import type { Snapshot } from '$lib/document/save-queue.ts';
import { logbookOf } from '$lib/document/opened-logbook.ts';
import { MoveMeter, type Change } from '$lib/draft/move-meter.svelte.ts';
import { SlowPreview } from '$lib/draft/slow-preview.svelte.ts';
import type { JobRecord } from '$lib/storage/database.ts';
import type { StoredJob } from '$lib/storage/job-store.ts';
import { bareArea, polygonsOf, type BareArea } from './bare-area.ts';
import { refusalOf } from './refusal-of.ts';
import type { Steering, StrokeKind } from './steering.ts';
import { MOVES, usedAgain } from './used-again.ts';
import { countsOf, restoredView, type View } from './view.ts';

/** Something the page tells: what was found, where, what to do. */
export interface Message {
  kind: 'error' | 'info';
  text: string;
  /** elements it is about, to be shown on the stand */
  where?: Selection;
}

/** An operation whose card is open and that is not applied yet. */
export interface Running {
  operation: Operation;
  params: Params;
}

/** Operations that run at once when their key is pressed; their card stays open afterwards. */
const AT_ONCE = new Set(['delete', 'dissolve', 'flip', 'clear-creases', 'take-out-brace']);

/** What is told to whoever would change the job under a task. */
const BUSY = 'A task is running: stop it first, or wait until it is done.';

/** Surfaces with more faces are laid by the server. */
const MOST_IN_BROWSER = 2_000_000;

export const startParams = (operation: Operation): Params => validParams(operation, {});

/** The job on the page: its logbook, what is picked, the running operation, and saving it all as it happens. */
export class OpenJob {
  view: View = $state(restoredView(undefined));
  selection: Selection = $state.raw(emptySelection());
  running: Running | undefined = $state.raw();
  /** what was typed into fields of the card that cannot be taken, by field: it stays there, and nothing is made until it is mended */
  refused: Record<string, { typed: string; why: string }> = $state({});
  /** the entry whose card stays open until the next operation */
  liveEntry: number | undefined = $state();
  message: Message | undefined = $state.raw();
  task: RunningTask<unknown> | undefined = $state.raw();
  isolated: number[] | undefined = $state.raw();
  section: { point: [number, number, number]; offset: number } | undefined = $state.raw();
  /** level of the smooth surface that is really drawn; lower than asked for where that would be too much */
  shownLevel: number | undefined = $state();
  /** what the pointer is over */
  hovered: Selection | undefined;
  /** counts up with every change of the logbook */
  version = $state(0);
  private logbook: Logbook;
  record: JobRecord;
  readonly keeper: DocumentKeeper;
  /** the open card changed its entry already: what follows is part of the same step */
  private ongoing = false;
  takePicture?: () => Promise<string>;
  /** parameters an operation takes from the stand when it begins: the directions of the view */
  standParams?: (operation: Operation) => Params;
  /** handles move the pivot alone */
  movingPivot = $state(false);
  lastUsed = new Map<string, Params>();

  /** strokes that steer auto quads, while its card is open */
  steering: Steering | undefined = $state.raw();
  polePlan: PlannedPole[] | undefined = $state.raw();
  /** what dragging draws; kept while a task takes the card's place */
  strokeKind: StrokeKind = $state('none');

  /** @param logbook of the same job, where it has been replayed already */
  constructor(stored: StoredJob, logbook = logbookOf(stored)) {
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
      tell: (kind, text) => this.tell(kind, text)
    });
  }

  // ---- reading

  entries = $derived.by(() => (void this.version, this.logbook.entries));
  cursor = $derived.by(() => (void this.version, this.logbook.cursor));
  name = $derived.by(() => (void this.version, this.logbook.settings.name));
  sets = $derived.by(() => (void this.version, this.logbook.settings.sets));
  /** ids of parts that are not shown */
  hidden = $derived.by(() => (void this.version, this.logbook.settings.hidden));
  /** what the entries after the one whose card is open came to */
  laterFound = $derived.by((): string | undefined => {
    const index = this.entries.findIndex((e) => e.id === this.liveEntry);
    return index < 0 ? undefined : describeLater(this.logbook, index);
  });
  /** what undo would take back, and redo do again */
  undoes = $derived.by(() => (void this.version, this.logbook.undoes));
  redoes = $derived.by(() => (void this.version, this.logbook.redoes));
  parts = $derived.by((): readonly Part[] => (void this.version, this.logbook.state.parts));
  active = $derived.by((): Part | undefined => this.parts.find((p) => p.id === this.view.activePart && p.kind === 'cage'));
  reference = $derived.by(
    (): Part | undefined =>
      this.parts.find((p) => p.kind === 'reference' && !this.hidden.includes(p.id)) ?? this.parts.find((p) => p.kind === 'reference')
  );
  /** what auto quads is laid over: the reference, or else the active cage */
  underQuads = $derived.by((): Part | undefined => this.reference ?? this.active);
  measures = $derived.by(() => (this.active?.cage ? measure(this.active.cage) : undefined));

  /** Seconds the running operation may take, where these are too many to preview it. */
  takesLong = $derived.by((): number | undefined => {
    const { running, active } = this;
    if (!running || !active?.cage || running.operation.kind === 'source' || running.operation.kind === 'shape') return undefined;
    const seconds = secondsFor(running.operation, active.cage, this.selection, running.params);
    return seconds < LONG ? undefined : seconds;
  });

  private readonly slow = new SlowPreview();

  /** Has the running operation previewed in the background, where it takes long. */
  previewSlowly(): void {
    const { running, active } = this;
    if (!running || !active || !this.takesLong || this.task) return;
    const asked = { running, state: this.logbook.state, selection: this.selection };
    if (this.slow.for(asked)) return;
    try {
      void this.slow.ask(asked, this.logbook.prepared(this.entryFor(running.operation, active, running.params)));
    } catch {
      // a parameter that cannot be taken is told at its field
    }
  }

  /** What came of it, as a preview; nothing while it is under way. */
  private slowPreview(running: Running, active: Part) {
    const made = this.slow.for({ running, state: (void this.version, this.logbook.state), selection: this.selection });
    if (!made) return undefined;
    if (made.refusal) return { refusal: made.refusal, moves: false };
    const { state, selection, notes } = made.result!;
    const cage = state.parts.find((p) => p.id === active.id)?.cage;
    return { cage, selection, notes: [...notes], moves: false };
  }

  /** What the running operation would do now: its cage, or why it cannot. */
  preview = $derived.by(
    (): { cage?: Cage; selection?: Selection; notes?: string[]; refusal?: Refusal; moves: boolean; surface?: SurfaceSettings } | undefined => {
      const { running, active } = this;
      if (!running || !active?.cage || running.operation.kind === 'shape' || running.operation.kind === 'source') return undefined;
      if (this.takesLong) return this.slowPreview(running, active);
      try {
        if (running.operation.kind === 'surface') {
          const { surface, notes } = applySurfaceOperation(running.operation, active.cage, active, running.params);
          return { surface, notes, moves: false };
        }
        const { cage, selection, notes } =
          running.operation.kind === 'cage'
            ? applyOperation(running.operation, active.cage, this.selection, running.params, surroundings(this.parts, active))
            : applyPartsOperation(running.operation, active as NamedCage, otherCages(this.parts, active.id), this.selection, running.params);
        return { cage, selection, notes, moves: onlyMoved(active.cage, cage) };
      } catch (error) {
        return { refusal: refusalOf(error), moves: MOVES.has(running.operation.id) };
      }
    }
  );

  /** The parts as they are shown: a level plan that is tried out counts already. */
  shownParts = $derived.by((): readonly Part[] => {
    const { preview, active } = this;
    return preview?.surface && active ? this.parts.map((p) => (p === active ? { ...p, ...preview.surface } : p)) : this.parts;
  });

  /** The parts as they were before the last entry in force. */
  partsBefore = $derived.by((): readonly Part[] => (void this.version, this.cursor > 0 ? this.logbook.stateBefore(this.cursor - 1).parts : []));

  /** What is being pointed at, and how, while an operation runs that takes points. */
  pointing = $derived.by((): { kind: NonNullable<Operation['pointed']>; places: PointedPlace[] } | undefined => {
    const kind = this.running?.operation.pointed;
    return kind && { kind, places: (this.running!.params.points as PointedPlace[] | undefined) ?? [] };
  });

  /** What the running operation would bring. */
  change = $derived.by((): Forecast | undefined => {
    const { preview, active } = this;
    if (!preview?.cage || !active?.cage || (this.running && MOVES.has(this.running.operation.id))) return undefined;
    return forecast(active.cage, preview.cage);
  });

  private readonly meter = new MoveMeter();
  /** the smooth surface before and after the running operation; nothing where it tells no forecast */
  private surfaceChange = $derived.by((): Change | undefined => {
    const { preview, active } = this;
    if (!active?.cage || !(preview?.surface || this.change)) return undefined;
    const settingsOf = ({ scheme, borderCorners, plan }: SurfaceSettings): SurfaceSettings => ({ scheme, borderCorners, plan });
    return {
      before: active.cage,
      after: preview?.cage ?? active.cage,
      settings: settingsOf(active),
      settingsAfter: settingsOf(preview?.surface ?? active)
    };
  });

  /** Has it measured how far the smooth surface would move. */
  measureMove(): void {
    if (this.surfaceChange && !this.task) void this.meter.ask(this.surfaceChange);
  }

  /** The same as sentences, with the loops concerned and what the operation itself tells: a spiral is seen before the act. */
  forecast = $derived.by((): string | undefined => {
    const { preview, active, change } = this;
    const moved = this.meter.of(this.surfaceChange);
    if (preview?.surface) return [moved === undefined ? '' : `Forecast: ${describeMove(moved)}.`, ...preview.notes!].filter(Boolean).join(' ');
    if (!change || !preview?.cage || !active?.cage) return undefined;
    const [was, will] = [describeLoops(active.cage, this.selection.edges), describeLoops(preview.cage, preview.selection!.edges)];
    const loops = preview.moves ? undefined : was && will ? `Loop before: ${was}; after: ${will}.` : will ? `Loop after: ${will}.` : undefined;
    return [describeForecast(change, moved), loops, ...preview.notes!].filter(Boolean).join(' ');
  });

  /** Why an operation cannot start on what is picked now; nothing where it can. */
  whyNot(operation: Operation): string | undefined {
    if (this.lookingOn) return this.lookingOn;
    if (this.task) return 'A task is running: stop it, or wait.';
    if (operation.id === 'auto-quads') return this.underQuads ? undefined : operation.needs;
    if (operation.kind === 'shape' || operation.kind === 'source') return undefined;
    if (!this.active?.cage) return 'It needs a cage: lay quads, bring one in, or add a start shape.';
    // a face can be drawn from a vertex on its own; other pointed operations need faces to point at
    const { faceCount, vertexCount } = this.active.cage;
    if (operation.pointed) return (operation.pointed === 'corners' ? vertexCount : faceCount) > 0 ? undefined : operation.needs;
    const refusal =
      operation.kind === 'surface'
        ? operation.check(this.active.cage, operation.paramsOf(this.active))
        : operation.kind === 'cage'
          ? operation.check(this.active.cage, this.selection, startParams(operation), surroundings(this.parts, this.active))
          : checkPartsOperation(operation, this.active as NamedCage, otherCages(this.parts, this.active.id), this.selection, startParams(operation));
    if (refusal?.numbers) return undefined;
    return refusal && [refusal.found, refusal.instead].filter(Boolean).join(' ');
  }

  // ---- operations

  start(operation: Operation): void {
    this.strokeKind = 'none';
    const why = this.whyNot(operation);
    if (why) return this.tell('error', `${operation.name}: ${why}`);
    this.message = undefined;
    this.liveEntry = undefined;
    const params = {
      ...startParams(operation),
      ...this.lastUsed.get(operation.id),
      ...(operation.pointed && { points: [] }),
      ...(operation.kind === 'surface' && this.active && operation.paramsOf(this.active)),
      ...this.standParams?.(operation)
    };
    if (operation.kind === 'cage' && AT_ONCE.has(operation.id)) this.commit(operation, params);
    else this.running = { operation, params };
  }

  setParams(params: Params): void {
    // quads that are laid again are wanted as many as there are
    if (params.over === 'picked' && this.active?.cage)
      params = { ...params, by: 'count', count: Math.max(FEWEST_QUADS, facesOf(this.active.cage, this.selection).length) };
    if (this.running) this.running = { ...this.running, params: { ...this.running.params, ...params } };
    else if (this.liveEntry !== undefined) this.editLive(params);
  }

  private editLive(params: Params): void {
    const index = this.entries.findIndex((e) => e.id === this.liveEntry);
    if (index < 0 || this.task) return;
    const entry = this.entries[index];
    const operation = operationById(entry.operation);
    const changed = { ...entry.params, ...$state.snapshot(params) };
    const before = this.logbook.stateBefore(index);
    const cage = before.parts.find((p) => p.id === entry.part)?.cage ?? (operation?.kind === 'shape' ? new Cage() : undefined);
    if (!operation || !cage || secondsFor(operation, cage, entry.selection, changed) < LONG) return this.attempt(() => this.edited(index, changed));
    const isStill = () => this.entries[index] === entry;
    void this.performElsewhere(operation, before, { ...entry, params: changed }, isStill, (made) => this.edited(index, changed, made));
  }

  private edited(index: number, params: Params, result?: Replayed): void {
    this.logbook.edit(index, params, this.ongoing, result);
    this.ongoing = true;
    this.message = undefined;
    this.changed();
  }

  /** The last operation once more, with the same numbers, on what is picked now. */
  repeat(): void {
    const last = this.entries.slice(0, this.cursor).findLast((e) => operationById(e.operation)?.kind === 'cage');
    if (!last) return this.tell('info', 'Repeat: nothing has been done yet that can be repeated.');
    this.commit(operationById(last.operation) as CageOperation, last.params);
  }

  /** @param goOn begin the next one on the result, where the operation is made for that */
  apply(goOn = false): void {
    const { running } = this;
    if (!running || this.tellRefused()) return;
    if (goOn && running.operation.goesOn && running.operation.kind === 'cage') {
      this.commit(running.operation, running.params);
      if (this.running === undefined) this.running = running;
      return;
    }
    if (running.operation.id === 'auto-quads') return void this.layAutoQuads(running.params);
    if (running.operation.kind === 'shape') return this.addShape(running.params);
    if (running.operation.kind !== 'source') this.commit(running.operation, running.params);
  }

  /** Opens the card of an entry in force again. */
  reopen(id: number): void {
    this.strokeKind = 'none';
    this.running = undefined;
    this.open(id, false);
  }

  /** Opens the card of an entry. @param ongoing what is changed there is part of the step that made it */
  private open(id: number, ongoing = true): void {
    this.liveEntry = id;
    this.ongoing = ongoing;
  }

  discard(): void {
    this.slow.end();
    this.running = undefined;
    this.movingPivot = false;
  }

  private commit(operation: CageOperation | PartsOperation | SurfaceOperation, params: Params): void {
    const { active } = this;
    if (!active?.cage) return;
    if (secondsFor(operation, active.cage, this.selection, params) >= LONG) return void this.commitInBackground(operation, active, params);
    this.attempt(() => {
      const entry = this.entryFor(operation, active, params);
      this.committed(operation, entry, this.asPreviewed(operation, params, entry));
    });
  }

  /** What the preview of an entry made, where it shows just that, with these numbers: it is not done again. */
  private asPreviewed(operation: Operation, params: Params, entry: NewEntry): Replayed | undefined {
    const { running, preview } = this;
    if (operation.kind !== 'cage' || running?.operation !== operation || running.params !== params || !preview?.cage) return undefined;
    return asPreviewed(this.logbook.state, entry, { cage: preview.cage, selection: preview.selection!, notes: preview.notes! });
  }

  private entryFor(operation: Operation, active: Part, params: Params): NewEntry {
    const valid = validParams(operation, $state.snapshot(params));
    return { operation: operation.id, part: active.id, params: valid, selection: structuredClone($state.snapshot(this.selection)) as Selection };
  }

  /** The same in a worker, with Stop: nothing is changed until it is done. */
  private async commitInBackground(operation: Operation, active: Part, params: Params): Promise<void> {
    if (this.task) return;
    const { state } = this.logbook;
    let entry: NewEntry | undefined;
    this.attempt(() => (entry = this.entryFor(operation, active, params)));
    if (!entry) return;
    const made = this.running && this.slow.for({ running: this.running, state, selection: this.selection });
    this.slow.end();
    // what was previewed is not done again
    if (made?.result) return this.attempt(() => this.committed(operation, entry!, made.result));
    const isStill = () => this.logbook.state === state;
    await this.performElsewhere(operation, state, this.logbook.prepared(entry), isStill, (result) => this.committed(operation, entry!, result));
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
    return this.background(task, (performed) => {
      if (!isStill()) refuse(`${operation.name}: the job was changed while it ran, so nothing was done.`, undefined, 'Apply it again.');
      taken(takenUp(state, performed));
    });
  }

  /** Shows a task on the card until it ends; what comes of it is taken up, what went wrong is told. */
  private async background<Result>(task: RunningTask<Result>, taken: (result: Result) => void): Promise<void> {
    this.task = task as RunningTask<unknown>;
    try {
      const result = await task.result;
      this.attempt(() => taken(result));
    } catch (error) {
      this.tell(error instanceof TaskStopped ? 'info' : 'error', error instanceof Error ? error.message : String(error));
    } finally {
      this.task = undefined;
    }
  }

  private committed(operation: Operation, given: NewEntry, result?: Replayed): void {
    const entry = this.logbook.add(given, undefined, result);
    this.running = undefined;
    this.movingPivot = false;
    // a typed shift or turn is meant once; widths and counts are wanted again
    this.lastUsed.set(operation.id, usedAgain(operation, entry.params));
    this.open(entry.id);
    this.isolated = undefined;
    this.changed();
    this.selection = this.logbook.selection;
    if (entry.notes.length > 0) this.tell('info', entry.notes.join(' '));
  }

  private addShape(params: Params): void {
    const operation = operationById('start-shape')!;
    this.attempt(() => {
      const valid = validParams(operation, params);
      const label = fieldsOf(operation)[0].choices?.find((c) => c.value === valid.shape)?.label ?? 'Shape';
      const entry: NewEntry = {
        operation: operation.id,
        part: this.newPartId(),
        params: valid,
        selection: emptySelection(),
        makes: { name: this.freeName(label), kind: 'cage' }
      };
      if (secondsFor(operation, new Cage(), entry.selection, valid) < LONG) return this.shapeAdded(operation, entry);
      const { state } = this.logbook;
      const isStill = () => this.logbook.state === state;
      void this.performElsewhere(operation, state, this.logbook.prepared(entry), isStill, (made) => this.shapeAdded(operation, entry, made));
    });
  }

  private shapeAdded(operation: Operation, given: NewEntry, result?: Replayed): void {
    const entry = this.logbook.add(given, undefined, result);
    this.lastUsed.set(operation.id, given.params);
    this.running = undefined;
    this.open(entry.id);
    this.view.activePart = given.part;
    this.selection = emptySelection();
    this.changed();
  }

  /** Puts a brought-in mesh into the job. */
  addBroughtIn(result: BroughtIn, fileName: string, as: 'reference' | 'cage', settings: Params): void {
    this.attempt(() => {
      const id = this.newPartId();
      const name = this.freeName(fileName.replace(/(\.gz)$/i, '').replace(/\.[^.]+$/, ''));
      this.logbook.add({
        operation: 'bring-in',
        part: id,
        params: { ...settings, file: fileName, as },
        selection: emptySelection(),
        cast: result.mesh,
        notes: result.notes,
        makes: { name, kind: as, scheme: result.scheme === 'loop' ? 'loop' : 'catmull-clark', borderCorners: result.borderCorners }
      });
      if (as === 'cage') this.view.activePart = id;
      this.selection = emptySelection();
      this.changed();
      this.tell('info', [`${name} was brought in as a ${as}.`, ...result.notes].join(' '));
    });
  }

  /**
   * Has it found out what is known before anything is laid with these settings, and what comes first made ahead; tells nothing where a task
   * is running or a setting cannot be taken.
   * @throws Error saying why nothing can be laid
   */
  async lookAhead(params: Params, tell: (seen: LookAhead) => void): Promise<void> {
    const source = this.underQuads;
    const operation = operationById('auto-quads')!;
    const { error, value } = operation.params.validate($state.snapshot(params));
    if (!source || error) return;
    const mesh = $state.snapshot(polygonsOf(source)) as PolygonMesh;
    await workAhead((tasks) => tasks.lookAhead(mesh, autoQuadsOptions(value as Params), proxy(tell)));
  }

  /** Shows where poles would be with these settings, before quads are laid. */
  async planPoles(params: Params): Promise<void> {
    const operation = operationById('auto-quads')!;
    const source = this.underQuads;
    if (!source || this.task) return;
    const mesh = polygonsOf(source);
    const task = new RunningTask('Poles', async (tasks, tell) =>
      tasks.planPoles($state.snapshot(mesh) as PolygonMesh, autoQuadsOptions(validParams(operation, $state.snapshot(params))), tell)
    );
    await this.background(task, (plan) => (this.polePlan = plan));
  }

  private async layAutoQuads(params: Params): Promise<void> {
    const operation = operationById('auto-quads')!;
    const source = this.underQuads;
    if (!source || this.task) return;
    let valid: Params;
    try {
      valid = validParams(operation, $state.snapshot(params));
    } catch (error) {
      return this.tell('error', refusalOf(error).found);
    }
    const bare = valid.over === 'all' ? undefined : bareArea(valid.over as 'picked' | 'rest', this.active, this.reference, this.selection);
    if (bare && 'refusal' in bare) return this.tell('error', bare.refusal);
    const surface = $state.snapshot(bare?.surface ?? polygonsOf(source)) as PolygonMesh;
    const options = autoQuadsOptions(valid);
    const { vertexIds: _v, faceIds: _f, ...kept } = bare?.kept ?? { vertexIds: undefined, faceIds: undefined };
    const beside = bare && { kept: kept as PolygonMesh, middles: bare.middles };
    const task = new RunningTask<Laid>('Auto quads', (tasks, tell) =>
      valid.on === 'server' || surface.faceStart.length > MOST_IN_BROWSER
        ? tasks.layOnServer(surface, valid, beside, tell)
        : tasks.lay({ surface, options, beside }, tell)
    );
    this.lastUsed.set(operation.id, { ...valid, over: 'all' });
    await this.background(task, (laid) => this.addLaid(laid, valid, source, bare, task.seconds));
  }

  private addLaid(laid: Laid, params: Params, source: Part, bare: BareArea | undefined, seconds: number): void {
    const id = bare?.part.id ?? this.newPartId();
    const common = { operation: 'auto-quads', part: id, params: { ...params }, notes: laid.notes };
    // beside quads that stay, the new ones alone are stored: the cage round them goes on as it is
    const patch = bare && patchOf(laid, bare.kept, bare.gone);
    const makes = { name: this.freeName(`${source.name} quads`), kind: 'cage' as const };
    // a cage that served as the reference would hide its successor
    const hidden = source.kind === 'cage' ? { hidden: [...this.hidden, source.id] } : undefined;
    const entry = patch
      ? this.logbook.add({ ...common, selection: selectFaces(patch.gone), cast: patch.cast, seam: patch.seam })
      : this.logbook.add({ ...common, selection: emptySelection(), cast: laid.mesh, makes }, hidden);
    this.running = undefined;
    this.open(entry.id);
    this.view.activePart = id;
    this.view.cage = true;
    // how far they are off is seen at once
    if (this.reference) this.view.overlays.deviation = true;
    this.changed();
    this.selection = this.logbook.selection;
    const quads = laid.faces?.length ?? laid.mesh.faceVertices.length / 4;
    const besides = bare?.besides ? [`Faces beside the picked ones that went with them, for an even border: ${bare.besides}.`] : [];
    this.tell('info', [`${quads.toLocaleString('en')} quads laid in ${seconds.toFixed(1)} s.`, ...besides, ...laid.notes].join(' '));
  }

  /** Lays quads again with the open card's settings, as a new entry. */
  layAgain(params: Params): void {
    if (this.tellRefused()) return;
    void this.layAutoQuads(params);
  }

  removePart(id: string): void {
    if (this.task) return this.tell('error', BUSY);
    this.attempt(() => {
      this.logbook.add({ operation: REMOVE_PART, part: id, params: {}, selection: emptySelection() });
      this.liveEntry = undefined;
      this.selection = emptySelection();
      this.changed();
    });
  }

  undo(): void {
    this.travel(() => this.logbook.undo());
  }
  redo(): void {
    this.travel(() => this.logbook.redo());
  }
  /** Brings the job to the state after so many entries. */
  goTo(cursor: number): void {
    this.travel(() => this.logbook.goTo(cursor));
  }

  private travel(step: () => void): void {
    if (this.task) return this.tell('error', BUSY);
    if (this.lookingOn) return this.tell('error', this.lookingOn);
    this.running = undefined;
    this.liveEntry = undefined;
    this.message = undefined;
    step();
    this.changed();
    this.selection = this.active?.cage ? onlyPresent(this.active.cage, this.selection) : emptySelection();
  }

  private attempt(step: () => void): void {
    if (this.lookingOn) return this.tell('error', this.lookingOn);
    try {
      step();
    } catch (error) {
      const refusal = refusalOf(error);
      this.message = { kind: 'error', text: [refusal.found, refusal.instead].filter(Boolean).join(' '), where: refusal.where };
    }
  }

  private newPartId(): string {
    return crypto.randomUUID();
  }

  private freeName(name: string): string {
    const taken = new Set(this.parts.map((p) => p.name));
    let free = name;
    for (let n = 2; taken.has(free); n++) free = `${name} ${n}`;
    return free;
  }

  tell(kind: Message['kind'], text: string): void {
    this.message = { kind, text };
  }

  /** Says again what a field of the card cannot take. @returns whether there is one */
  private tellRefused(): boolean {
    const [first] = Object.values(this.refused);
    if (first) this.tell('error', first.why);
    return first !== undefined;
  }

  // ---- picking

  pick(picked: Selection | undefined, add: boolean): void {
    if (!picked) {
      if (!add) this.selection = emptySelection();
      return;
    }
    this.selection = add ? toggled(this.selection, picked) : picked;
  }

  /** What a drag picked: in place of the selection, added to it, or taken out of it. */
  pickMany(picked: Selection, how: 'instead' | 'add' | 'take'): void {
    if (how === 'instead') this.selection = picked;
    else if (how === 'add') this.selection = united(this.selection, picked);
    else this.selection = without(this.selection, picked);
  }

  /** Keeps the selection under a name; a set of that name is replaced. */
  keepSet(name: string): void {
    const { active } = this;
    if (!active || isEmpty(this.selection)) return this.tell('info', 'Keep as a set: pick something first.');
    const free = name.trim() || `Set ${this.sets.length + 1}`;
    const set = { name: free, part: active.id, selection: structuredClone($state.snapshot(this.selection)) as Selection };
    this.settle(`Keep set ${free}`, { sets: [...this.sets.filter((s) => s.name !== free || s.part !== active.id), set] });
  }

  takeSet(index: number, add: boolean): void {
    const set = this.sets[index];
    const part = this.parts.find((p) => p.id === set.part);
    if (!part?.cage) return this.tell('error', `The set "${set.name}" belongs to a part that is not there any more.`);
    this.view.activePart = set.part;
    const present = onlyPresent(part.cage, set.selection);
    this.pickMany(present, add ? 'add' : 'instead');
    const count = (s: Selection) => s.vertices.length + s.edges.length + s.faces.length;
    const lost = count(set.selection) - count(present);
    if (lost > 0) this.tell('info', `${set.name}: ${lost} of its ${count(set.selection)} elements are not there any more.`);
  }

  dropSet(index: number): void {
    this.settle(`Drop set ${this.sets[index].name}`, { sets: this.sets.filter((_, i) => i !== index) });
  }

  // ---- what goes with the entries

  rename(name: string): void {
    if (name !== this.name) this.settle('Rename', { name });
  }

  /** Shows a part that is hidden, or hides it. */
  toggleHidden(part: Part): void {
    const { hidden } = this;
    if (hidden.includes(part.id)) this.settle(`Show ${part.name}`, { hidden: hidden.filter((id) => id !== part.id) });
    else this.settle(`Hide ${part.name}`, { hidden: [...hidden, part.id] });
  }

  /** Makes a part the one that operations work on; it is shown. */
  workOn(part: Part): void {
    this.view.activePart = part.id;
    if (this.hidden.includes(part.id)) this.toggleHidden(part);
    this.pick(undefined, false);
    this.saveViewSoon();
  }

  private settle(label: string, settings: Partial<DocumentSettings>): void {
    this.attempt(() => {
      this.logbook.change(label, settings);
      this.changed();
    });
  }

  isolate(): void {
    if (this.isolated) this.isolated = undefined;
    else if (this.active?.cage && !isEmpty(this.selection)) {
      this.isolated = facesAround(this.active.cage, this.selection);
    } else this.tell('info', 'Isolate: pick the faces to keep in view first.');
  }

  /** Esc: closes the operation, then clears the selection. @returns whether there was anything to close */
  escape(): boolean {
    if (this.running) this.discard();
    else if (!isEmpty(this.selection)) this.selection = emptySelection();
    else if (this.isolated) this.isolated = undefined;
    else if (this.liveEntry !== undefined) this.liveEntry = undefined;
    else return false;
    return true;
  }

  // ---- saving

  /** Ends what works for this job; called when the page leaves it. */
  end(): void {
    this.task?.stop();
    this.slow.end();
    this.meter.end();
    this.keeper.end();
  }

  private settleActive(): void {
    const parts = this.logbook.state.parts;
    if (!parts.some((p) => p.id === this.view.activePart && p.kind === 'cage'))
      this.view.activePart = parts.findLast((p) => p.kind === 'cage')?.id ?? '';
  }

  private changed(): void {
    this.version++;
    this.settleActive();
    this.isolated = undefined;
    void this.save();
    this.keepPictureSoon();
  }

  /** Why nothing can be changed here; nothing where this page holds the job. */
  get lookingOn(): string | undefined {
    if (this.keeper.saving.is === 'lost') return 'This job cannot be changed here any more: see the note above the stand.';
    return this.keeper.holds ? undefined : 'This job is open in another tab: take it over to change it here.';
  }

  /** Takes up the job as another page left it. */
  private adopt(stored: StoredJob): void {
    this.record = stored.job;
    this.logbook = logbookOf(stored);
    this.running = undefined;
    this.liveEntry = undefined;
    this.isolated = undefined;
    this.version++;
    this.settleActive();
    this.selection = this.active?.cage ? onlyPresent(this.active.cage, this.selection) : emptySelection();
  }

  private snapshot(): Snapshot {
    // a replay may still put flags and notes on entries: it comes first
    const counts = countsOf(this.logbook.state.parts);
    const { entries, cursor, settings, journal } = this.logbook;
    this.record = { ...this.record, ...settings, changed: new Date().toISOString(), cursor, counts };
    return { job: this.record, entries, journal };
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
