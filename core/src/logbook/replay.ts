import { Cage } from '../mesh/cage.ts';
import { cageOfArrays, type CageArrays } from '../mesh/cage-arrays.ts';
import { isUnchanged } from '../mesh/difference.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { applyOperation, applyPartsOperation, applySurfaceOperation, applyToMesh, refuseBadPositions, validParams } from '../operations/apply.ts';
import { type NamedCage, type Operation, type Params, type PartsOperation, type Surroundings } from '../operations/operation.ts';
import { InvalidParams, OperationRefused, refuse, type Refusal } from '../operations/refusal.ts';
import { operationById } from '../operations/registry.ts';
import { Reference } from '../reference/reference.ts';
import { emptySelection, type Selection } from '../select/selection.ts';
import { describeLost, elementPlaces, fingerprint, foundAgain } from './element-places.ts';
import { type Entry, type JobState, type Part, REMOVE_PART, RENAME_PART } from './entry.ts';
import { problemOf } from './entry-words.ts';
import { putBack } from './laid-patch.ts';
import { paramsFoundAgain, placesInParams } from './pointed-places.ts';

/** What an entry made of the state before it. */
export interface Replayed {
  state: JobState;
  /** selection after the entry, in its part */
  selection: Selection;
  part?: string;
  notes: readonly string[];
  /** how many elements it works on, and how many of these have another id than when it was done */
  found: { of: number; byPlace: number };
  /** why it was skipped */
  problem?: string;
  /** how long it took, where another thread did it */
  seconds?: number;
}

export const nothingDone: Replayed = { state: { parts: [] }, selection: emptySelection(), notes: [], found: { of: 0, byPlace: 0 } };

/** What tells the elements of an entry apart later: their places, and the fingerprint of the connectivity they are in. */
export function placed(state: JobState, entry: Entry): Entry {
  const cage = state.parts.find((p) => p.id === entry.part)?.cage;
  const operation = operationById(entry.operation);
  if (!cage || entry.makes || !operation) return entry;
  return {
    ...entry,
    places: elementPlaces(cage, entry.selection),
    paramPlaces: placesInParams(operation, cage, entry.params),
    topology: fingerprint(cage)
  };
}

/**
 * The state after one entry. Changes neither.
 * @throws OperationRefused, InvalidParams, CageError, or whatever an operation throws
 */
export function replay(state: JobState, entry: Entry): Replayed {
  if (entry.disabled) return { ...nothingDone, state, part: entry.part, notes: entry.notes };
  if (entry.operation === REMOVE_PART) return { ...nothingDone, state: { parts: state.parts.filter((p) => p.id !== entry.part) } };
  if (entry.operation === RENAME_PART) return renamed(state, entry);
  const operation = operationById(entry.operation);
  if (!operation) throw new InvalidParams(`The operation "${entry.operation}" is not known to this version.`);
  if (entry.makes) return replayMaking(state, entry, operation);
  const part = state.parts.find((p) => p.id === entry.part);
  if (part?.mesh && !part.cage && operation.kind === 'cage' && operation.onMesh) {
    const { mesh, notes } = applyToMesh(operation, part.mesh, entry.params);
    return meshReplayed(state, part, mesh, notes);
  }
  if (!part?.cage || operation.kind === 'shape') throw new InvalidParams(`${operation.name}: the part it works on is not there any more.`);
  if (entry.result) return storedReplayed(state, part, entry, entry.result);
  const same = entry.topology !== undefined && entry.topology === fingerprint(part.cage);
  const again = foundAgain(part.cage, entry.selection, entry.places, same);
  if (again.lost.length > 0) throw new InvalidParams(`${operation.name}: ${describeLost(again.lost)}.`);
  const pointed = paramsFoundAgain(operation, part.cage, entry.params, entry.paramPlaces, same);
  if (pointed.problem) throw new InvalidParams(`${operation.name}: of what it was pointed at, ${pointed.problem}.`);
  const { selection } = again;
  const found = { of: again.of + (pointed.found?.of ?? 0), byPlace: again.byPlace + (pointed.found?.byPlace ?? 0) };
  const result = replayOn(state, entry, operation, part, selection, pointed.params, same);
  return { ...result, part: part.id, found };
}

