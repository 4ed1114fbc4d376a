import type Joi from 'joi';
import { CageError, type Cage } from '../mesh/cage.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { NotPositiveDefinite } from '../numeric/cholesky.ts';
import { type Triple } from '../numeric/vectors.ts';
import { type Selection } from '../select/selection.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { withSurfaceKept } from './keep-surface.ts';

/** The benches of the job rail, by number. */
export const benches = ['Source', 'Lay', 'Shape', 'Brace', 'Fill', 'Settle', 'Check', 'Deliver'] as const;
export type Bench = 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8;

export type Params = Record<string, unknown>;

/** Why an operation cannot run: what was found, where, and what would make it possible. */
export interface Refusal {
  found: string;
  where?: Selection;
  /** the step that makes it possible */
  instead?: string;
  /** other numbers on the card would make it possible: it can be started all the same */
  numbers?: true;
}

interface OperationBase {
  id: string;
  bench: Bench;
  name: string;
  /** one sentence: what it is for; the lookup searches it */
  purpose: string;
  /** name of an icon of the interface's set */
  icon: string;
  /** place in the rack: a letter of the upper row (all benches) or of the lower row (its bench) */
  key?: 'A' | 'S' | 'D' | 'F' | 'G' | 'Z' | 'X' | 'C' | 'V' | 'B';
  /** heading it is listed under in its bench's list */
  group?: 'Edge flow' | 'Form' | 'Parts and solids' | 'Creases' | 'Support loops' | 'Surface' | 'Holes';
  /** what must be picked or present, as the hover text of the dimmed key says it */
  needs: string;
  /**
   * its parameter `points` is filled by pointing on the stand, once it has begun: on places of the cage, on such and new
   * points beside it (corners), on points in space alone, or on one point of the smooth surface
   */
  pointed?: 'cage' | 'corners' | 'space' | 'surface';
  /** Enter applies it and begins the next one on what it made */
  goesOn?: boolean;
  /** fields of the card, with labels, units, bounds and defaults */
  params: Joi.ObjectSchema;
  /**
   * about how many seconds it takes on a usual machine, at worst; left out: what moving every vertex takes. From `LONG` on it is
   * done in the background, with Stop, and previewed by a worker.
   */
  seconds?(cage: Cage, selection: Selection, params: Params): number;
}

/** Seconds from which on an operation runs in the background. */
export const LONG = 1;
/** Seconds a face that the plainest operations take: they copy the cage. */
const PLAIN_SECONDS = 6e-6;
/** Seconds a face that a refit for `keepSurface` takes, and at most: it goes by what changed, which a loop makes some hundred faces of. */
const [REFIT_SECONDS, MOST_REFIT_SECONDS] = [1e-3, 8];

/** Picked elements times faces: what operations take that look through the cage for each of them. */
export const pickedTimesFaces = (cage: Cage, { vertices, edges, faces }: Selection): number =>
  (vertices.length + edges.length + faces.length) * cage.faceCount;

/** About how many seconds an operation takes at worst on what is picked. */
export function secondsFor(operation: Operation, cage: Cage, selection: Selection, params: Params): number {
  const own = operation.seconds?.(cage, selection, params) ?? 0;
  const refit = params.keepSurface === true ? Math.min(MOST_REFIT_SECONDS, REFIT_SECONDS * cage.faceCount) : 0;
  return Math.max(own, PLAIN_SECONDS * cage.faceCount) + refit;
}

export interface CageResult {
  cage: Cage;
  selection: Selection;
  notes: string[];
}

/** What a cage is made for: how it is subdivided, and the dense mesh it is laid over, if there is one. */
export interface Surroundings {
  surface: SurfaceSettings;
  reference?: PolygonMesh;
}

const PLAIN: Surroundings = { surface: { scheme: 'catmull-clark', borderCorners: 'sharp' } };

