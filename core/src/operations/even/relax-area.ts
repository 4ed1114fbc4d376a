import Joi from 'joi';
import { describeEven, evenedOut, type EvenSettings, evenWays, holdsAll } from '../../even/even-out.ts';
import { type Cage } from '../../mesh/cage.ts';
import { Reference } from '../../reference/reference.ts';
import { isEmpty, selectVertices, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal, type Surroundings } from '../operation.ts';
import { outlineOf } from '../shared/extrude-walls.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';
import { heldFields } from '../shared/held-fields.ts';

interface RelaxParams {
  way: EvenSettings['way'];
  passes: number;
  strength: number;
  alongOnly: boolean;
  borders: boolean;
  creases: boolean;
  regions: boolean;
  outline: boolean;
  onReference: boolean;
}

function settingsFor(cage: Cage, selection: Selection, params: Params, { reference }: Surroundings): EvenSettings {
  const { way, passes, strength, alongOnly, borders, creases, regions, outline, onReference } = params as unknown as RelaxParams;
  return {
    way,
    passes,
    strength: strength / 100,
    alongOnly,
    held: { borders, creases, regions },
    vertices: isEmpty(selection) ? undefined : verticesOf(cage, selection),
    outline: outline && selection.faces.length > 0 ? outlineOf(cage, selection.faces).map((h) => h >> 1) : undefined,
    on: onReference && reference ? Reference.of(reference) : undefined
  };
}

function check(cage: Cage, selection: Selection, params: Params, around: Surroundings): Refusal | undefined {
  const { onReference } = params as unknown as RelaxParams;
  if (onReference && !around.reference)
    return { numbers: true, found: 'There is no reference to stay on.', instead: 'Bring a dense mesh in, or switch "Stay on the reference" off.' };
  if (cage.faceCount === 0) return { found: 'The part has no faces to even out.', instead: 'Lay or bring in faces first.' };
  const settings = settingsFor(cage, selection, params, around);
  if (!holdsAll(cage, settings)) return undefined;
  return {
    numbers: true,
    found: 'All of these vertices are held: they are masked, or lie on borders, creases or the outline of what is picked.',
    where: settings.vertices && selectVertices([...settings.vertices]),
    instead: 'Pick more, or hold less.'
  };
}

function run(cage: Cage, selection: Selection, params: Params, around: Surroundings): CageResult {
  const { cage: made, report } = evenedOut(cage, settingsFor(cage, selection, params, around));
  return { cage: made, selection, notes: [describeEven(report)] };
}

/** Evens out what is picked, or the whole part, by passes. */
export const relaxArea: CageOperation = {
  kind: 'cage',
  id: 'relax-area',
  bench: 6,
  group: 'Form',
  name: 'Relax area',
  purpose: 'Space the vertices of what is picked, or of the whole part, evenly: along the surface with the volume kept, or by plain smoothing.',
  icon: 'WatsonHealthSmoothing',
  needs: 'Needs a part with faces.',
  heedsMask: true,
  keepsSurface: 'there too',
  params: Joi.object({
    way: Joi.string()
      .valid(...evenWays)
      .default('relax')
      .label('By')
      .meta({ labels: { relax: 'Relaxing (volume kept)', smooth: 'Plain smoothing' } }),
    passes: Joi.number().integer().min(1).max(200).default(10).label('Passes'),
    strength: Joi.number().min(0).max(100).default(50).label('Strength').unit('%').meta({ step: 5, slider: true }),
    alongOnly: Joi.boolean()
      .default(false)
      .label('Along the surface only')
      .meta({ when: { field: 'way', is: 'relax' } }),
    ...heldFields({ borders: true, creases: true, regions: true, outline: true }),
    onReference: Joi.boolean().default(false).label('Stay on the reference').meta({ more: true }),
    keepSurface: keepSurfaceField().meta({ more: true })
  }),
  seconds: (cage, _selection, params) => 2e-6 * cage.faceCount * (params.passes as number),
  check,
  run
};
