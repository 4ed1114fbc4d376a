import { Cage, CageError } from '../mesh/cage.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import {
  applyOperation,
  applyPartsOperation,
  applySurfaceOperation,
  InvalidParams,
  OperationRefused,
  validParams,
  type NamedCage,
  type Params,
  type PartsOperation,
  type Surroundings
} from '../operations/operation.ts';
import { operationById } from '../operations/registry.ts';
import { emptySelection, type Selection } from '../select/selection.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { elementPlaces, foundAgain, type ElementPlaces } from './element-places.ts';

export type PartKind = 'reference' | 'cage';

/** One mesh in a job. References keep their polygons; cages are half-edges. */
export interface Part extends SurfaceSettings {
  id: string;
  name: string;
  kind: PartKind;
  cage?: Cage;
  mesh?: PolygonMesh;
}

/** All parts at one place of the logbook; never changed, only replaced. */
export interface JobState {
  parts: readonly Part[];
}

/** One thing done, as data: it can be stored, replayed and edited. */
export interface Entry {
  /** counts up within a job; never used twice */
  id: number;
  operation: string;
  /** id of the part made or changed */
  part: string;
  params: Params;
  selection: Selection;
  /** where the selected elements lay, to find them again after an earlier entry was changed */
  places?: ElementPlaces;
  /** for entries that make a part: its name, kind and settings */
  makes?: { name: string; kind: PartKind; scheme?: Part['scheme']; borderCorners?: Part['borderCorners'] };
  /** a result that is kept and never computed again */
  cast?: PolygonMesh;
  /** what was found and done, a sentence each */
  notes: string[];
  /** why the entry could not be replayed; it is skipped then, never dropped */
  problem?: string;
  /** when it was done, ISO 8601 */
  at: string;
}

/** Operation id of the entry that takes a part out of the job. */
export const REMOVE_PART = 'remove-part';

interface Replayed {
  state: JobState;
  /** selection after the entry, in its part */
  selection: Selection;
  part?: string;
}

/** Results kept in memory at most; others are computed again from the nearest one. */
const KEPT_RESULTS = 40;

/**
 * The document of a job: entries in order, of which the first `cursor` are in force. Undo moves the cursor back; a new
 * entry takes the place of those behind it.
 */
export class Logbook {
  entries: Entry[] = [];
  cursor = 0;
  private results = new Map<number, Replayed>();

