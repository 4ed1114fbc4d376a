import Joi from 'joi';
import { spreadInWords } from '../../numeric/length-words.ts';
import { fitToReference } from '../../refit/limit-fitted.ts';
import { isEmpty, verticesOf } from '../../select/selection.ts';
import { type CageOperation } from '../operation.ts';
import { counted } from '../shared/words.ts';

/** Vertices beyond which a fit would not be there at once. */
const MOST_VERTICES = 12_000;

/** Fits the limit surface to the reference. */
export const fitReference: CageOperation = {
  kind: 'cage',
  id: 'fit-reference',
  seconds: (cage) => 1 + 9e-4 * cage.faceCount,
  bench: 4,
  group: 'Surface',
  name: 'Fit to reference',
  purpose: 'Move the cage so that its smooth surface, not its vertices, lies on the reference; what is picked moves, or all.',
  icon: 'Fade',
  needs: 'A cage and a reference.',
  params: Joi.object({ passes: Joi.number().integer().min(1).max(20).default(4).label('Passes').meta({ step: 1 }) }),
  check: (cage, selection, _params, { reference }) => {
    const count = isEmpty(selection) ? cage.vertexCount : verticesOf(cage, selection).length;
    if (count > MOST_VERTICES)
      return {
        found: `${count.toLocaleString('en')} vertices would move; ${MOST_VERTICES.toLocaleString('en')} can at once.`,
        instead: 'Pick a part of them.'
      };
    return reference ? undefined : { found: 'The job has no reference.', instead: 'Bring a dense mesh in as a reference (bench 1).' };
  },
  run: (cage, selection, params, { surface, reference }) => {
    const movable = isEmpty(selection) ? [...cage.vertices()] : verticesOf(cage, selection);
    const { cage: fitted, before, after, vertices, unmatched } = fitToReference(cage, reference!, movable, surface, params.passes as number);
    const notes = [
      `Smooth surface to reference: ${spreadInWords(after)} (before: ${spreadInWords(before)}). Cage vertices to reference: ${spreadInWords(vertices)}.`
    ];
    if (unmatched > 0) notes.push(`${counted(unmatched, 'point')} of the surface have no match on the reference.`);
    return { cage: fitted, selection, notes };
  }
};
