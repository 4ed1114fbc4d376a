import Joi from 'joi';
import { type Apply, fixAll } from '../../check/fix-all.ts';
import { kindCounted, kindHeading } from '../../check/kind-names.ts';
import { emptySelection, selectFaces, selectVertices } from '../../select/selection.ts';
import { applyOperation } from '../apply.ts';
import { type CageOperation, type Surroundings } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { counted, facesChanged } from '../shared/words.ts';

/** Kinds that can be mended in one go, by id. */
const FIXED_TOGETHER = ['cut-end', 'triangle', 'n-gon', 'crack', 'tee', 'hole', 'unbraced-corner', 'open-crease', 'turned', 'inside'] as const;

/** Mends all findings of a kind. @param operationNamed finds an operation by its id: the registry lists this one too */
export const fixAllWith = (operationNamed: (id: string) => CageOperation): CageOperation => ({
  kind: 'cage',
  id: 'fix-all',
  bench: 7,
  group: 'Mending',
  name: 'Fix all of a kind',
  purpose: 'Mend all findings of a kind that show, in one entry: what would change, with the counts before and after, is told first.',
  icon: 'Tools',
  needs: 'Needs a part with findings that show.',
  params: Joi.object({
    which: Joi.string()
      .valid(...FIXED_TOGETHER)
      .default('cut-end')
      .label('Findings')
      .meta({ labels: Object.fromEntries(FIXED_TOGETHER.map((id) => [id, kindHeading(id)])) })
  }),
  seconds: (cage) => 5e-4 * cage.faceCount,
  // whether a finding shows takes a whole check: the run tells it
  check: (cage) => (cage.faceCount > 0 ? undefined : { found: 'No finding of this kind shows.', instead: 'Lay or bring in faces first.' }),
  run(cage, _selection, params, around: Surroundings) {
    const which = params.which as (typeof FIXED_TOGETHER)[number];
    const apply: Apply = (id, on, pick, numbers) => applyOperation(operationNamed(id), on, pick, numbers, around);
    const { cage: made, fixed, left, before, after } = fixAll({ cage, settings: around.surface, reference: around.reference }, which, apply);
    if (fixed === 0 && left.length === 0) refuse('No finding of this kind shows.', undefined, 'Choose another kind.');
    const notes = [`${counted(fixed, 'finding')} mended: ${facesChanged(made.faceCount - cage.faceCount)}.`];
    const others = [...new Set([...before.keys(), ...after.keys()])].filter((kind) => (after.get(kind) ?? 0) !== (before.get(kind) ?? 0));
    notes.push(...others.map((kind) => `${kindCounted(kind, before.get(kind) ?? 0)} before, ${after.get(kind) ?? 0} after.`));
    if (left.length > 0) notes.push(`${counted(left.length, 'finding')} left: their fixes are refused there, or would make something graver.`);
    const own = left.flatMap(({ where }) => where.faces);
    return {
      cage: made,
      selection: own.length > 0 ? selectFaces(own) : left.length > 0 ? selectVertices(left.flatMap((f) => f.where.vertices)) : emptySelection(),
      notes
    };
  }
});
