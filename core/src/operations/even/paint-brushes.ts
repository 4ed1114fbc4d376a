import Joi from 'joi';
import { MaskEdit } from '../../live/mask-edit.ts';
import { ColourEdit, RegionEdit } from '../../live/paint-edit.ts';
import { type Cage } from '../../mesh/cage.ts';
import { colourFromHex } from '../../mesh/colours.ts';
import { regionNamed } from '../../regions/edit-regions.ts';
import { facesOf, isEmpty, type Selection } from '../../select/selection.ts';
import { type CageOperation, type Params } from '../operation.ts';
import { rampOfParams } from '../shared/falloff-fields.ts';
import { type BrushParams, common, fields, imagesAcross, isPicked, worked } from './brush-fields.ts';

/** What a brush takes hold of, by its numbers. */
function touchOf(cage: Cage, selection: Selection, params: Params) {
  const { radius, through, strength } = params as unknown as BrushParams;
  const picked = isPicked(cage, selection);
  return { radius, through, strength: strength / 100, ramp: rampOfParams(params), follows: (v: number) => Number(picked(v)) };
}

/** Paints the mask. */
const maskBrush: CageOperation = {
  ...common,
  id: 'mask-brush',
  key: 'B',
  name: 'Mask',
  purpose: 'Brush that masks vertices, so that they stay where others are moved; with Ctrl it takes masks away.',
  icon: 'Locked',
  brushed: {},
  hint: 'Drag to mask; Ctrl takes masks away. Its key or Alt, and the wheel: size (Shift: strength). Esc ends.',
  params: Joi.object(fields(100)),
  ...worked((cage, selection, params) => {
    const { mirrored } = params as unknown as BrushParams;
    return new MaskEdit(cage, {
      ...touchOf(cage, selection, params),
      imageOf: mirrored === 'none' ? undefined : imagesAcross(cage, mirrored)
    });
  })
};

const { mirrored: _mirrored, ...unmirrored } = fields(100);

/** Paints colours. */
const colourBrush: CageOperation = {
  ...common,
  id: 'colour-brush',
  group: 'Regions and colours',
  name: 'Paint colour',
  purpose: 'Brush that colours vertices; with Ctrl it takes colour away. Masks and picks can go by colours.',
  icon: 'ColorPalette',
  brushed: {},
  shows: 'colours',
  hint: 'Drag to colour; Ctrl takes colour away. Its key or Alt, and the wheel: size (Shift: strength). Esc ends.',
  params: Joi.object({
    colour: Joi.string()
      .pattern(/^#[0-9a-f]{6}$/i)
      .default('#c65d21')
      .label('Colour')
      .meta({ widget: 'colour' }),
    ...unmirrored
  }),
  ...worked(
    (cage, selection, params) => new ColourEdit(cage, { ...touchOf(cage, selection, params), colour: colourFromHex(params.colour as string) })
  )
};

/** Paints regions. */
const regionBrush: CageOperation = {
  ...common,
  id: 'region-brush',
  group: 'Regions and colours',
  name: 'Paint region',
  purpose: 'Brush that puts faces into a region, a new one or one by its name; with Ctrl it takes them out.',
  icon: 'PaintBrush',
  brushed: {},
  shows: 'regions',
  hint: 'Drag over faces; Ctrl takes them out. Its key or Alt, and the wheel: size. Esc ends.',
  params: Joi.object({
    name: Joi.string().allow('').max(60).default('painted').label('Region'),
    ...unmirrored
  }),
  ...worked((cage, selection, params) => {
    const named = cage.clone();
    const region = regionNamed(named, params.name as string);
    const picked = isEmpty(selection) ? undefined : new Set(facesOf(cage, selection));
    const takes = (f: number) => picked?.has(f) ?? true;
    return new RegionEdit(named, { ...touchOf(cage, selection, params), follows: () => 1, region, rest: region === 0 ? 1 : 0, takes });
  })
};

/** The brushes of Even out that paint. */
export const paintBrushes: readonly CageOperation[] = [maskBrush, colourBrush, regionBrush];