/** Changes one cage; pure: what it changes it copies. */
export interface CageOperation extends OperationBase {
  kind: 'cage';
  /** its parameter `keepSurface` asks for a refit that leaves the smooth surface where it was; beside the faces it made, which it picks, or there too */
  keepsSurface?: 'beside' | 'there too';
  /** nothing where it can run */
  check(cage: Cage, selection: Selection, params: Params, around: Surroundings): Refusal | undefined;
  run(cage: Cage, selection: Selection, params: Params, around: Surroundings): CageResult;
  /** ways it can go, each with what it costs, to choose from before it is done */
  proposals?(cage: Cage, selection: Selection): Proposal[];
  /** a point that can be dragged on the stand while its card is open; nothing where there is none */
  grip?(cage: Cage, selection: Selection, params: Params): Grip | undefined;
}

/** A point that is dragged from stop to stop, each of which chooses parameters; a line leads to it. */
export interface Grip {
  label: string;
  /** where the line begins */
  from: Triple;
  at: Triple;
  stops: { at: Triple; params: Params }[];
  /** what is shown beside it: the number it stands at */
  shows?: string;
}

/** One way an operation can go. */
export interface Proposal {
  label: string;
  /** parameters that choose it; missing where it is not possible here */
  params?: Params;
  /** what it costs, or why it is not possible */
  cost: string;
}

/** Makes a new cage from its parameters alone. */
export interface ShapeOperation extends OperationBase {
  kind: 'shape';
  make(params: Params): PolygonMesh;
}

/** A cage with the part's id and name. */
export interface NamedCage {
  id: string;
  name: string;
  cage: Cage;
}

export interface PartsResult extends CageResult {
  /** ids of parts that go */
  gone: string[];
  /** new parts */
  made: { name: string; cage: Cage }[];
}

/** Works on the active part and another, which its parameter `with` names; may make parts and take some away. */
export interface PartsOperation extends OperationBase {
  kind: 'parts';
  check(active: NamedCage, other: NamedCage | undefined, selection: Selection, params: Params): Refusal | undefined;
  run(active: NamedCage, other: NamedCage | undefined, selection: Selection, params: Params): PartsResult;
}

/** Changes how a part is subdivided; its cage stays. */
export interface SurfaceOperation extends OperationBase {
  kind: 'surface';
  check(cage: Cage, params: Params): Refusal | undefined;
  run(cage: Cage, surface: SurfaceSettings, params: Params): { surface: SurfaceSettings; notes: string[] };
  /** the parameters that say what a part has now */
  paramsOf(surface: SurfaceSettings): Params;
}

/** Makes a new part by a long computation or from a file; its result is cast. */
export interface SourceOperation extends OperationBase {
  kind: 'source';
}

export type Operation = CageOperation | PartsOperation | ShapeOperation | SurfaceOperation | SourceOperation;

/** Thrown by `applyOperation`; carries the refusal. */
export class OperationRefused extends Error {
  constructor(readonly refusal: Refusal) {
    super([refusal.found, refusal.instead].filter(Boolean).join(' '));
  }
}

/** Thrown where parameters break their schema; the message names the field. */
export class InvalidParams extends Error {}

/** Parameters checked against the schema, defaults filled in. @throws InvalidParams */
export function validParams(operation: Operation, params: Params): Params {
  const { value, error } = operation.params.validate(params, { abortEarly: true, convert: true });
  if (error) throw new InvalidParams(`${operation.name}: ${error.details[0].message}.`);
  return value as Params;
}

/** Coordinates beyond this many mm are no part of a shape any more. */
const FARTHEST = 1e9;

/**
 * Checks the outcome of an operation once, where it ends.
 * @param length how many of the numbers count; slots behind them are free
 * @throws OperationRefused naming the operation where a coordinate is no number, or beyond 1e9 mm
 */
