import {
  applyOperation,
  applyPartsOperation,
  applySurfaceOperation,
  areaToLay,
  autoQuadsOptions,
  checkPartsOperation,
  describeForecast,
  describeLoops,
  emptySelection,
  FEWEST_QUADS,
  facesOf,
  fieldsOf,
  forecast,
  InvalidParams,
  middlesOf,
  replaceFaces,
  selectFaces,
  Subdivision,
  isEmpty,
  Logbook,
  measure,
  onlyPresent,
  otherCages,
  sameTopology,
  surroundings,
  united,
  operationById,
  OperationRefused,
  REMOVE_PART,
  toggled,
  validParams,
  type Laid,
  type LookAhead,
  type BroughtIn,
  type Cage,
  type CageOperation,
  type Entry,
  type Forecast,
  type NamedCage,
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
  type Guide,
  type PlannedPole,
  type PoleMove,
  type SizeDab,
  type Triple
} from '@ulvrin/core';
import { proxy } from 'comlink';
import { RunningTask, TaskStopped, workAhead } from '$lib/tasks/task-runner.svelte.ts';
import type { JobRecord } from '$lib/storage/database.ts';
import { saveJob, savePicture } from '$lib/storage/job-store.ts';
import { restoredView, type View } from './view.ts';

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

/** Operations with handles; their typed numbers are meant once. */
const MOVES = new Set(['move', 'rotate', 'scale']);
/** Operations that run at once when their key is pressed; their card stays open afterwards. */
const AT_ONCE = new Set(['delete', 'dissolve', 'flip', 'clear-creases', 'take-out-brace']);

/** Surfaces with more faces are laid by the server. */
const MOST_IN_BROWSER = 2_000_000;

export const startParams = (operation: Operation): Params => validParams(operation, {});

/** A part as plain polygons. */
export const polygonsOf = ({ mesh, cage }: Part): PolygonMesh => mesh ?? cage!.toPolygons();

/** What dragging on the surface draws while auto quads is steered. */
export type StrokeKind = 'none' | 'guide' | 'round' | 'size' | 'edge' | 'no edge' | 'pole';

