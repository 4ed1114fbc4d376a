import Joi from 'joi';
import { offsetSurface } from '../../even/offset.ts';
import { type Cage } from '../../mesh/cage.ts';
import { isEmpty, selectVertices, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params } from '../operation.ts';
import { counted } from '../shared/words.ts';

interface OffsetParams {
  distance: number;
  stops: boolean;
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const { distance, stops } = params as unknown as OffsetParams;
  const vertices = isEmpty(selection) ? [...cage.vertices()] : verticesOf(cage, selection);
  const { cage: made, stopped, folded, passing } = offsetSurface(cage, vertices, distance, stops);
  const notes = [
    ...(stopped.length > 0
      ? [`${counted(stopped.length, 'vertex', 'vertices')} stopped on the way, as faces would have folded over or sides passed each other.`]
      : []),
    ...(folded.length > 0 ? [`${counted(folded.length, 'face')} folded over and are picked now: use a smaller distance, or let vertices stop.`] : []),
    ...(passing.length > 0
      ? [
          `${counted(passing.length, 'vertex', 'vertices')} went past the opposite side and are picked now: use a smaller distance, or let vertices stop.`
        ]
      : [])
  ];
  const wrong = { ...selectVertices(passing), faces: folded };
  return { cage: made, selection: isEmpty(wrong) ? selection : wrong, notes };
}

/** Moves what is picked, or the whole part, along its normals by mm. */
export const offsetArea: CageOperation = {
  kind: 'cage',
  id: 'offset-area',
  bench: 6,
  group: 'Form',
  name: 'Offset',
  purpose: 'Move what is picked, or the whole part, along its normals by mm, so that its faces lie that far off; folds are avoided or told.',
  icon: 'Maximize',
  needs: 'Needs a part with faces.',
  heedsMask: true,
  params: Joi.object({
    distance: Joi.number().min(-1e6).max(1e6).default(1).label('Distance').unit('mm').meta({ step: 0.5 }),
    stops: Joi.boolean().default(true).label('Stop before faces fold over or sides meet')
  }),
  check: (cage) => (cage.faceCount === 0 ? { found: 'The part has no faces to move.', instead: 'Lay or bring in faces first.' } : undefined),
  run
};