export function refuseBadPositions(name: string, positions: ArrayLike<number>, length = positions.length): void {
  for (let i = 0; i < length; i++)
    if (!(Math.abs(positions[i]) <= FARTHEST))
      throw new OperationRefused({
        found: `${name}: the result has a vertex at ${Number.isNaN(positions[i]) ? 'a place that is no number' : 'over a million km'}.`,
        instead: 'Try other numbers, or repair what has no area or no length there.'
      });
}

/** Faces that an operation may leave: more cannot be drawn and saved. */
export const MOST_FACES = 2_000_000;

/** Why something cannot be made that would have so many faces; nothing where it can. */
export function tooMany(what: string, faces: number, instead: string, where?: Selection): Refusal | undefined {
  if (faces <= MOST_FACES) return undefined;
  const [many, most] = [faces, MOST_FACES].map((n) => Math.round(n).toLocaleString('en'));
  return { found: `${what} would have ${many} faces; ${most} is the most.`, where, instead };
}

/** The same, thrown. @throws OperationRefused */
export function refuseTooMany(what: string, faces: number, instead: string): void {
  const refusal = tooMany(what, faces, instead);
  if (refusal) throw new OperationRefused(refusal);
}

/** Ends a `run` with a refusal that only the run itself could find out. */
export function refuse(found: string, where?: Selection, instead?: string): never {
  throw new OperationRefused({ found, where, instead });
}

/** What some work gives, or nothing where an operation in it is refused. */
export function unlessRefused<T>(work: () => T): T | undefined {
  try {
    return work();
  } catch (error) {
    if (error instanceof OperationRefused) return undefined;
    throw error;
  }
}

/** Checks, then runs. @throws InvalidParams, OperationRefused */
export function applyOperation(operation: CageOperation, cage: Cage, selection: Selection, params: Params, around: Surroundings = PLAIN): CageResult {
  const valid = validParams(operation, params);
  const refusal = operation.check(cage, selection, valid, around);
  if (refusal) throw new OperationRefused(refusal);
  return refusingCageErrors(() => {
    const made = operation.run(cage, selection, valid, around);
    const result = operation.keepsSurface && valid.keepSurface ? withSurfaceKept(cage, made, around.surface, operation.keepsSurface) : made;
    refuseBadCage(operation.name, result.cage);
    if (result.cage.faceCount > cage.faceCount) refuseTooMany('The result', result.cage.faceCount, 'Take smaller numbers, or fewer faces.');
    return result;
  });
}

/** Checks, then gives a part's new settings. @throws InvalidParams, OperationRefused */
export function applySurfaceOperation(
  operation: SurfaceOperation,
  cage: Cage,
  surface: SurfaceSettings,
  params: Params
): { surface: SurfaceSettings; notes: string[] } {
  const valid = validParams(operation, params);
  const refusal = operation.check(cage, valid);
  if (refusal) throw new OperationRefused(refusal);
  return operation.run(cage, surface, valid);
}

/** The part that `with` names; with no name given, the first of the others. */
const otherPart = (others: readonly NamedCage[], params: Params): NamedCage | undefined =>
  params.with ? others.find(({ id }) => id === params.with) : others[0];

/** Checks an operation on parts, with its parameters as they are. */
export function checkPartsOperation(
  operation: PartsOperation,
  active: NamedCage,
  others: readonly NamedCage[],
  selection: Selection,
  params: Params
): Refusal | undefined {
  return operation.check(active, otherPart(others, params), selection, params);
}

/** Checks, then runs an operation on parts. @throws InvalidParams, OperationRefused */
export function applyPartsOperation(
  operation: PartsOperation,
  active: NamedCage,
  others: readonly NamedCage[],
  selection: Selection,
  params: Params
): PartsResult {
  const valid = validParams(operation, params);
  const refusal = checkPartsOperation(operation, active, others, selection, valid);
  if (refusal) throw new OperationRefused(refusal);
  return refusingCageErrors(() => {
    const result = operation.run(active, otherPart(others, valid), selection, valid);
    for (const { cage } of [result, ...result.made]) refuseBadCage(operation.name, cage);
    return result;
  });
}

