import Joi from 'joi';
import { lengthInWords } from '../../numeric/length-words.ts';
import { Cage } from '../../mesh/cage.ts';
import { emptySelection } from '../../select/selection.ts';
import { bake } from '../../subdivide/bake.ts';
import { SubdivisionError } from '../../subdivide/level-topology.ts';
import { type CageOperation, type Surroundings } from '../operation.ts';
import { refuse, unlessRefused } from '../refusal.ts';
import { creasedMeant, creasesToLoops, loopsForCreases } from './convert.ts';

/** Subdivides a part until creases are not needed any more. */
export const bakeCreases: CageOperation = {
  kind: 'cage',
  id: 'bake-creases',
  // levels are compared until one is too large; then support loops are tried in its place
  seconds: (cage, selection, params) => 3 + 9e-4 * cage.faceCount + creasesToLoops.seconds!(cage, selection, params),
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
  run: (cage, _selection, params, around) => {
    const { surface } = around;
    const mesh = cage.toPolygons();
    try {
      const { mesh: baked, levels, error } = bake(mesh, surface, params.tolerance as number);
      return {
        cage: Cage.fromPolygons(baked),
        selection: emptySelection(),
        notes: [`${levels} level${levels === 1 ? '' : 's'} baked: a receiver that ignores creases is off by ${error.toFixed(3)} mm at most.`]
      };
    } catch (error) {
      if (error instanceof SubdivisionError) return refuse(error.message, undefined, alternative(cage, around));
      throw error;
    }
  }
};

/** What support loops in place of the creases would come to, for what cannot be baked. */
function alternative(cage: Cage, around: Surroundings): string | undefined {
  const edges = creasedMeant(cage, emptySelection());
  if (edges.length === 0 || edges.some((e) => cage.value('braced', e) > 0)) return undefined;
  const loops = unlessRefused(() => loopsForCreases(cage, edges, around));
  if (loops?.apart === undefined) return undefined;
  const { made, width, apart } = loops;
  return `Creases to support loops comes to ${lengthInWords(apart)} at ${width} mm, with ${made.cage.faceCount.toLocaleString('en')} faces.`;
}
