import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { operationById } from '../operations/registry.ts';
import { type Entry, type JobState, type Part } from './entry.ts';
import { referenceOf, type Replayed } from './replay.ts';

/** Entries whose outcomes are remembered at most. */
const KEPT = 60;

/** What an entry made of its part, and what it depends on. */
interface Remembered {
  entry: Entry;
  before: Part | undefined;
  reference: PolygonMesh | undefined;
  after: Part;
  made: Replayed;
}

/** Whether an entry goes by its part, and the reference, alone. */
function standsAlone(entry: Entry): boolean {
  const operation = operationById(entry.operation);
  return operation !== undefined && operation.kind !== 'parts';
}

/** Outcomes of entries, to be taken again where nothing they depend on is another: what was changed on one part is not done again on others. */
export class ReplayMemory {
  private readonly known = new Map<number, Remembered>();

  /** What an entry comes to, where it was done on the same part before. */
  recall(state: JobState, entry: Entry): Replayed | undefined {
    const found = this.known.get(entry.id);
    const part = state.parts.find((p) => p.id === entry.part);
    if (!found || found.before !== part || found.reference !== referenceOf(state.parts) || !isSame(found.entry, entry)) return undefined;
    const parts = part ? state.parts.map((p) => (p === part ? found.after : p)) : [...state.parts, found.after];
    return { ...found.made, state: { parts } };
  }

  /** Remembers what an entry came to. @returns that */
  keep(state: JobState, entry: Entry, made: Replayed): Replayed {
    this.known.delete(entry.id);
    const after = made.state.parts.find((p) => p.id === entry.part);
    const before = state.parts.find((p) => p.id === entry.part);
    const isNew = before === undefined && made.state.parts.length === state.parts.length + 1;
    if (made.problem !== undefined || !after || !(before || isNew) || !standsAlone(entry)) return made;
    this.known.set(entry.id, { entry, before, reference: referenceOf(state.parts), after, made });
    for (const id of this.known.keys()) if (this.known.size > KEPT) this.known.delete(id);
    return made;
  }
}

/** Whether two entries do the same: what is told of them is no part of it. */
function isSame(a: Entry, b: Entry): boolean {
  return (
    a === b ||
    (a.operation === b.operation &&
      a.params === b.params &&
      a.selection === b.selection &&
      a.places === b.places &&
      a.paramPlaces === b.paramPlaces &&
      a.topology === b.topology &&
      a.makes === b.makes &&
      a.cast === b.cast &&
      a.seam === b.seam &&
      a.result === b.result &&
      a.disabled === b.disabled)
  );
}
