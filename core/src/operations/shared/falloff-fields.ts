import Joi from 'joi';
import { rampKinds, rampOf, type Ramp } from '../../select/falloff.ts';
import { type Params } from '../operation.ts';

/** Fields for the ramp of a falloff: eased, straight, or a curve drawn point by point. @param meta that both have */
export const rampFields = (meta: object = {}): Record<string, Joi.Schema> => ({
  ramp: Joi.string()
    .valid(...rampKinds)
    .default('eased')
    .label('Ramp')
    .meta({ ...meta, labels: { eased: 'Eased', straight: 'Straight', drawn: 'Drawn' } }),
  curve: Joi.array()
    .items(Joi.number().min(0).max(100).required())
    .min(1)
    .max(15)
    .default([84, 50, 16])
    .label('Drawn ramp')
    .meta({ ...meta, widget: 'profile', ends: [100, 0], when: { field: 'ramp', is: 'drawn' } })
});

/** The ramp that such fields mean. */
export const rampOfParams = (params: Params): Ramp | undefined =>
  rampOf(params.ramp as (typeof rampKinds)[number], params.curve as readonly number[]);
