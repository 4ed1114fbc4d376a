import Joi from 'joi';
import { type Act, actsSchema, mirrorOf } from '../../hand/acts.ts';
import { rowWays } from '../../hand/whole-rows.ts';
import { LayEdit } from '../../live/lay-edit.ts';
import { type Cage } from '../../mesh/cage.ts';
import { type Axis } from '../../select/counterparts.ts';
import { emptySelection } from '../../select/selection.ts';
import { type CageOperation, type Params, type Surroundings } from '../operation.ts';
import { NO_REFERENCE, suiting, weldField } from './laying.ts';
import { mirroredField } from '../shared/mirrored-field.ts';

const begin = (cage: Cage, { mirrored, weld }: Params): LayEdit => new LayEdit(cage, mirrorOf(mirrored as 'none' | Axis, weld as number));

/** Lays quads on a reference by hand. */
export const layByHand: CageOperation = {
  kind: 'cage',
  id: 'lay-by-hand',
  bench: 2,
  key: 'X',
  name: 'Lay by hand',
  purpose: 'Lay vertices and quads on the reference by clicking and dragging: quads from edges, whole rows and rings, corners, welds, on both sides.',
  icon: 'Edit',
  needs: 'Needs a reference to lay on.',
  onReference: 'acts',
  once: ['acts'],
  hint: 'Click: vertex, or quad from the edge beside. Drag: an edge out, or a vertex along. Ctrl+click: erase. Backspace: step back. The card lists all.',
  gestures: [
    ['Click', 'a vertex, four make a quad; beside an edge, a quad from it'],
    ['Shift+click', 'fills on between two rows'],
    ['Drag an edge', 'a quad out of it; with Shift a whole row'],
    ['Drag a vertex', 'along the reference, onto another one to weld; with Shift its whole row'],
    ['Alt+click', 'a loop across an edge; beside the quads, a corner apart from them'],
    ['Ctrl+click', 'erases a face or vertex'],
    ['Backspace', 'takes the last step back']
  ],
  params: Joi.object({
    weld: weldField(),
    mirrored: mirroredField(),
    rows: Joi.string()
      .valid(...rowWays)
      .default('outwards')
      .label('Dragged rows go')
      .meta({ labels: { outwards: 'Out of the row', 'same way': 'All the same way' } }),
    join: Joi.boolean().default(false).label('Dragged rows join what they meet'),
    acts: actsSchema.meta({ hidden: true })
  }),
  live: { numbers: ['acts'], begin: (cage, _selection, params) => begin(cage, params) },
  fits: (_positions, reference) => ({ weld: suiting(reference) }),
  check(_cage, _selection, params, { reference }: Surroundings) {
    if (!reference) return NO_REFERENCE;
    return (params.acts as Act[]).length > 0
      ? undefined
      : { numbers: true, waits: true, found: 'Click on the reference: four vertices make a quad.' };
  },
  run(cage, _selection, params) {
    const edit = begin(cage, params);
    edit.step(params);
    return { cage: edit.cage, selection: emptySelection(), notes: [...edit.notes] };
  }
};