/** Free slots of vertices may hold anything: only where a number is off are they told apart. */
function refuseBadCage(name: string, cage: Cage): void {
  try {
    refuseBadPositions(name, cage.positions, 3 * cage.vertexSlots);
  } catch {
    refuseBadPositions(name, cage.toPolygons().positions);
  }
}

/** Whether a solve found its matrix singular, or so near to it that nothing can be told. */
const isUnsolvable = (error: unknown): boolean => error instanceof NotPositiveDefinite || (error instanceof Error && /singular/i.test(error.message));

function refusingCageErrors<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof CageError) throw new OperationRefused({ found: error.message });
    if (isUnsolvable(error))
      throw new OperationRefused({
        found: 'The equations of this fit have no single solution: vertices coincide there, or lie on one line.',
        instead: 'Weld near vertices first, or pick a larger area.'
      });
    throw error;
  }
}

/** One field of a card, read from a schema. */
export interface Field {
  name: string;
  label: string;
  type: 'number' | 'switch' | 'choice' | 'text' | 'profile' | 'part';
  unit?: string;
  min?: number;
  max?: number;
  step?: number;
  whole?: boolean;
  initial: unknown;
  choices?: { value: string; label: string }[];
  help?: string;
  /** `min` itself is not allowed */
  above?: boolean;
  /** shown only while another field has a value */
  when?: { field: string; is: string };
  /** one of the fields that are seldom needed, shown on demand */
  more?: boolean;
  /** it can be dragged as well as typed */
  slider?: boolean;
}

/** The parts of a schema that `describe()` would list; Joi's browser build leaves that method out. */
interface SchemaTerms {
  type: string;
  _flags: { label?: string; default?: unknown; unit?: string; description?: string };
  _rules: { name: string; args?: { limit?: number } }[];
  _valids?: { values(): unknown[] } | null;
  $_terms: {
    keys?: { key: string; schema: SchemaTerms }[];
    metas: {
      step?: number;
      labels?: Record<string, string>;
      when?: { field: string; is: string };
      more?: boolean;
      widget?: 'profile' | 'part';
      hidden?: boolean;
      slider?: boolean;
    }[];
  };
}

/** The card's fields, read from the schema itself. */
export function fieldsOf(operation: Operation): Field[] {
  const { keys } = (operation.params as unknown as SchemaTerms).$_terms;
  // lists are made by pointing, not by typing, but for those with a widget of their own
  return (keys ?? [])
    .filter(({ schema }) => (schema.type !== 'array' || schema.$_terms.metas.some((m) => m.widget)) && !schema.$_terms.metas.some((m) => m.hidden))
    .map(({ key: name, schema }) => {
      const limit = (...rules: string[]) => schema._rules.find((r) => rules.includes(r.name))?.args?.limit;
      const meta: SchemaTerms['$_terms']['metas'][number] = Object.assign({}, ...schema.$_terms.metas);
      const allowed = ['string', 'number'].includes(schema.type) ? (schema._valids?.values() ?? []).filter((value) => value !== '') : [];
      const choices = allowed.map((value) => ({ value: String(value), label: meta.labels?.[String(value)] ?? String(value) }));
      return {
        name,
        label: schema._flags.label ?? name,
        type: meta.widget ?? (choices.length > 0 ? 'choice' : schema.type === 'number' ? 'number' : schema.type === 'boolean' ? 'switch' : 'text'),
        unit: schema._flags.unit,
        min: limit('min', 'greater'),
        above: schema._rules.some((r) => r.name === 'greater') || undefined,
        max: limit('max'),
        step: meta.step,
        whole: schema._rules.some((r) => r.name === 'integer'),
        initial: schema._flags.default,
        choices: choices.length > 0 ? choices : undefined,
        help: schema._flags.description,
        when: meta.when,
        more: meta.more,
        slider: meta.slider
      };
    });
}
