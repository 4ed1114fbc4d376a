import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { keepSurface, MOST_REFITTED } from '../../refit/limit-kept.ts';
import { type SurfaceSettings } from '../../subdivide/level-plan.ts';
import { type CageOperation, type CageResult } from '../operation.ts';

/** The switch `keepSurface` of operations that can leave the smooth surface where it is. */
export const keepSurfaceField = (): Joi.BooleanSchema => Joi.boolean().default(false).label('Keep surface');

/** Refits what an operation made so that the smooth surface stays, and tells what is left. */
export function withSurfaceKept(
  before: Cage,
  result: CageResult,
  settings: SurfaceSettings,
  where: NonNullable<CageOperation['keepsSurface']>
): CageResult {
  const made = where === 'beside' ? result.selection.faces : [];
  const kept = keepSurface(before, result.cage, settings, new Set(made));
  if (!kept)
    return {
      ...result,
      notes: [...result.notes, `The surface was not refitted: nothing changed, or more than ${MOST_REFITTED} vertices would move.`]
    };
  const mm = (x: number) => (x < 1e-4 ? 'less than 0.0001' : x.toPrecision(2));
  return {
    ...result,
    cage: kept.cage,
    notes: [...result.notes, `Surface kept: ${mm(kept.after)} mm off at most, instead of ${mm(kept.before)} mm.`]
  };
}
