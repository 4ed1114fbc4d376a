import type Joi from 'joi';
import { CageError, type Cage } from '../mesh/cage.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { type Selection } from '../select/selection.ts';

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
  /** what must be picked or present, as the hover text of the dimmed key says it */
  needs: string;
  /** its parameter `points` is filled by pointing on the stand, once it has begun */
  pointed?: boolean;
  /** Enter applies it and begins the next one on what it made */
  goesOn?: boolean;
  /** fields of the card, with labels, units, bounds and defaults */
  params: Joi.ObjectSchema;
}

export interface CageResult {
  cage: Cage;
  selection: Selection;
  notes: string[];
}

/** Changes one cage; pure: what it changes it copies. */
export interface CageOperation extends OperationBase {
  kind: 'cage';
  /** nothing where it can run */
  check(cage: Cage, selection: Selection, params: Params): Refusal | undefined;
  run(cage: Cage, selection: Selection, params: Params): CageResult;
}

/** Makes a new cage from its parameters alone. */
export interface ShapeOperation extends OperationBase {
  kind: 'shape';
  make(params: Params): PolygonMesh;
}

/** Makes a new part by a long computation or from a file; its result is cast. */
export interface SourceOperation extends OperationBase {
  kind: 'source';
}

export type Operation = CageOperation | ShapeOperation | SourceOperation;

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

/** Ends a `run` with a refusal that only the run itself could find out. */
export function refuse(found: string, where?: Selection, instead?: string): never {
  throw new OperationRefused({ found, where, instead });
}

/** Checks, then runs. @throws InvalidParams, OperationRefused */
export function applyOperation(operation: CageOperation, cage: Cage, selection: Selection, params: Params): CageResult {
  const valid = validParams(operation, params);
  const refusal = operation.check(cage, selection, valid);
  if (refusal) throw new OperationRefused(refusal);
  try {
    return operation.run(cage, selection, valid);
  } catch (error) {
    if (error instanceof CageError) throw new OperationRefused({ found: error.message });
    throw error;
  }
}

/** One field of a card, read from a schema. */
export interface Field {
  name: string;
  label: string;
  type: 'number' | 'switch' | 'choice' | 'text';
  unit?: string;
  min?: number;
  max?: number;
  step?: number;
  whole?: boolean;
  initial: unknown;
  choices?: { value: string; label: string }[];
  help?: string;
  /** shown only while another field has a value */
  when?: { field: string; is: string };
}

/** The parts of a schema that `describe()` would list; Joi's browser build leaves that method out. */
interface SchemaTerms {
  type: string;
  _flags: { label?: string; default?: unknown; unit?: string; description?: string };
  _rules: { name: string; args?: { limit?: number } }[];
  _valids?: { values(): unknown[] } | null;
  $_terms: {
    keys?: { key: string; schema: SchemaTerms }[];
    metas: { step?: number; labels?: Record<string, string>; when?: { field: string; is: string } }[];
  };
}

/** The card's fields, read from the schema itself. */
export function fieldsOf(operation: Operation): Field[] {
  const { keys } = (operation.params as unknown as SchemaTerms).$_terms;
  // lists are made by pointing, not by typing
  return (keys ?? [])
    .filter(({ schema }) => schema.type !== 'array')
    .map(({ key: name, schema }) => {
      const limit = (...rules: string[]) => schema._rules.find((r) => rules.includes(r.name))?.args?.limit;
      const meta: SchemaTerms['$_terms']['metas'][number] = Object.assign({}, ...schema.$_terms.metas);
      const allowed = schema.type === 'string' ? (schema._valids?.values() ?? []).filter((value) => value !== '') : [];
      const choices = allowed.map((value) => ({ value: String(value), label: meta.labels?.[String(value)] ?? String(value) }));
      return {
        name,
        label: schema._flags.label ?? name,
        type: schema.type === 'number' ? 'number' : schema.type === 'boolean' ? 'switch' : choices.length > 0 ? 'choice' : 'text',
        unit: schema._flags.unit,
        min: limit('min', 'greater'),
        max: limit('max'),
        step: meta.step,
        whole: schema._rules.some((r) => r.name === 'integer'),
        initial: schema._flags.default,
        choices: choices.length > 0 ? choices : undefined,
        help: schema._flags.description,
        when: meta.when
      };
    });
}
