import {
  filledOnReference,
  checkPartsOperation,
  lockedRefusal,
  otherCages,
  surroundings,
  validParams,
  type NamedCage,
  type Operation,
  type Params,
  type Part,
  type Refusal,
  type Selection
} from '@ulvrin/core';

/** What an operation may start on. */
interface Ground {
  active: Part | undefined;
  /** a dense mesh that brushes work on, where no cage is active */
  dense: Part | undefined;
  /** what quads are laid over */
  underQuads: Part | undefined;
  parts: readonly Part[];
  /** ids of parts that nothing may change */
  locked: readonly string[];
}

/** The numbers an operation has where nothing is chosen. */
export const startParams = (operation: Operation): Params => validParams(operation, {});

/** An operation that begins anew on what it made: with the numbers it had, but for those that are meant once. */
export function goingOn<Running extends { operation: Operation; params: Params }>(running: Running): Running {
  const start = startParams(running.operation);
  const anew = (running.operation.once ?? []).map((name): [string, unknown] => [name, start[name]]);
  return { ...running, params: { ...running.params, ...Object.fromEntries(anew) } };
}

/** x, y, z of the vertices of a part. */
const placesOf = (part: Part | undefined): Float64Array =>
  part?.cage?.positions.subarray(0, 3 * part.cage.vertexSlots) ?? part?.mesh?.positions ?? new Float64Array();

/** The numbers an operation begins with: its own, those that suit what it works on, those it was used with last. */
export const paramsToBegin = (operation: Operation, { active, dense, parts }: Ground, lastUsed: Params): Params => ({
  ...startParams(operation),
  ...(operation.kind === 'cage' && operation.fits?.(placesOf(active ?? dense), active && surroundings(parts, active).reference)),
  ...lastUsed,
  ...(operation.pointed && { points: [] }),
  ...(operation.kind === 'surface' && active && operation.paramsOf(active))
});

/** What a running operation was given on the reference, step by step, under a name. */
export function stepsOf(running: { operation: Operation; params: Params } | undefined, name: string): readonly unknown[] {
  const { operation, params = {} } = running ?? {};
  const filled = filledOnReference(operation);
  // a band is drawn at once, or clicked point by point
  return (filled === 'stroke' ? 'points' : filled) === name ? ((params[name] ?? []) as unknown[]) : [];
}

/** Why an operation cannot start on what is there and picked; nothing where it can, other numbers on its card included. */
export function whyNot(operation: Operation, { active, dense, underQuads, parts, locked }: Ground, selection: Selection): string | undefined {
  if (operation.kind === 'task') return underQuads ? undefined : operation.needs;
  if (operation.kind === 'shape' || operation.kind === 'file') return undefined;
  // why a dense mesh cannot be worked on takes a while to find: its card tells it
  if (dense && operation.kind === 'cage' && operation.onMesh) return undefined;
  // a part for what is laid is begun with it
  if (filledOnReference(operation) && !active?.cage) return underQuads ? undefined : operation.needs;
  if (active && locked.includes(active.id)) return inWords(lockedRefusal(active.name));
  if (!active?.cage) return 'It needs a cage: lay quads, bring one in, or add a start shape.';
  // a face can be drawn from a vertex on its own; other pointed operations need faces to point at
  const { faceCount, vertexCount } = active.cage;
  if (operation.pointed) return (operation.pointed === 'corners' ? vertexCount : faceCount) > 0 ? undefined : operation.needs;
  const refusal =
    operation.kind === 'surface'
      ? operation.check(active.cage, operation.paramsOf(active))
      : operation.kind === 'cage'
        ? operation.check(active.cage, selection, startParams(operation), surroundings(parts, active))
        : checkPartsOperation(operation, active as NamedCage, otherCages(parts, active.id), selection, startParams(operation));
  if (refusal?.numbers) return undefined;
  return refusal && inWords(refusal);
}

const inWords = ({ found, instead }: Refusal): string => [found, instead].filter(Boolean).join(' ');
