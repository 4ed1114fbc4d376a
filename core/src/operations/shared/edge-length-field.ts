import Joi from 'joi';

/** The field for how long edges are to be, where the field `by` says that it is told in mm. */
export const edgeLengthField = (): Joi.NumberSchema =>
  Joi.number()
    .greater(0)
    .max(1e6)
    .default(1)
    .label('Edge length')
    .unit('mm')
    .meta({ step: 0.1, when: { field: 'by', is: 'mm' } });
