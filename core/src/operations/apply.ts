import { heedLocks } from '../even/locks.ts';
import { heedHold } from '../hand/held.ts';
import { heedMask } from '../even/mask.ts';
import { type Cage } from '../mesh/cage.ts';
import { CageError } from '../mesh/half-edges.ts';
import { FARTHEST, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { NotPositiveDefinite } from '../numeric/cholesky.ts';
import { type Selection } from '../select/selection.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import {
  type Surroundings,
  type Operation,
  type Params,
  type CageOperation,
  type CageResult,
  type SurfaceOperation,
  type NamedCage,
  type PartsOperation,
  type Refusal,
  type PartsResult
} from './operation.ts';
import { InvalidParams, OperationRefused, refuseTooMany } from './refusal.ts';
import { withSurfaceKept } from './shared/keep-surface.ts';

const PLAIN: Surroundings = { surface: { scheme: 'catmull-clark', borderCorners: 'sharp' } };

/** Parameters checked against the schema, defaults filled in. @throws InvalidParams */
export function validParams(operation: Operation, params: Params): Params {
  const { value, error } = operation.params.validate(params, { abortEarly: true, convert: true });
  if (error) throw new InvalidParams(`${operation.name}: ${error.details[0].message}.`);
  return value as Params;
}

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

/**
 * Checks an operation on a cage, then runs it; the cage is not changed.
 * @param params by name; what is left out has its default
 * @param around how the cage is subdivided, and the reference it is laid over
 * @returns a new cage, what is picked then, and what is to be said, a sentence each
 * @throws InvalidParams where a number breaks its schema, OperationRefused with the place and what would make it possible
 * @example applyOperation(operationById('extrude') as CageOperation, cage, selectFaces([0]), { distance: 5 }).cage
 */
export function applyOperation(operation: CageOperation, cage: Cage, selection: Selection, params: Params, around: Surroundings = PLAIN): CageResult {
  const valid = validParams(operation, params);
  const refusal = operation.check(cage, selection, valid, around);
  if (refusal) throw new OperationRefused(refusal);
  return refusingCageErrors(() => {
    const made = operation.run(cage, selection, valid, around);
    if (!operation.heedsMask) heedMask(cage, made.cage);
    const result = operation.keepsSurface && valid.keepSurface ? withSurfaceKept(cage, made, around.surface, operation.keepsSurface) : made;
    if (!operation.setsLocks) heedLocks(cage, result.cage);
    if (around.reference) heedHold(cage, result.cage, around.reference);
    refuseBadCage(operation.name, result.cage);
    if (result.cage.faceCount > cage.faceCount) refuseTooMany('The result', result.cage.faceCount, 'Take smaller numbers, or fewer faces.');
    return result;
  });
}

/**
 * Checks an operation on a dense mesh, then runs it; the mesh is not changed, and shares its faces with what comes of it.
 * @throws InvalidParams, OperationRefused where it needs a cage, or the mesh cannot be worked on
 */
export function applyToMesh(operation: CageOperation, mesh: PolygonMesh, params: Params): { mesh: PolygonMesh; notes: string[] } {
  const valid = validParams(operation, params);
  const refusal = operation.onMesh
    ? operation.onMesh.refusal(mesh)
    : { found: `${operation.name} needs a cage.`, instead: 'Lay quads over the dense mesh, or bring it in as a cage.' };
  if (refusal) throw new OperationRefused(refusal);
  const edit = operation.onMesh!.begin(mesh, valid);
  edit.step(valid);
  refuseBadPositions(operation.name, edit.mesh.positions);
  return { mesh: edit.mesh, notes: [...edit.notes] };
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
    if (error instanceof CageError) throw new OperationRefused({ found: error.message, instead: 'Pick other elements, or change the numbers.' });
    if (isUnsolvable(error))
      throw new OperationRefused({
        found: 'The equations of this fit have no single solution: vertices coincide there, or lie on one line.',
        instead: 'Weld near vertices first, or pick a larger area.'
      });
    throw error;
  }
}
