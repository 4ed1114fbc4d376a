import Joi from 'joi';
import { setHeld } from '../../hand/held.ts';
import { holdTo, type HoldSettings, holdWays } from '../../hand/hold.ts';
import { type Cage } from '../../mesh/cage.ts';
import { lengthInWords, spreadInWords } from '../../numeric/length-words.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { isEmpty, selectFaces, selectVertices, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Surroundings } from '../operation.ts';
import { viewField } from '../shared/view-field.ts';
import { counted } from '../shared/words.ts';

const movable = (cage: Cage, selection: Selection): number[] => (isEmpty(selection) ? [...cage.vertices()] : verticesOf(cage, selection));

function run(cage: Cage, selection: Selection, params: Params, { surface, reference }: Surroundings): CageResult {
  const [, , towardsEye] = params.view as Triple[];
  const settings = { ...params, towardsEye, vertices: movable(cage, selection) } as unknown as HoldSettings;
  const { cage: held, report } = holdTo(cage, Reference.of(reference!), surface, settings);
  const { distance, before, passes, lost, flagged, kept } = report;
  const inWords = ({ mean, max }: { mean: number; max: number }) => spreadInWords({ mean, most: max });
  const after = `to reference after ${counted(passes, 'pass', 'passes')}: ${inWords(distance)}`;
  // a smooth surface, or one that lies off it, is fitted once
  const lasts = params.lasting === true && settings.fit === 'vertices' && settings.offset === 0;
  setHeld(held, settings.vertices, lasts);
  const notes = [settings.fit === 'surface' ? `Smooth surface ${after}.` : `Vertices ${after} (before: ${inWords(before)}).`];
  if (flagged.length > 0)
    notes.push(`${counted(flagged.length, 'face')} bridge a gap, or are larger than what the reference has there: they are picked now.`);
  if (lost.length > 0) notes.push(`${counted(lost.length, 'vertex', 'vertices')} found nothing of the reference that looks their way, and stayed.`);
  if (kept.vertices > 0)
    notes.push(
      `${counted(kept.vertices, 'vertex', 'vertices')} of kept edges stayed: the reference lies ${lengthInWords(kept.max)} from them at most, where they would lie without.`
    );
  if (lasts) notes.push('They stay on it, whatever is done later.');
  const wrong = flagged.length > 0 ? selectFaces(flagged) : lost.length > 0 ? selectVertices(lost) : selection;
  return { cage: held, selection: wrong, notes };
}

/** Brings a cage onto the reference and holds it there. */
export const hold: CageOperation = {
  kind: 'cage',
  id: 'hold',
  bench: 2,
  key: 'B',
  name: 'Hold',
  purpose: 'Bring what is picked, or the whole part, onto the reference in passes: its vertices, or its smooth surface; even along it meanwhile.',
  icon: 'Attachment',
  needs: 'Needs a cage with faces, and a reference.',
  heedsMask: true,
  takesView: true,
  once: ['view'],
  params: Joi.object({
    fit: Joi.string()
      .valid('vertices', 'surface')
      .default('vertices')
      .label('Lies on it')
      .meta({ labels: { vertices: 'The vertices', surface: 'The smooth surface' } }),
    passes: Joi.number().integer().min(1).max(20).default(5).label('Passes').meta({ step: 1 }),
    way: Joi.string()
      .valid(...holdWays)
      .default('nearest')
      .label('Look for it')
      .meta({ labels: { nearest: 'At its nearest place', normal: 'Along normals', view: 'Along the view' } }),
    offset: Joi.number().min(-1e4).max(1e4).default(0).label('Over it by').unit('mm').meta({ step: 0.1 }),
    view: viewField(),
    even: Joi.boolean().default(true).label('Even out along it'),
    lasting: Joi.boolean()
      .default(false)
      .label('Held from now on')
      .description('Whatever moves these vertices later, they stay on the reference')
      .meta({ when: { field: 'fit', is: 'vertices' } })
  }),
  seconds: (cage, selection, params) => {
    const many = movable(cage, selection).length;
    return 2e-5 * many * (params.passes as number) + (params.fit === 'surface' ? 1e-3 * many : 0);
  },
  check: (cage, _selection, { lasting, fit, offset }, { reference }) => {
    if (!reference) return { found: 'The job has no reference.', instead: 'Bring a dense mesh in as a reference (bench 1).' };
    if (lasting === true && fit === 'vertices' && offset !== 0)
      return {
        numbers: true,
        found: 'What is held from now on lies on the reference itself.',
        instead: 'Set the distance over it to 0, or hold it once.'
      };
    return cage.faceCount === 0 ? { found: 'The part has no faces to hold.', instead: 'Lay some by hand, or bring in a cage.' } : undefined;
  },
  run
};