/** @throws InvalidParams where there is no such part, or no name */
function renamed(state: JobState, { part, params }: Entry): Replayed {
  const name = typeof params.name === 'string' ? params.name.trim().slice(0, 200) : '';
  if (name === '') throw new InvalidParams('Rename part: a name is needed.');
  if (!state.parts.some((p) => p.id === part)) throw new InvalidParams('Rename part: the part is not there any more.');
  return { ...nothingDone, state: { parts: state.parts.map((p) => (p.id === part ? { ...p, name } : p)) }, part };
}

/** The stored result of an entry: nothing is computed, and nothing looked for. */
function storedReplayed(state: JobState, part: Part, entry: Entry, stored: CageArrays): Replayed {
  const cage = cageOfArrays(stored);
  return { ...nothingDone, state: { parts: state.parts.map((p) => (p === part ? { ...p, cage } : p)) }, part: part.id, notes: entry.notes };
}

/** What an entry made of a dense mesh. */
function meshReplayed(state: JobState, part: Part, mesh: PolygonMesh, notes: readonly string[]): Replayed {
  Reference.moved(part.mesh!, mesh);
  return { ...nothingDone, state: { parts: state.parts.map((p) => (p === part ? { ...p, mesh } : p)) }, part: part.id, notes };
}

type Outcome = Pick<Replayed, 'state' | 'selection' | 'notes'>;

/** An entry that changes a part, on the elements and with the parameters as they are now. */
function replayOn(state: JobState, entry: Entry, operation: Operation, part: Part, selection: Selection, params: Params, same: boolean): Outcome {
  const cage = part.cage!;
  const withPart = (changed: Partial<Part>): JobState => ({ parts: state.parts.map((p) => (p.id === part.id ? { ...p, ...changed } : p)) });
  switch (operation.kind) {
    case 'parts':
      return replayParts(state, entry, operation, part, selection, params);
    case 'surface': {
      const { surface, notes } = applySurfaceOperation(operation, cage, part, params);
      return { state: withPart(surface), selection, notes };
    }
    case 'cage': {
      const result = applyOperation(operation, cage, selection, params, surroundings(state.parts, part));
      return { state: withPart({ cage: result.cage }), selection: result.selection, notes: result.notes };
    }
    default: {
      if (!entry.cast || !entry.seam) throw new InvalidParams(`${operation.name}: the stored result is missing.`);
      const back = putBack(cage, selection.faces, entry.cast, entry.seam, same);
      refuseBadPositions(operation.name, entry.cast.positions);
      return { state: withPart({ cage: back.cage }), selection: back.selection, notes: entry.notes };
    }
  }
}

/** The same of a dense mesh. */
export function meshAsPreviewed(state: JobState, id: string, made: { mesh: PolygonMesh; notes: readonly string[] }): Replayed {
  return meshReplayed(
    state,
    state.parts.find((p) => p.id === id)!,
    made.mesh,
    made.notes
  );
}

/** What an entry is known to make of a part before it is added: it was previewed on this very state. */
export function asPreviewed(
  state: JobState,
  entry: Pick<Entry, 'part' | 'selection'>,
  made: { cage: Cage; selection: Selection; notes: readonly string[] }
): Replayed {
  const { vertices, edges, faces } = entry.selection;
  return {
    state: { parts: state.parts.map((p) => (p.id === entry.part ? { ...p, cage: made.cage } : p)) },
    selection: made.selection,
    part: entry.part,
    notes: made.notes,
    found: { of: vertices.length + edges.length + faces.length, byPlace: 0 }
  };
}

