import Joi from 'joi';
import { type Cage } from '../mesh/cage.ts';
import { applyOperation } from '../operations/apply.ts';
import { type CageOperation, type Params, type Surroundings } from '../operations/operation.ts';
import { InvalidParams, OperationRefused } from '../operations/refusal.ts';
import { operationById } from '../operations/registry.ts';
import { finds } from '../select/finds.ts';
import { describeSelection, emptySelection, isEmpty, selectFaces, type Selection } from '../select/selection.ts';

/** What a step of a routine works on: a way to find and pick, by its id, with a number where it takes one; each begins at what the one before picked. */
export interface Query {
  find: string;
  /** a text like "$angle" stands for the routine's number of that name */
  number?: number | string;
}

/** One step: an operation, its parameters, and what it works on. */
export interface RoutineStep {
  operation: string;
  /** a text like "$width" stands for the routine's number of that name */
  params: Params;
  /** left out: all of the part, as the operation takes it with nothing picked; `picked`: what the step before left picked */
  on?: readonly Query[] | 'picked' | 'all faces';
  /** where it finds nothing, or is refused, the routine goes on without it */
  optional: boolean;
}

/** A run of steps with numbers by name, to be played on other parts. */
export interface Routine {
  format: 'ulvrin-routine';
  version: 1;
  name: string;
  about: string;
  numbers: Record<string, { label: string; value: number; unit: string }>;
  steps: RoutineStep[];
}

const query = Joi.object({
  find: Joi.string()
    .valid(...finds.map(({ id }) => id))
    .required(),
  number: Joi.alternatives(Joi.number(), Joi.string().pattern(/^\$[A-Za-z]\w*$/))
});

/** Schema of a routine, as it is exported and imported; see docs/routine.md. */
export const routineSchema = Joi.object({
  format: Joi.string().valid('ulvrin-routine').required(),
  version: Joi.number().valid(1).required(),
  name: Joi.string().trim().min(1).max(100).required(),
  about: Joi.string().allow('').max(1000).default(''),
  numbers: Joi.object()
    .pattern(
      /^[a-z][A-Za-z0-9]{0,30}$/,
      Joi.object({ label: Joi.string().max(60).required(), value: Joi.number().required(), unit: Joi.string().allow('').max(10).default('') })
    )
    .default({}),
  steps: Joi.array()
    .min(1)
    .max(500)
    .items(
      Joi.object({
        operation: Joi.string().max(60).required(),
        params: Joi.object().default({}),
        on: Joi.alternatives(Joi.array().min(1).max(20).items(query), Joi.string().valid('picked', 'all faces')),
        optional: Joi.boolean().default(false)
      })
    )
    .required()
});

/** A routine that cannot be read, or played; the message says where. */
export class RoutineError extends Error {}

/** A routine from plain data. @throws RoutineError */
export function readRoutine(data: unknown): Routine {
  const { value, error } = routineSchema.validate(data, { abortEarly: true });
  if (error) throw new RoutineError(`This is no routine: ${error.details[0].message}.`);
  const routine = value as Routine;
  routine.steps.forEach(({ operation, params, on }, i) => {
    if (operationById(operation)?.kind !== 'cage') throw new RoutineError(`Step ${i + 1}: "${operation}" is no operation on a cage.`);
    const asked = Array.isArray(on) ? (on as readonly Query[]).map(({ number }) => number) : [];
    for (const name of namesIn([...Object.values(params), ...asked]))
      if (!(name in routine.numbers)) throw new RoutineError(`Step ${i + 1} asks for the number "${name}", which the routine does not have.`);
  });
  return routine;
}

const named = (value: unknown): string | undefined => (typeof value === 'string' ? /^\$([A-Za-z]\w*)$/.exec(value)?.[1] : undefined);
const namesIn = (values: readonly unknown[]): string[] => values.flatMap((value) => named(value) ?? []);

/** What one step came to. */
export interface PlayedStep {
  operation: string;
  /** id of the operation, its parameters, what it worked on, and what came of it */
  done: { operation: string; params: Params; selection: Selection; cage: Cage; picked: Selection };
  /** what it worked on, in words */
  found: string;
  notes: readonly string[];
  /** why it was left out; nothing where it was done */
  left?: string;
}

/** What playing a routine came to. */
export interface Played {
  cage: Cage;
  selection: Selection;
  steps: PlayedStep[];
}

/** What queries find, one from the other on. */
const foundBy = (cage: Cage, queries: readonly Query[], picked: Selection, valueOf: (name: string) => number): Selection =>
  queries.reduce((from, { find, number }) => {
    const way = finds.find(({ id }) => id === find)!;
    const name = named(number);
    return way.pick(cage, from, name === undefined ? ((number as number | undefined) ?? way.number?.initial ?? 0) : valueOf(name));
  }, picked);

/**
 * Plays a routine on a cage, which is not changed.
 * @param numbers in place of the routine's own, by name
 * @param tell gets the name of each step before it is done, and how far all is, 0 to 1
 * @throws RoutineError naming the step that cannot be done
 */
export function playRoutine(
  cage: Cage,
  routine: Routine,
  numbers: Readonly<Record<string, number>>,
  around: Surroundings,
  tell: (step: string, fraction: number) => void = () => undefined
): Played {
  for (const name of Object.keys(numbers))
    if (!(name in routine.numbers))
      throw new RoutineError(`The routine has no number "${name}"; it has ${Object.keys(routine.numbers).join(', ') || 'none'}.`);
  const valueOf = (name: string) => numbers[name] ?? routine.numbers[name].value;
  let played: Played = { cage, selection: emptySelection(), steps: [] };
  routine.steps.forEach((step, i) => {
    tell(operationById(step.operation)!.name, i / routine.steps.length);
    played = withStep(played, step, i, valueOf, around);
  });
  return played;
}

function withStep(
  { cage, selection, steps }: Played,
  { operation: id, params, on, optional }: RoutineStep,
  i: number,
  valueOf: (name: string) => number,
  around: Surroundings
): Played {
  const operation = operationById(id) as CageOperation;
  const own = Object.fromEntries(Object.entries(params).map(([key, value]) => [key, named(value) === undefined ? value : valueOf(named(value)!)]));
  const found =
    on === undefined
      ? emptySelection()
      : on === 'picked'
        ? selection
        : on === 'all faces'
          ? selectFaces(cage.faces())
          : foundBy(cage, on, emptySelection(), valueOf);
  const told = {
    operation: operation.name,
    done: { operation: id, params: own, selection: found, cage, picked: selection },
    found: on === undefined ? 'the whole part' : describeSelection(cage, found)
  };
  const leave = (why: string): Played => {
    if (!optional) throw new RoutineError(`Step ${i + 1}, ${operation.name} on ${told.found}: ${why}`);
    return { cage, selection, steps: [...steps, { ...told, notes: [], left: why }] };
  };
  if (on !== undefined && isEmpty(found)) return leave('it finds nothing to work on.');
  try {
    const made = applyOperation(operation, cage, found, own, around);
    const done = { ...told.done, cage: made.cage, picked: made.selection };
    return { cage: made.cage, selection: made.selection, steps: [...steps, { ...told, done, notes: made.notes }] };
  } catch (error) {
    if (error instanceof OperationRefused || error instanceof InvalidParams) return leave(error.message);
    throw error;
  }
}
