import Joi from 'joi';
import { turnAllFaces } from '../../mesh/euler-operators.ts';
import { type CageOperation } from '../operation.ts';

/** Turns the part inside out; single faces cannot be turned against their neighbours in a cage. */
export const flip: CageOperation = {
  kind: 'cage',
  id: 'flip',
  bench: 3,
  name: 'Flip',
  purpose: 'Turn the normals of the whole part to the other side.',
  icon: 'ArrowsVertical',
  needs: 'A cage with faces.',
  params: Joi.object({}),
  check: (cage) => (cage.faceCount === 0 ? { found: 'This part has no faces to turn.' } : undefined),
  run: (cage, selection) => {
    const copy = cage.clone();
    turnAllFaces(copy);
    return { cage: copy, selection, notes: [`${copy.faceCount} faces look the other way.`] };
  }
};
