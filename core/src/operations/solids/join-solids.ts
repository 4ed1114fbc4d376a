import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { CageError } from '../../mesh/half-edges.ts';
import { borderLoops } from '../../mesh/topology.ts';
import { selectEdges, selectFaces } from '../../select/selection.ts';
import { booleanOf, SolidsError, type BooleanKind } from '../../solids/boolean.ts';
import { solidsLoaded } from '../../solids/engine.ts';
import { type NamedCage, type PartsOperation, type Refusal } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { counted } from '../shared/words.ts';

/** Where a part is open, as a refusal. */
function openPlace(part: NamedCage, isActive: boolean): Refusal | undefined {
  const loops = borderLoops(part.cage);
  if (loops.length === 0) return undefined;
  return {
    found: `${part.name} is open: ${loops.length} border${loops.length === 1 ? '' : 's'}, the first of ${loops[0].length} edges at ${placeOf(part.cage, loops[0][0])}.`,
    where: isActive ? selectEdges(loops.flatMap((loop) => loop.map((h) => h >> 1))) : undefined,
    instead: 'Fill its holes first.'
  };
}

const placeOf = (cage: Cage, h: number) =>
  `(${cage
    .position(cage.origin[h])
    .map((x) => x.toFixed(1))
    .join(', ')}) mm`;

function booleanOperation(kind: BooleanKind, what: Pick<PartsOperation, 'id' | 'name' | 'purpose' | 'icon'>): PartsOperation {
  return {
    kind: 'parts',
    bench: 3,
    group: 'Parts and solids',
    ...what,
    needs: 'Two closed parts that are cages.',
    once: ['with'],
    params: Joi.object({
      with: Joi.string().allow('').default('').label('With').meta({ widget: 'part' }),
      keep: Joi.boolean().default(false).label('Keep the other part')
    }),
    check: (active, other) => {
      if (!other) return { found: 'There is no second cage.', instead: 'Add or bring in the other part, and choose it on the card.' };
      if (!solidsLoaded()) return { found: 'The library for solids is still loading.', instead: 'Try again in a moment.' };
      return openPlace(active, true) ?? openPlace(other, false);
    },
    run: (active, other, _selection, params) => {
      try {
        const { cage, cut, whole } = booleanOf(active.cage, other!.cage, kind);
        if (cage.faceCount === 0) refuse(`Nothing would be left of ${active.name}.`, undefined, 'Move one of the parts.');
        return {
          cage,
          gone: params.keep ? [] : [other!.id],
          made: [],
          selection: selectFaces(cut),
          notes: [`${counted(whole, 'face')} stayed as they were, ${cut.length} are pieces of cut ones.`]
        };
      } catch (error) {
        if (error instanceof SolidsError || error instanceof CageError)
          refuse(error.message, undefined, 'Check both parts for faces that run through each other.');
        throw error;
      }
    }
  };
}

export const subtractSolid = booleanOperation('subtract', {
  id: 'subtract',
  name: 'Subtract',
  purpose: 'Cut the other part out of this one; faces that are not cut keep their polygons and marks.',
  icon: 'ShapeExcept'
});
export const joinSolids = booleanOperation('join', {
  id: 'join-solids',
  name: 'Unite',
  purpose: 'Make one solid of this part and another; what lies inside goes.',
  icon: 'ShapeUnite'
});
export const commonSolid = booleanOperation('common', {
  id: 'common',
  name: 'Keep overlap',
  purpose: 'Keep what this part and another have in common.',
  icon: 'ShapeIntersect'
});