/** Refuses an entry that leaves every part as it was. @throws OperationRefused */
export function refuseNothingDone(before: JobState, made: Pick<Replayed, 'state' | 'notes'>, entry: Entry): void {
  const same = ({ cage, mesh, scheme, borderCorners, plan, name }: Part, now: Part) =>
    mesh === now.mesh &&
    JSON.stringify([name, scheme, borderCorners, plan]) === JSON.stringify([now.name, now.scheme, now.borderCorners, now.plan]) &&
    (cage === now.cage || (cage !== undefined && now.cage !== undefined && isUnchanged(cage, now.cage)));
  if (before.parts.length !== made.state.parts.length || !before.parts.every((p, i) => same(p, made.state.parts[i]))) return;
  const operation = operationById(entry.operation);
  // a report of a level plan is no reason
  const why = operation?.kind === 'cage' ? made.notes : [];
  refuse(
    [`${operation?.name ?? 'The operation'} would change nothing here, so nothing was done.`, ...why].join(' '),
    undefined,
    'Pick something else, or change its numbers.'
  );
}

/** Refuses what changes parts that are locked. @param locked their ids @throws OperationRefused */
export function refuseLocked(before: JobState, after: JobState, locked: readonly string[]): void {
  const changed = before.parts.find((part) => locked.includes(part.id) && !after.parts.includes(part));
  if (changed) throw new OperationRefused(lockedRefusal(changed.name));
}

/** What is said where a part that is locked would be changed. */
export const lockedRefusal = (name: string): Refusal => ({ found: `${name} is locked.`, instead: 'Unlock it in the list of parts.' });

function replayMaking(state: JobState, entry: Entry, operation: Operation): Replayed {
  const mesh = operation.kind === 'shape' ? operation.make(validParams(operation, entry.params)) : entry.cast;
  if (!mesh) throw new InvalidParams(`${operation.name}: the stored result is missing.`);
  refuseBadPositions(operation.name, mesh.positions);
  return {
    ...nothingDone,
    state: { parts: [...state.parts.filter((p) => p.id !== entry.part), madePart(entry, mesh)] },
    part: entry.part,
    notes: entry.notes
  };
}

/** The reference of a job: of several the last one brought in counts. */
export const referenceOf = (parts: readonly Part[]): PolygonMesh | undefined => parts.findLast((p) => p.kind === 'reference')?.mesh;

/** What an operation on a part may look at beside its cage. */
export const surroundings = (parts: readonly Part[], { scheme, borderCorners, plan }: Part): Surroundings => ({
  surface: { scheme, borderCorners, plan },
  reference: referenceOf(parts)
});

/** Cages of a job other than one part, as operands. */
export const otherCages = (parts: readonly Part[], id: string): NamedCage[] =>
  parts.flatMap((p) => (p.cage && p.id !== id ? [{ id: p.id, name: p.name, cage: p.cage }] : []));

function replayParts(state: JobState, entry: Entry, operation: PartsOperation, part: Part, selection: Selection, params: Params): Outcome {
  const active = { id: part.id, name: part.name, cage: part.cage! };
  const result = applyPartsOperation(operation, active, otherCages(state.parts, part.id), selection, params);
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
  return { state: { parts: [...kept, ...made] }, selection: result.selection, notes: result.notes };
}

function madePart(entry: Entry, mesh: PolygonMesh): Part {
  const { name, kind, scheme = 'catmull-clark', borderCorners = 'sharp' } = entry.makes!;
  const part: Part = { id: entry.part, name, kind, scheme, borderCorners };
  return kind === 'cage' ? { ...part, cage: Cage.fromPolygons(mesh) } : { ...part, mesh };
}

/** What an entry gives, or the state before it with the reason why it was skipped. */
export function orFlagged(state: JobState, entry: Entry, made: () => Replayed): Replayed {
  try {
    return made();
  } catch (error) {
    return { ...nothingDone, state, part: entry.part, notes: entry.notes, problem: problemOf(entry, error) };
  }
}