export interface Steering {
  kind: StrokeKind;
  guides: Guide[];
  sizes: SizeDab[];
  poleMoves: PoleMove[];
  /** ends of the edges that will be edges of quads, where they are shown */
  sharp?: Float32Array;
  /** where planes cut the surface that it is mirrored in */
  sections?: Float32Array;
  /** takes places on the surface along a stroke, in order, and the direction towards the eye */
  add: (points: [number, number, number][], view: [number, number, number]) => void;
}

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
  saved: 'saved' | 'saving' | 'failed' = $state('saved');
  /** what the pointer is over */
  hovered: Selection | undefined;
  /** counts up with every change of the logbook */
  version = $state(0);
  private logbook: Logbook;
  private savedEntries = new Map<number, Entry>();
  private saving: Promise<void> = Promise.resolve();
  private pictureTimer: ReturnType<typeof setTimeout> | undefined;
  private viewTimer: ReturnType<typeof setTimeout> | undefined;
  takePicture?: () => string;
  /** parameters an operation takes from the stand when it begins: the directions of the view */
  standParams?: (operation: Operation) => Params;
  /** handles move the pivot alone */
  movingPivot = $state(false);
  lastUsed = new Map<string, Params>();

  name = $state('');
  /** strokes that steer auto quads, while its card is open */
  steering: Steering | undefined = $state.raw();
  polePlan: PlannedPole[] | undefined = $state.raw();
  /** what dragging draws; kept while a task takes the card's place */
  strokeKind: StrokeKind = $state('none');

  constructor(
    public record: JobRecord,
    entries: Entry[]
  ) {
    this.logbook = new Logbook(entries, record.cursor);
    for (const entry of entries) this.savedEntries.set(entry.id, entry);
    this.view = restoredView(record.view);
    this.name = record.name;
    this.settleActive();
  }

  // ---- reading

  entries = $derived.by(() => (void this.version, this.logbook.entries));
  cursor = $derived.by(() => (void this.version, this.logbook.cursor));
  parts = $derived.by((): readonly Part[] => (void this.version, this.logbook.state.parts));
  active = $derived.by((): Part | undefined => this.parts.find((p) => p.id === this.view.activePart && p.kind === 'cage'));
  reference = $derived.by(
    (): Part | undefined =>
      this.parts.find((p) => p.kind === 'reference' && !this.view.hidden.includes(p.id)) ?? this.parts.find((p) => p.kind === 'reference')
  );
  /** what auto quads is laid over: the reference, or else the active cage */
  underQuads = $derived.by((): Part | undefined => this.reference ?? this.active);
  measures = $derived.by(() => (this.active?.cage ? measure(this.active.cage) : undefined));

  /** What the running operation would do now: its cage, or why it cannot. */
  preview = $derived.by(
    (): { cage?: Cage; selection?: Selection; notes?: string[]; refusal?: Refusal; moves: boolean; surface?: SurfaceSettings } | undefined => {
      const { running, active } = this;
      if (!running || !active?.cage || running.operation.kind === 'shape' || running.operation.kind === 'source') return undefined;
      try {
        if (running.operation.kind === 'surface') {
          const { surface, notes } = applySurfaceOperation(running.operation, active.cage, active, running.params);
          return { surface, notes, moves: false };
        }
        const { cage, selection, notes } =
          running.operation.kind === 'cage'
            ? applyOperation(running.operation, active.cage, this.selection, running.params, surroundings(this.parts, active))
            : applyPartsOperation(running.operation, active as NamedCage, otherCages(this.parts, active.id), this.selection, running.params);
        return { cage, selection, notes, moves: sameTopology(active.cage, cage) };
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
    return forecast(active.cage, preview.cage, { borderCorners: active.borderCorners, plan: active.plan });
  });

  /** The same as sentences, with the loops concerned and what the operation itself tells: a spiral is seen before the act. */
  forecast = $derived.by((): string | undefined => {
    const { preview, active, change } = this;
    if (preview?.surface) return preview.notes!.join(' ');
    if (!change || !preview?.cage || !active?.cage) return undefined;
    const [was, will] = [describeLoops(active.cage, this.selection.edges), describeLoops(preview.cage, preview.selection!.edges)];
    const loops = preview.moves ? undefined : was && will ? `Loop before: ${was}; after: ${will}.` : will ? `Loop after: ${will}.` : undefined;
    return [describeForecast(change), loops, ...preview.notes!].filter(Boolean).join(' ');
  });

  /** Why an operation cannot start on what is picked now; nothing where it can. */
  whyNot(operation: Operation): string | undefined {
    if (this.task) return 'A task is running: stop it, or wait.';
    if (operation.id === 'auto-quads') return this.underQuads ? undefined : operation.needs;
    if (operation.kind === 'shape' || operation.kind === 'source') return undefined;
    if (!this.active?.cage) return 'It needs a cage: lay quads, bring one in, or add a start shape.';
    if (operation.pointed) return this.active.cage.faceCount > 0 ? undefined : operation.needs;
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
    if (index < 0) return;
    this.attempt(() => {
      this.logbook.edit(index, { ...this.entries[index].params, ...params });
      this.message = undefined;
      this.changed();
    });
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
    this.liveEntry = id;
  }

  discard(): void {
    this.running = undefined;
    this.movingPivot = false;
  }

  private commit(operation: CageOperation | PartsOperation | SurfaceOperation, params: Params): void {
    const { active } = this;
    if (!active) return;
    this.attempt(() => {
      const entry = this.logbook.add({
        operation: operation.id,
        part: active.id,
        params: validParams(operation, params),
        selection: structuredClone(this.selection)
      });
      this.running = undefined;
      this.movingPivot = false;
      // a typed shift or turn is meant once; widths and counts are wanted again
      this.lastUsed.set(operation.id, usedAgain(operation, entry.params));
      this.liveEntry = entry.id;
      this.isolated = undefined;
      this.changed();
      this.selection = this.logbook.selection;
      if (entry.notes.length > 0) this.tell('info', entry.notes.join(' '));
    });
  }

  private addShape(params: Params): void {
    const operation = operationById('start-shape')!;
    this.attempt(() => {
      const valid = validParams(operation, params);
      const id = this.newPartId();
      const label = fieldsOf(operation)[0].choices?.find((c) => c.value === valid.shape)?.label ?? 'Shape';
      const entry = this.logbook.add({
        operation: operation.id,
        part: id,
        params: valid,
        selection: emptySelection(),
        makes: { name: this.freeName(label), kind: 'cage' }
      });
      this.lastUsed.set(operation.id, valid);
      this.running = undefined;
      this.liveEntry = entry.id;
      this.view.activePart = id;
      this.selection = emptySelection();
      this.changed();
    });
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
    this.task = task;
    try {
      this.polePlan = await task.result;
    } catch (error) {
      this.tell(error instanceof TaskStopped ? 'info' : 'error', error instanceof Error ? error.message : String(error));
    } finally {
      this.task = undefined;
    }
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
    const bare = valid.over === 'all' ? undefined : this.bareArea(valid.over as 'picked' | 'rest');
    if (bare && 'refusal' in bare) return this.tell('error', bare.refusal);
    const surface = $state.snapshot(bare?.surface ?? polygonsOf(source)) as PolygonMesh;
    const options = autoQuadsOptions(valid);
    const beside = bare && { kept: bare.kept, middles: bare.middles };
    const task = new RunningTask<Laid>('Auto quads', (tasks, tell) =>
      valid.on === 'server' || surface.faceStart.length > MOST_IN_BROWSER
        ? tasks.layOnServer(surface, valid, beside, tell)
        : tasks.lay({ surface, options, beside }, tell)
    );
    this.task = task;
    this.lastUsed.set(operation.id, { ...valid, over: 'all' });
    try {
      const result = await task.result;
      this.running = undefined;
      this.attempt(() => {
        // a part that was laid again in places stays what it is
        const id = bare?.part.id ?? this.newPartId();
        const { scheme, borderCorners } = bare?.part ?? {};
        const entry = this.logbook.add({
          operation: operation.id,
          part: id,
          params: { ...valid },
          selection: emptySelection(),
          cast: result.mesh,
          notes: result.notes,
          makes: { name: bare?.part.name ?? this.freeName(`${source.name} quads`), kind: 'cage', ...(bare && { scheme, borderCorners }) }
        });
        this.liveEntry = entry.id;
        this.view.activePart = id;
        this.view.cage = true;
        // how far they are off is seen at once
        if (this.reference) this.view.overlays.deviation = true;
        // a cage that served as the reference would hide its successor
        if (!bare && source.kind === 'cage') this.view.hidden = [...this.view.hidden, source.id];
        this.changed();
        this.selection = result.faces ? selectFaces(result.faces) : emptySelection();
        const quads = result.faces?.length ?? result.mesh.faceVertices.length / 4;
        const besides = bare?.besides ? [`Faces beside the picked ones that went with them, for an even border: ${bare.besides}.`] : [];
        this.tell('info', [`${quads.toLocaleString('en')} quads laid in ${task.seconds.toFixed(1)} s.`, ...besides, ...result.notes].join(' '));
      });
    } catch (error) {
      this.tell(error instanceof TaskStopped ? 'info' : 'error', error instanceof Error ? error.message : String(error));
    } finally {
      this.task = undefined;
    }
  }

  /** What of the active cage stays while quads are laid over the rest, or over what is picked again. */
  private bareArea(
    over: 'picked' | 'rest'
  ): { part: Part; kept: PolygonMesh; surface: PolygonMesh; middles?: Triple[]; besides?: number } | { refusal: string } {
    const { active: part, reference } = this;
    if (!part?.cage) return { refusal: 'There is no cage yet that quads could be laid beside: lay them over the whole reference first.' };
    const { cage, scheme, borderCorners, plan } = part;
    if (over === 'rest')
      return reference
        ? { part, kept: cage.toPolygons(), surface: polygonsOf(reference) }
        : { refusal: 'What the cage leaves bare is that of a reference: bring one in.' };
    const picked = facesOf(cage, this.selection);
    const gone = areaToLay(cage, picked);
    if (gone.length === 0) return { refusal: 'Pick the faces to lay again first.' };
    if (gone.length === cage.faceCount) return { refusal: 'All faces are picked: lay over the whole reference, or leave a border of faces.' };
    const kept = cage.clone();
    replaceFaces(kept, { gone, added: [] });
    // without a reference the smooth surface as it is now is laid over
    const surface = reference
      ? polygonsOf(reference)
      : new Subdivision(cage.toPolygons(), { scheme, borderCorners, plan: $state.snapshot(plan), levels: 2, limit: true }).toPolygons(
          cage.toPolygons()
        );
    return { part, kept: kept.toPolygons(), surface, middles: middlesOf(cage, gone), besides: gone.length - picked.length };
  }

  /** Lays quads again with the open card's settings, as a new entry. */
  layAgain(params: Params): void {
    if (this.tellRefused()) return;
    void this.layAutoQuads(params);
  }

  removePart(id: string): void {
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
    this.travel(() => (this.logbook.cursor = cursor));
  }

  private travel(step: () => void): void {
    if (this.task) return this.tell('error', 'A task is running: stop it first, or wait until it is done.');
    this.running = undefined;
    this.liveEntry = undefined;
    this.message = undefined;
    step();
    this.changed();
    this.selection = this.active?.cage ? onlyPresent(this.active.cage, this.selection) : emptySelection();
  }

  private attempt(step: () => void): void {
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
    else {
      const without = (have: number[], gone: number[]) => {
        const set = new Set(gone);
        return have.filter((id) => !set.has(id));
      };
      const { vertices, edges, faces } = this.selection;
      this.selection = { vertices: without(vertices, picked.vertices), edges: without(edges, picked.edges), faces: without(faces, picked.faces) };
    }
  }

  /** Keeps the selection under a name; a set of that name is replaced. */
  keepSet(name: string): void {
    const { active } = this;
    if (!active || isEmpty(this.selection)) return this.tell('info', 'Keep as a set: pick something first.');
    const free = name.trim() || `Set ${this.view.sets.length + 1}`;
    this.view.sets = [
      ...this.view.sets.filter((s) => s.name !== free || s.part !== active.id),
      { name: free, part: active.id, selection: structuredClone(this.selection) }
    ];
    this.saveViewSoon();
  }

  takeSet(index: number, add: boolean): void {
    const set = this.view.sets[index];
    const part = this.parts.find((p) => p.id === set.part);
    if (!part?.cage) return this.tell('error', `The set "${set.name}" belongs to a part that is not there any more.`);
    this.view.activePart = set.part;
    const stored = $state.snapshot(set.selection) as Selection;
    const present = onlyPresent(part.cage, stored);
    this.pickMany(present, add ? 'add' : 'instead');
    const count = (s: Selection) => s.vertices.length + s.edges.length + s.faces.length;
    const lost = count(stored) - count(present);
    if (lost > 0) this.tell('info', `${set.name}: ${lost} of its ${count(stored)} elements are not there any more.`);
  }

  dropSet(index: number): void {
    this.view.sets = this.view.sets.filter((_, i) => i !== index);
    this.saveViewSoon();
  }

  isolate(): void {
    if (this.isolated) this.isolated = undefined;
    else if (this.active?.cage && !isEmpty(this.selection)) {
      const faces = facesOf(this.active.cage, this.selection);
      const { cage } = this.active;
      // vertices and edges alone show the faces round them
      const around =
        faces.length > 0
          ? faces
          : [...cage.faces()].filter(
              (f) =>
                cage.faceVertices(f).some((v) => this.selection.vertices.includes(v)) ||
                cage.loopOf(cage.faceEdge[f]).some((h) => this.selection.edges.includes(h >> 1))
            );
      this.isolated = around;
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

  private settleActive(): void {
    const parts = this.logbook.state.parts;
    if (!parts.some((p) => p.id === this.view.activePart && p.kind === 'cage'))
      this.view.activePart = parts.findLast((p) => p.kind === 'cage')?.id ?? '';
  }

  private changed(): void {
    this.version++;
    this.settleActive();
    this.isolated = undefined;
    this.save();
    this.keepPictureSoon();
  }

  /** Writes what changed since the last time; calls line up, so the last state always wins. */
  save(): Promise<void> {
    clearTimeout(this.viewTimer);
    const faces = this.parts.reduce(
      (sum, p) => {
        if (p.kind === 'reference') return { ...sum, triangles: sum.triangles + p.mesh!.faceStart.length - 1 };
        const quads = [...p.cage!.faces()].filter((f) => p.cage!.faceSize(f) === 4).length;
        return { ...sum, faces: sum.faces + p.cage!.faceCount, quads: sum.quads + quads };
      },
      { faces: 0, quads: 0, triangles: 0 }
    );
    const entries = this.logbook.entries;
    const changed = entries.filter((e) => this.savedEntries.get(e.id) !== e);
    const ids = new Set(entries.map((e) => e.id));
    const removed = [...this.savedEntries.keys()].filter((id) => !ids.has(id));
    this.savedEntries = new Map(entries.map((e) => [e.id, e]));
    this.record = {
      ...this.record,
      name: this.name,
      changed: new Date().toISOString(),
      cursor: this.logbook.cursor,
      counts: faces,
      view: $state.snapshot(this.view) as unknown as Record<string, unknown>
    };
    const record = this.record;
    this.saved = 'saving';
    this.saving = this.saving
      .then(() => saveJob(record, changed, removed))
      .then(() => void (this.saved = 'saved'))
      .catch((error: unknown) => {
        this.saved = 'failed';
        this.tell(
          'error',
          `This change could not be saved in the browser (${error instanceof Error ? error.message : String(error)}). Export the job to a file to keep it.`
        );
      });
    return this.saving;
  }

  /** Saves the view soon; called with every move of the eye. */
  saveViewSoon(): void {
    clearTimeout(this.viewTimer);
    this.viewTimer = setTimeout(() => this.save(), 250);
  }

  /** A picture for the jobs page, once what changed has been drawn. */
  keepPictureSoon(): void {
    clearTimeout(this.pictureTimer);
    this.pictureTimer = setTimeout(() => this.keepPicture(), 400);
  }

  private keepPicture(): void {
    const picture = this.takePicture?.();
    if (picture) void savePicture(this.record.id, picture);
  }
}

/** Parameters that are meant once: what was pointed at, and for those with handles the shift or turn and its pivot. */
const ONCE = new Set(['points', 'with', 'view', 'eye', 'parallel']);
const ONCE_MOVED = new Set(['x', 'y', 'z', 'all', 'how', 'pivot', 'pivotX', 'pivotY', 'pivotZ']);

/** Operations whose shift is meant once: those with handles, and those that drag a point of the surface. */
const isMoved = (operation: Operation) => MOVES.has(operation.id) || operation.pointed === 'surface';

/** The numbers an operation begins with the next time. */
const usedAgain = (operation: Operation, params: Params): Params =>
  Object.fromEntries(Object.entries(params).filter(([name]) => !ONCE.has(name) && !(isMoved(operation) && ONCE_MOVED.has(name))));

function refusalOf(error: unknown): Refusal {
  if (error instanceof OperationRefused) return error.refusal;
  if (error instanceof InvalidParams) return { found: error.message };
  throw error;
}
