import Joi from 'joi';
import { describeEven, evenedOut, holdsAll, type EvenSettings } from '../../even/even-out.ts';
import { type Cage } from '../../mesh/cage.ts';
import { isEmpty, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';

/** Picked vertices go to the mean of their neighbours, and along lines where they lie on one. */
const settingsOf = (cage: Cage, selection: Selection, params: Params): EvenSettings => ({
  way: 'smooth',
  passes: 1,
  strength: (params.amount as number) / 100,
  held: { borders: false, creases: false, regions: false },
  vertices: verticesOf(cage, selection)
});

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  if (isEmpty(selection)) return { found: 'Nothing is picked.', instead: 'Pick the vertices, edges or faces to average.' };
  if (!holdsAll(cage, settingsOf(cage, selection, params))) return undefined;
  return {
    found: 'All of these vertices are masked, or corners where lines meet.',
    where: selection,
    instead: 'Pick others, or take the mask away.'
  };
}

/** Brings picked vertices to the mean of their neighbours, as far as typed. */
export const average: CageOperation = {
  kind: 'cage',
  id: 'average',
  bench: 6,
  group: 'Form',
  name: 'Average',
  purpose: 'Bring picked vertices to the mean of their neighbours: one number tones it down, and the smooth surface can be kept.',
  icon: 'ChartAverage',
  needs: 'Pick the vertices, edges or faces to average.',
  heedsMask: true,
  keepsSurface: 'there too',
  params: Joi.object({
    amount: Joi.number().min(0).max(100).default(100).label('Amount').unit('%').meta({ step: 5, slider: true }),
    keepSurface: keepSurfaceField()
  }),
  check,
  run(cage: Cage, selection: Selection, params: Params): CageResult {
    const { cage: made, report } = evenedOut(cage, settingsOf(cage, selection, params));
    return { cage: made, selection, notes: [describeEven(report)] };
  }
};