  constructor(entries: Entry[] = [], cursor = entries.length) {
    this.entries = entries;
    this.cursor = Math.min(cursor, entries.length);
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
  get canUndo(): boolean {
    return this.cursor > 0;
  }
  get canRedo(): boolean {
    return this.cursor < this.entries.length;
  }

  part(id: string | undefined): Part | undefined {
    return this.state.parts.find((p) => p.id === id);
  }

  /** State before entry `index`. */
  stateBefore(index: number): JobState {
    return this.replayed(index).state;
  }

  /**
   * Does something: the entry is replayed first, and kept only if that works.
   * @throws OperationRefused, InvalidParams with nothing changed
   */
  add(entry: Omit<Entry, 'id' | 'notes' | 'at' | 'places'> & { notes?: string[]; at?: string }): Entry {
    const before = this.replayed(this.cursor).state;
    const cage = before.parts.find((p) => p.id === entry.part)?.cage;
    const complete: Entry = {
      notes: [],
      at: new Date().toISOString(),
      ...entry,
      id: 1 + this.entries.reduce((most, e) => Math.max(most, e.id), 0),
      places: cage && !entry.makes ? elementPlaces(cage, entry.selection) : undefined
    };
    const result = replay(before, complete);
    this.forgetFrom(this.cursor + 1);
    this.entries = [...this.entries.slice(0, this.cursor), complete];
    this.cursor++;
    this.keep(this.cursor, result);
    return complete;
  }

  undo(): void {
    if (this.canUndo) this.cursor--;
  }
  redo(): void {
    if (this.canRedo) this.cursor++;
  }

  /**
   * Changes the parameters of an entry; those after it are done again on the new result, and flagged where they cannot be.
   * @throws OperationRefused, InvalidParams with nothing changed, if the entry itself cannot run so
   */
  edit(index: number, params: Params): void {
    const changed: Entry = { ...this.entries[index], params, notes: [], problem: undefined };
    replay(this.stateBefore(index), changed);
    this.entries = this.entries.map((e, i) => (i === index ? changed : i > index ? { ...e, problem: undefined } : e));
    this.forgetFrom(index + 1);
  }

  private forgetFrom(count: number): void {
    for (const k of [...this.results.keys()]) if (k >= count) this.results.delete(k);
  }

  private keep(count: number, result: Replayed): void {
    this.results.set(count, result);
    if (this.results.size <= KEPT_RESULTS) return;
    // the oldest go first, but every eighth stays so that no undo is far from a kept result
    for (const k of this.results.keys()) if (k % 8 !== 0 && k !== count) return void this.results.delete(k);
  }

  /** Result of the first `count` entries. */
  private replayed(count: number): Replayed {
    if (count === 0) return { state: { parts: [] }, selection: emptySelection() };
    let from = count;
    while (from > 0 && !this.results.has(from)) from--;
    let result = this.results.get(from) ?? { state: { parts: [] }, selection: emptySelection() };
    for (let i = from; i < count; i++) {
      const entry = this.entries[i];
      try {
        result = replay(result.state, entry);
        entry.problem = undefined;
      } catch (error) {
        if (!(error instanceof OperationRefused || error instanceof InvalidParams || error instanceof CageError)) throw error;
        entry.problem = error.message;
        result = { state: result.state, selection: emptySelection(), part: entry.part };
      }
      this.keep(i + 1, result);
    }
    return result;
  }
}

/** The state after one entry. Changes the entry's notes only. */
function replay(state: JobState, entry: Entry): Replayed {
  if (entry.operation === REMOVE_PART) return { state: { parts: state.parts.filter((p) => p.id !== entry.part) }, selection: emptySelection() };
  const operation = operationById(entry.operation);
  if (!operation) throw new InvalidParams(`The operation "${entry.operation}" is not known to this version.`);
  if (entry.makes) {
    const mesh = operation.kind === 'shape' ? operation.make(validParams(operation, entry.params)) : entry.cast;
    if (!mesh) throw new InvalidParams(`${operation.name}: the kept result is missing.`);
    return {
      state: { parts: [...state.parts.filter((p) => p.id !== entry.part), madePart(entry, mesh)] },
      selection: emptySelection(),
      part: entry.part
    };
  }
  const part = state.parts.find((p) => p.id === entry.part);
  if (!part?.cage || operation.kind === 'shape' || operation.kind === 'source')
    throw new InvalidParams(`${operation.name}: the part it works on is not there any more.`);
  const selection = entry.places ? foundAgain(part.cage, entry.selection, entry.places) : entry.selection;
  if (!selection) throw new InvalidParams(`${operation.name}: what it worked on is not there any more, neither by number nor by place.`);
  if (operation.kind === 'parts') return replayParts(state, entry, operation, part, selection);
  if (operation.kind === 'surface') {
    const { surface, notes } = applySurfaceOperation(operation, part.cage, part, entry.params);
    entry.notes = notes;
    return { state: { parts: state.parts.map((p) => (p.id === part.id ? { ...p, ...surface } : p)) }, selection, part: part.id };
  }
  const result = applyOperation(operation, part.cage, selection, entry.params, surroundings(state.parts, part));
  entry.notes = result.notes;
  const parts = state.parts.map((p) => (p.id === part.id ? { ...p, cage: result.cage } : p));
  return { state: { parts }, selection: result.selection, part: part.id };
}

/** What an operation on a part may look at beside its cage; of several references the last one brought in counts. */
export const surroundings = (parts: readonly Part[], { scheme, borderCorners, plan }: Part): Surroundings => ({
  surface: { scheme, borderCorners, plan },
  reference: parts.findLast((p) => p.kind === 'reference')?.mesh
});

/** Cages of a job other than one part, as operands. */
export const otherCages = (parts: readonly Part[], id: string): NamedCage[] =>
  parts.flatMap((p) => (p.cage && p.id !== id ? [{ id: p.id, name: p.name, cage: p.cage }] : []));

function replayParts(state: JobState, entry: Entry, operation: PartsOperation, part: Part, selection: Selection): Replayed {
  const active = { id: part.id, name: part.name, cage: part.cage! };
  const result = applyPartsOperation(operation, active, otherCages(state.parts, part.id), selection, entry.params);
  entry.notes = result.notes;
  const gone = new Set(result.gone);
  const kept = state.parts.filter((p) => !gone.has(p.id)).map((p) => (p.id === part.id ? { ...p, cage: result.cage } : p));
  const names = new Set(kept.map((p) => p.name));
  const made = result.made.map(({ name, cage }, i): Part => {
    let free = name;
    for (let n = 2; names.has(free); n++) free = `${name} ${n}`;
    names.add(free);
    // the entry's number makes the id, so that a replay gives the same one
    return { ...part, id: `${part.id}.${entry.id}.${i}`, name: free, cage };
  });
  return { state: { parts: [...kept, ...made] }, selection: result.selection, part: part.id };
}

function madePart(entry: Entry, mesh: PolygonMesh): Part {
  const { name, kind, scheme = 'catmull-clark', borderCorners = 'sharp' } = entry.makes!;
  const part: Part = { id: entry.part, name, kind, scheme, borderCorners };
  return kind === 'cage' ? { ...part, cage: Cage.fromPolygons(mesh) } : { ...part, mesh };
}
