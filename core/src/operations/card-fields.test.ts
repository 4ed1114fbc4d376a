import Joi from 'joi';
import { describe, expect, it } from 'vitest';
import { fieldsOf } from './card-fields.ts';
import { type ShapeOperation } from './operation.ts';

/** A shape with parameters of every kind that a card shows, and two that it does not. */
const everyKind = (params: Joi.PartialSchemaMap): ShapeOperation => ({
  kind: 'shape',
  id: 'gantry',
  bench: 1,
  name: 'Gantry',
  purpose: 'Try the fields of a card out',
  icon: 'Cube',
  needs: 'nothing',
  params: Joi.object(params),
  make: () => ({ positions: new Float64Array(), faceStart: new Int32Array(1), faceVertices: new Int32Array() })
});

describe('fields of a card, read from the schema', () => {
  const fieldOf = (schema: Joi.Schema) => {
    const [{ name, ...field }] = fieldsOf(everyKind({ one: schema }));
    expect(name).toBe('one');
    return Object.fromEntries(Object.entries(field).filter(([, value]) => value !== undefined && value !== false));
  };

  it('has bounds, steps, units and defaults of numbers', () => {
    const width = Joi.number().min(0.5).max(20).unit('mm').default(3).label('Width').description('Across the rail').meta({ step: 0.1, slider: true });
    expect(fieldOf(width)).toEqual({
      label: 'Width',
      type: 'number',
      unit: 'mm',
      min: 0.5,
      max: 20,
      step: 0.1,
      initial: 3,
      help: 'Across the rail',
      slider: true
    });
  });

  it('tells whole numbers, and bounds that are not reached themselves', () => {
    expect(fieldOf(Joi.number().integer().min(1).default(4).label('Bays'))).toEqual({
      label: 'Bays',
      type: 'number',
      min: 1,
      whole: true,
      initial: 4
    });
    expect(fieldOf(Joi.number().greater(0).default(1).label('Reach'))).toEqual({ label: 'Reach', type: 'number', min: 0, above: true, initial: 1 });
  });

  it('shows switches, and choices by their labels', () => {
    expect(fieldOf(Joi.boolean().default(true).label('Railing'))).toEqual({ label: 'Railing', type: 'switch', initial: true });
    const kind = Joi.string()
      .valid('fixed', 'sliding')
      .default('fixed')
      .label('Kind')
      .meta({ labels: { sliding: 'On rails' } });
    expect(fieldOf(kind)).toEqual({
      label: 'Kind',
      type: 'choice',
      initial: 'fixed',
      choices: [
        { value: 'fixed', label: 'fixed' },
        { value: 'sliding', label: 'On rails' }
      ]
    });
  });

  it('knows what is shown only with another field, seldom, or with a widget of its own', () => {
    expect(
      fieldOf(
        Joi.number()
          .default(0)
          .meta({ when: { field: 'kind', is: 'sliding' } })
      )
    ).toMatchObject({ when: { field: 'kind', is: 'sliding' } });
    expect(fieldOf(Joi.number().default(0).meta({ more: true }))).toMatchObject({ more: true });
    expect(fieldOf(Joi.array().items(Joi.number()).meta({ widget: 'profile' }))).toMatchObject({ type: 'profile' });
  });

  it('leaves out what is pointed at, and what the stand fills in', () => {
    expect(fieldsOf(everyKind({ points: Joi.array().items(Joi.any()), view: Joi.any().meta({ hidden: true }) }))).toEqual([]);
  });
});
