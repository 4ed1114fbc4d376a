import Joi from 'joi';
import { type Act, actsSchema, type MirrorSettings } from '../../hand/acts.ts';
import { LayEdit } from '../../live/lay-edit.ts';
import { type Cage } from '../../mesh/cage.ts';
import { boundsOf } from '../../mesh/polygon-mesh.ts';
import { emptySelection } from '../../select/selection.ts';
import { type CageOperation, type Params, type Surroundings } from '../operation.ts';
import { mirroredField } from '../shared/mirrored-field.ts';

/** The weld distance at first, as a share of the reference's diagonal. */
const WELD = 0.012;

function mirrorOf({ mirrored, weld }: Params): MirrorSettings | undefined {
  return mirrored === 'none' ? undefined : { axis: 'XYZ'.indexOf(mirrored as string), width: weld as number };
}

const begin = (cage: Cage, params: Params): LayEdit => new LayEdit(cage, mirrorOf(params));

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
  hint: 'Click: vertex, or quad from the edge beside. Drag an edge: next quad (Shift: whole row). Drag a vertex: slides, welds on another. Ctrl+click: erase. Backspace or Ctrl+Z: step back.',
  params: Joi.object({
    weld: Joi.number().min(0).max(1e6).default(1).label('Weld within').unit('mm').meta({ step: 0.1 }),
    mirrored: mirroredField(),
    acts: actsSchema.meta({ hidden: true })
  }),
  live: { numbers: ['acts'], begin: (cage, _selection, params) => begin(cage, params) },
  fits: (_positions, reference) => ({ weld: Number((WELD * (reference ? boundsOf(reference.positions).diagonal : 80) || 1).toPrecision(2)) }),
  check(_cage, _selection, params, { reference }: Surroundings) {
    if (!reference) return { found: 'The job has no reference to lay on.', instead: 'Bring a dense mesh in as a reference (bench 1).' };
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
