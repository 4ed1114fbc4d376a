import Joi from 'joi';
import { dabsIn, notAStroke } from '../../even/dabs.ts';
import { type LiveEdit } from '../../live/live-edit.ts';
import { type Cage } from '../../mesh/cage.ts';
import { boundsOf } from '../../mesh/polygon-mesh.ts';
import { type Axis, counterpartsByPosition, mirrorTolerance } from '../../select/counterparts.ts';
import { isEmpty, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type Params, type Refusal, type Surroundings } from '../operation.ts';
import { rampFields } from '../shared/falloff-fields.ts';
import { mirroredField } from '../shared/mirrored-field.ts';

/** Parameters that all brushes have. */
export interface BrushParams {
  dabs: number[];
  radius: number;
  strength: number;
  through: boolean;
  mirrored: 'none' | Axis;
}

/** Tells which vertices are picked: all where nothing is. */
export function isPicked(cage: Cage, selection: Selection): (v: number) => boolean {
  if (isEmpty(selection)) return () => true;
  const picked = new Set(verticesOf(cage, selection));
  return (v) => picked.has(v);
}

/** Images of vertices across a plane. */
export const imagesAcross = (cage: Cage, axis: Axis): ReadonlyMap<number, number> => counterpartsByPosition(cage, axis, mirrorTolerance(cage));

/** Radius of a brush at first, as a share of the part's diagonal. */
const RADIUS = 0.08;

/** What is said until there is a first touch. */
export const waits: Refusal = { numbers: true, waits: true, found: 'Drag over the surface: each stroke is an entry of its own.' };

/** What all brushes have in common. */
export const common = {
  kind: 'cage' as const,
  bench: 6 as const,
  group: 'Brushes' as const,
  needs: 'Needs a part with faces.',
  once: ['dabs'],
  goesOn: true,
  heedsMask: true as const,
  fits: (positions: Float64Array): Params => ({
    radius: Number((RADIUS * boundsOf(positions).diagonal || 10).toPrecision(2))
  }),
  check: (cage: Cage, _selection: Selection, params: Params): Refusal | undefined => {
    if (cage.faceCount === 0) return { found: 'The part has no faces to brush over.', instead: 'Lay or bring in faces first.' };
    return dabsIn(params.dabs as number[]) > 0 ? undefined : waits;
  }
};

/** Fields that all brushes have. */
export const fields = (strength: number) => ({
  radius: Joi.number().greater(0).max(1e6).default(10).label('Radius').unit('mm').meta({ step: 1 }),
  strength: Joi.number().min(0).max(100).default(strength).label('Strength').unit('%').meta({ step: 5 }),
  ...rampFields({ more: true }),
  lag: Joi.number().min(0).max(1e4).default(0).label('Follow the pointer at').unit('mm').meta({ step: 1, more: true }),
  through: Joi.boolean().default(false).label('Through the part').meta({ more: true }),
  mirrored: mirroredField(),
  dabs: Joi.any()
    .custom((value: unknown, helpers) => {
      const why = notAStroke(value);
      return why ? helpers.message({ custom: `"Stroke" ${why}` }) : value;
    })
    .default([])
    .meta({ hidden: true })
});

/** What a stroke makes of a cage: the same live and at once. */
export const worked = (
  begin: (cage: Cage, selection: Selection, params: Params, around?: Pick<Surroundings, 'reference'>) => LiveEdit
): Pick<CageOperation, 'live' | 'run'> => ({
  live: { numbers: ['dabs'], begin },
  run(cage, selection, params, around) {
    const edit = begin(cage, selection, params, around);
    edit.step(params);
    return { cage: edit.cage, selection, notes: [...edit.notes] };
  }
});
