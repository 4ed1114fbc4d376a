import Joi from 'joi';
import {
  blurred,
  grown,
  maskByBend,
  maskByColour,
  maskByDirection,
  maskByHeight,
  maskedVertices,
  maskOf,
  savedMask,
  savedMasks,
  shrunk,
  withMask,
  withoutSavedMask,
  withSavedMask
} from '../../even/mask.ts';
import { netOf } from '../../even/vertex-net.ts';
import { type Cage } from '../../mesh/cage.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { regionsOf } from '../../select/finds.ts';
import { isEmpty, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { counted } from '../shared/words.ts';

const CHANGES = ['invert', 'clear', 'blur', 'grow', 'shrink'] as const;
const SOURCES = ['picked', 'region', 'colour', 'ridges', 'hollows', 'direction', 'height', 'saved'] as const;
const STORE = ['save', 'forget'] as const;

type Change = (typeof CHANGES)[number];

interface MaskParams {
  by: Change | (typeof SOURCES)[number] | (typeof STORE)[number];
  name: string;
  how: 'instead' | 'add' | 'take';
  times: number;
  bend: number;
  near: number;
  axis: '+X' | '-X' | '+Y' | '-Y' | '+Z' | '-Z';
  angle: number;
  from: number;
  to: number;
}

const isChange = (by: MaskParams['by']): by is Change => (CHANGES as readonly string[]).includes(by);

/** The mask that some numbers mean. */
function meant(cage: Cage, selection: Selection, params: MaskParams): Float64Array {
  const { by, how } = params;
  const own = maskOf(cage);
  if (isChange(by)) return changed(cage, own, by, params.times);
  const found = foundBy(cage, selection, params);
  if (how === 'instead') return found;
  return own.map((m, v) => (how === 'add' ? Math.max(m, found[v]) : Math.min(m, 1 - found[v])));
}

function changed(cage: Cage, mask: Float64Array, by: Change, times: number): Float64Array {
  if (by === 'invert') return mask.map((m) => 1 - m);
  if (by === 'clear') return mask.fill(0);
  const [net, step] = [netOf(cage), { blur: blurred, grow: grown, shrink: shrunk }[by]];
  return Array.from({ length: times }).reduce<Float64Array>((last) => step(net, last), mask);
}

/** What is masked by what is picked, or by form. */
function foundBy(cage: Cage, selection: Selection, { by, bend, near, axis, angle, from, to, name }: MaskParams): Float64Array {
  if (by === 'saved') return savedMask(cage, name)!;
  const k = 'XYZ'.indexOf(axis[1]);
  if (by === 'ridges' || by === 'hollows') return maskByBend(netOf(cage), cage.positions, by === 'ridges' ? 1 : -1, bend / 100);
  if (by === 'height') return maskByHeight(cage, k, from, to);
  if (by === 'direction') {
    const way: Triple = [0, 0, 0];
    way[k] = axis[0] === '+' ? 1 : -1;
    return maskByDirection(netOf(cage), cage.positions, way, angle);
  }
  if (by === 'colour') return maskByColour(cage, verticesOf(cage, selection), near / 100);
  const picked = new Set(verticesOf(cage, by === 'region' ? regionsOf(cage, selection) : selection));
  return Float64Array.from({ length: cage.vertexSlots }, (_, v) => Number(picked.has(v)));
}

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  const { by, name } = params as unknown as MaskParams;
  if (cage.vertexCount === 0) return { found: 'The part has no vertices to mask.', instead: 'Lay or bring in faces first.' };
  if (by === 'colour' && !cage.layers.has('colour'))
    return { numbers: true, found: 'The part has no colours.', instead: 'Bring in a file with colours, or mask by something else.' };
  if ((by === 'picked' || by === 'region' || by === 'colour') && isEmpty(selection))
    return { numbers: true, found: 'Nothing is picked.', instead: 'Pick what is to be masked, or mask by something else.' };
  if (by === 'save' && name === '') return { numbers: true, found: 'The mask needs a name.', instead: 'Type one.' };
  if ((by === 'saved' || by === 'forget') && !savedMasks(cage).includes(name)) {
    const names = savedMasks(cage);
    return {
      numbers: true,
      found: name === '' ? 'No saved mask is named.' : `No mask is saved as ${name}.`,
      instead: names.length > 0 ? `Saved: ${names.join(', ')}.` : 'Save one first.'
    };
  }
  if (((isChange(by) && by !== 'invert') || by === 'save') && !maskOf(cage).some((m) => m > 0))
    return { numbers: true, found: 'Nothing is masked yet.', instead: 'Mask what is picked first, or paint with Mask.' };
  return undefined;
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const { by, name } = params as unknown as MaskParams;
  if (by === 'save') return { cage: withSavedMask(cage, name), selection, notes: [`Mask saved as ${name}.`] };
  if (by === 'forget') return { cage: withoutSavedMask(cage, name), selection, notes: [`The saved mask ${name} is gone.`] };
  const made = withMask(cage, meant(cage, selection, params as unknown as MaskParams));
  const masked = maskedVertices(made).length;
  const all = masked === made.vertexCount && masked > 0 ? ' All of them: nothing moves until some are free.' : '';
  return { cage: made, selection, notes: [`Masked: ${masked.toLocaleString('en')} of ${counted(made.vertexCount, 'vertex', 'vertices')}.${all}`] };
}

