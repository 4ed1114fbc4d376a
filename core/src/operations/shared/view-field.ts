import Joi from 'joi';

/** The directions of the view as the card was opened: right, up and towards the eye, unit vectors; none where there is no stand. */
export const viewField = (): Joi.ArraySchema => Joi.array().items(Joi.array().items(Joi.number()).length(3)).default([]).label('View');
