import Joi from 'joi';

/** The field for a mirror plane at 0 that something is done on both sides of. @param meta besides */
export const mirroredField = (meta: object = {}): Joi.StringSchema =>
  Joi.string()
    .valid('none', 'X', 'Y', 'Z')
    .default('none')
    .label('Symmetric across')
    .meta({ ...meta, labels: { none: 'Nothing', X: 'X = 0', Y: 'Y = 0', Z: 'Z = 0' } });
