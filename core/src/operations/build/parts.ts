import Joi from 'joi';
import { cageOfFaces, joinCages } from '../../mesh/join-cages.ts';
import { replaceFaces } from '../../mesh/replace-faces.ts';
import { facesByIsland, islands } from '../../mesh/topology.ts';
import { emptySelection, facesOf, isEmpty, selectFaces } from '../../select/selection.ts';
import { type PartsOperation } from '../operation.ts';

/** Makes one part of two; their islands stay apart. */
export const combine: PartsOperation = {
  kind: 'parts',
  id: 'combine',
  bench: 3,
  group: 'Parts and solids',
  name: 'Merge parts',
  purpose: 'Take another part into this one; their islands stay apart until they are welded or bridged.',
  icon: 'JoinOuter',
  needs: 'Two parts that are cages.',
  once: ['with'],
  params: Joi.object({ with: Joi.string().allow('').default('').label('With').meta({ widget: 'part' }) }),
  check: (_active, other) =>
    other ? undefined : { found: 'There is no second cage to combine with.', instead: 'Choose the other part on the card.' },
  run: (active, other) => {
    const { cage, faceOf } = joinCages(active.cage, other!.cage);
    return { cage, gone: [other!.id], made: [], selection: selectFaces(faceOf.values()), notes: [`${other!.name} is now in ${active.name}.`] };
  }
};

/** Makes parts of their own of picked faces, or of every island. */
export const separate: PartsOperation = {
  kind: 'parts',
  id: 'separate',
  bench: 3,
  group: 'Parts and solids',
  name: 'Split off',
  purpose: 'Make a part of its own of picked faces, or of every island of this part.',
  icon: 'DataShare',
  needs: 'Picked faces, or a part of several islands.',
  params: Joi.object({}),
  check: (active, _other, selection) => {
    const { cage } = active;
    if (isEmpty(selection))
      return islands(cage).count < 2 ? { found: 'This part is one island.', instead: 'Pick the faces to split off.' } : undefined;
    const faces = facesOf(cage, selection);
    if (faces.length === 0) return { found: 'No face is picked.', where: selection, instead: 'Pick faces.' };
    return faces.length === cage.faceCount
      ? { found: 'All faces of the part are picked: nothing would be left in it.', instead: 'Leave some unpicked.' }
      : undefined;
  },
  run: (active, _other, selection) => {
    const { cage } = active;
    const groups = isEmpty(selection) ? facesByIsland(cage).slice(1) : [facesOf(cage, selection)];
    const rest = cage.clone();
    replaceFaces(rest, { gone: groups.flat(), added: [] });
    const made = groups.map((faces) => ({ name: active.name, cage: cageOfFaces(cage, faces).cage }));
    return {
      cage: rest,
      gone: [],
      made,
      selection: emptySelection(),
      notes: [`${made.length} new part${made.length === 1 ? '' : 's'} of ${groups.flat().length} faces.`]
    };
  }
};
