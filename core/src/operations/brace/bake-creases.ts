import Joi from 'joi';
import { Cage } from '../../mesh/cage.ts';
import { emptySelection } from '../../select/selection.ts';
import { bake } from '../../subdivide/bake.ts';
import { SubdivisionError } from '../../subdivide/level-topology.ts';
import { refuse, type CageOperation } from '../operation.ts';

/** Subdivides a part until creases are not needed any more. */
export const bakeCreases: CageOperation = {
  kind: 'cage',
  id: 'bake-creases',
  seconds: (cage) => 0.4 + 9e-4 * cage.faceCount,
  bench: 4,
  group: 'Surface',
  name: 'Bake creases',
  purpose: 'Subdivide the part so far that a receiver who ignores creases gets the same surface within a tolerance in mm.',
  icon: 'Chemistry',
  needs: 'A part with creases, corners or a level plan.',
  params: Joi.object({ tolerance: Joi.number().min(0.0001).default(0.1).label('Tolerance').unit('mm').meta({ step: 0.05 }) }),
  check: (cage, _selection, _params, { surface }) => {
    const sharp = [...cage.edges()].some((e) => cage.value('crease', e) > 0) || [...cage.vertices()].some((v) => cage.value('corner', v) > 0);
    return sharp || surface.plan
      ? undefined
      : { found: 'The part has no creases, no corners and no level plan.', instead: 'There is nothing to bake.' };
  },
  run: (cage, _selection, params, { surface }) => {
    const mesh = cage.toPolygons();
    try {
      const { mesh: baked, levels, error } = bake(mesh, surface, params.tolerance as number);
      return {
        cage: Cage.fromPolygons(baked),
        selection: emptySelection(),
        notes: [`${levels} level${levels === 1 ? '' : 's'} baked: a receiver that ignores creases is off by ${error.toFixed(3)} mm at most.`]
      };
    } catch (error) {
      if (error instanceof SubdivisionError) return refuse(error.message);
      throw error;
    }
  }
};