const when = (by: string) => ({ when: { field: 'by', is: by } });

/** Masks vertices: what is masked stays where others are moved. */
export const setMask: CageOperation = {
  kind: 'cage',
  id: 'set-mask',
  bench: 6,
  group: 'Masks and locks',
  name: 'Set mask',
  purpose:
    'Hold vertices where others are moved: what is picked, ridges or hollows, what looks a way or lies high; invert, clear, blur, grow or shrink that.',
  icon: 'Locked',
  needs: 'Needs a part with vertices.',
  params: Joi.object({
    by: Joi.string()
      .valid(...SOURCES, ...CHANGES, ...STORE)
      .default('picked')
      .label('Mask')
      .meta({
        labels: {
          picked: 'What is picked',
          region: 'Regions of the picks',
          colour: 'Colours of the picks',
          ridges: 'Ridges',
          hollows: 'Hollows',
          direction: 'What looks a way',
          height: 'What lies high',
          invert: 'Invert',
          clear: 'Clear',
          blur: 'Blur',
          grow: 'Grow',
          shrink: 'Shrink',
          saved: 'A saved mask',
          save: 'Save it under a name',
          forget: 'Forget a saved mask'
        }
      }),
    name: Joi.string().trim().allow('').max(60).default('').label('Name').meta(when('saved|save|forget')),
    how: Joi.string()
      .valid('instead', 'add', 'take')
      .default('instead')
      .label('Goes')
      .meta({ labels: { instead: 'In place of the mask', add: 'To the mask', take: 'Out of the mask' }, ...when(SOURCES.join('|')) }),
    bend: Joi.number()
      .min(0.1)
      .max(100)
      .default(10)
      .label('Stands out by')
      .unit('% of an edge')
      .meta({ step: 1, ...when('ridges|hollows') }),
    near: Joi.number()
      .min(0)
      .max(100)
      .default(10)
      .label('Colours within')
      .unit('%')
      .meta({ step: 1, ...when('colour') }),
    axis: Joi.string().valid('+X', '-X', '+Y', '-Y', '+Z', '-Z').default('+Y').label('Along').meta(when('direction|height')),
    angle: Joi.number()
      .min(1)
      .max(180)
      .default(60)
      .label('Within')
      .unit('°')
      .meta({ step: 5, ...when('direction') }),
    from: Joi.number()
      .min(-1e6)
      .max(1e6)
      .default(0)
      .label('From')
      .unit('mm')
      .meta({ step: 1, ...when('height') }),
    to: Joi.number()
      .min(-1e6)
      .max(1e6)
      .default(0)
      .label('Wholly from')
      .unit('mm')
      .meta({ step: 1, ...when('height') }),
    times: Joi.number().integer().min(1).max(100).default(1).label('Times').meta(when('blur|grow|shrink'))
  }),
  check,
  run
};
