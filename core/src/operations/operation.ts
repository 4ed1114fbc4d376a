import type Joi from 'joi';
import { type Cage } from '../mesh/cage.ts';
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

/** Checks, then runs. @throws InvalidParams, OperationRefused */
export function applyOperation(operation: CageOperation, cage: Cage, selection: Selection, params: Params): CageResult {
  const valid = validParams(operation, params);
  const refusal = operation.check(cage, selection, valid);
  if (refusal) throw new OperationRefused(refusal);
  return operation.run(cage, selection, valid);
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

interface KeyDescription {
  type: string;
  flags?: { label?: string; default?: unknown; unit?: string; description?: string };
  allow?: unknown[];
  rules?: { name: string; args?: { limit?: number } }[];
  metas?: { step?: number; labels?: Record<string, string>; when?: { field: string; is: string } }[];
}

/** The card's fields, from the schema's own description. */
export function fieldsOf(operation: Operation): Field[] {
  const { keys = {} } = operation.params.describe() as { keys?: Record<string, KeyDescription> };
  return Object.entries(keys).map(([name, key]) => {
    const rule = (rule: string) => key.rules?.find((r) => r.name === rule)?.args?.limit;
    const meta = Object.assign({}, ...(key.metas ?? [])) as NonNullable<KeyDescription['metas']>[number];
    const choices = key.type === 'string' && key.allow?.map((value) => ({ value: String(value), label: meta.labels?.[String(value)] ?? String(value) }));
    return {
      name,
      label: key.flags?.label ?? name,
      type: key.type === 'number' ? 'number' : key.type === 'boolean' ? 'switch' : choices ? 'choice' : 'text',
      unit: key.flags?.unit,
      min: rule('min') ?? rule('greater'),
      max: rule('max'),
      step: meta.step,
      whole: key.rules?.some((r) => r.name === 'integer'),
      initial: key.flags?.default,
      choices: choices || undefined,
      help: key.flags?.description,
      when: meta.when
    };
  });
}
