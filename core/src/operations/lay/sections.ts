import Joi from 'joi';
import { layFaces } from '../../hand/lay-act.ts';
import { plateOn, type PlateSettings, skinAct, type SkinSettings, skinThrough } from '../../hand/sections.ts';
import { SurfaceWalk } from '../../hand/surface-walk.ts';
import { type Cage } from '../../mesh/cage.ts';
import { waysAlong } from '../../numeric/curve.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { type Axis } from '../../select/counterparts.ts';
import { selectFaces, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal, type Surroundings } from '../operation.ts';
import { meetingNotes, NO_REFERENCE, suiting, weldField } from './laying.ts';
import { mirroredField } from '../shared/mirrored-field.ts';
import { counted } from '../shared/words.ts';

interface SectionParams extends SkinSettings, PlateSettings {
  strokes: Triple[][];
  into: 'skin' | 'plate';
  weld: number;
  mirrored: 'none' | Axis;
}

function check(_cage: Cage, _selection: Selection, params: Params, { reference }: Surroundings): Refusal | undefined {
  if (!reference) return NO_REFERENCE;
  const { strokes, closed, along } = params as unknown as SectionParams;
  if (closed && along < 3) return { numbers: true, found: 'A ring has three quads or more.', instead: 'Take more quads along each stroke.' };
  const short = strokes.findIndex((stroke) => !(waysAlong(stroke).at(-1)! > 0) || stroke.length < (closed ? 3 : 2));
  if (short >= 0 && short < strokes.length - 1)
    return { numbers: true, found: `Stroke ${short + 1} is too short to be a section.`, instead: 'Take it back (Backspace), and draw a longer one.' };
  const drawn = short < 0 ? strokes.length : strokes.length - 1;
  if (drawn >= 2 && short < 0) return undefined;
  return {
    numbers: true,
    waits: true,
    found: drawn === 0 ? 'Draw strokes across the shape, one after the other.' : 'One more stroke: strokes become a skin.'
  };
}

function run(cage: Cage, _selection: Selection, params: Params, { reference }: Surroundings): CageResult {
  const { strokes, into, weld, mirrored, ...settings } = params as unknown as SectionParams;
  const skin = skinThrough(SurfaceWalk.over(Reference.of(reference!)), strokes, settings);
  const axis = 'XYZ'.indexOf(mirrored);
  const isOnMirror = (p: Triple) => axis >= 0 && Math.abs(p[axis]) < weld;
  const act = into === 'plate' ? plateOn(skin, settings, (a, b) => isOnMirror(a) && isOnMirror(b)) : skinAct(skin);
  const laid = layFaces(cage, act, weld, mirrored);
  const notes = [`A ${into} of ${counted(act.faces.length, 'quad')} through ${counted(strokes.length, 'stroke')}.`];
  return { cage: laid.cage, selection: selectFaces(laid.made), notes: [...notes, ...meetingNotes(laid, weld)] };
}

/** Lays a skin of quads through strokes, or a plate. */
export const sections: CageOperation = {
  kind: 'cage',
  id: 'sections',
  bench: 2,
  group: 'On the reference',
  name: 'Sections',
  purpose: 'Draw strokes across a shape: they become a skin of quads, however unevenly they were drawn; with a thickness a plate with walls.',
  icon: 'ChartAreaStepper',
  needs: 'Needs a reference to lay on.',
  onReference: 'strokes',
  once: ['strokes'],
  hint: 'Drag over the reference for each section. Backspace takes the last stroke back. Enter applies the skin.',
  params: Joi.object({
    along: Joi.number().integer().min(1).max(500).default(6).label('Quads along each').meta({ step: 1 }),
    between: Joi.number()
      .integer()
      .min(0)
      .max(500)
      .default(0)
      .label('Quads between two')
      .description('0: as many as make them about square')
      .meta({ step: 1 }),
    closed: Joi.boolean().default(false).label('Strokes are rings'),
    into: Joi.string()
      .valid('skin', 'plate')
      .default('skin')
      .label('They become')
      .meta({ labels: { skin: 'A skin', plate: 'A plate' } }),
    thickness: Joi.number()
      .greater(0)
      .max(1e5)
      .default(1)
      .label('Thickness')
      .unit('mm')
      .meta({ step: 0.5, when: { field: 'into', is: 'plate' } }),
    rim: Joi.number()
      .min(0)
      .max(1e5)
      .default(0)
      .label('Outer side drawn in')
      .unit('mm')
      .meta({ step: 0.1, when: { field: 'into', is: 'plate' } }),
    inner: Joi.boolean()
      .default(true)
      .label('Inner side')
      .meta({ when: { field: 'into', is: 'plate' } }),
    weld: weldField(),
    mirrored: mirroredField(),
    strokes: Joi.array()
      .items(Joi.array().items(Joi.array().items(Joi.number()).length(3)).max(20_000))
      .max(200)
      .default([])
      .meta({ hidden: true })
  }),
  fits: (_positions, reference) => ({ weld: suiting(reference) }),
  check,
  run
};
