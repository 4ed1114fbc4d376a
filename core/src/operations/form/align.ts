import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { isEmpty, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params } from '../operation.ts';

interface AlignParams {
  axis: 'X' | 'Y' | 'Z' | 'all';
  to: 'lowest' | 'middle' | 'highest' | 'value';
  value: number;
  how: 'vertices' | 'whole';
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const { axis, to, value, how } = params as unknown as AlignParams;
  const copy = cage.clone();
  const vertices = verticesOf(cage, selection);
  for (const k of axis === 'all' ? [0, 1, 2] : ['XYZ'.indexOf(axis)]) {
    let low = Infinity;
    let high = -Infinity;
    for (const v of vertices) {
      low = Math.min(low, cage.positions[3 * v + k]);
      high = Math.max(high, cage.positions[3 * v + k]);
    }
    const middle = (low + high) / 2;
    const line = { lowest: low, middle, highest: high, value }[to];
    for (const v of vertices) copy.positions[3 * v + k] = how === 'vertices' ? line : cage.positions[3 * v + k] + line - middle;
  }
  return { cage: copy, selection, notes: [] };
}

/** Gives picked vertices one coordinate, or centres them as a whole on a typed value. */
export const align: CageOperation = {
  kind: 'cage',
  id: 'align',
  bench: 3,
  group: 'Form',
  name: 'Align',
  purpose: 'Put picked vertices at one coordinate along an axis, or centre them exactly on a typed value.',
  icon: 'AlignHorizontalCenter',
  needs: 'Pick what to align.',
  params: Joi.object({
    axis: Joi.string()
      .valid('X', 'Y', 'Z', 'all')
      .default('X')
      .label('Along')
      .meta({ labels: { all: 'All three' } }),
    to: Joi.string()
      .valid('middle', 'lowest', 'highest', 'value')
      .default('middle')
      .label('To')
      .meta({ labels: { middle: 'Their middle', lowest: 'The lowest', highest: 'The highest', value: 'A typed value' } }),
    value: Joi.number()
      .min(-1e6)
      .max(1e6)
      .default(0)
      .label('Value')
      .unit('mm')
      .meta({ step: 0.5, when: { field: 'to', is: 'value' } }),
    how: Joi.string()
      .valid('vertices', 'whole')
      .default('vertices')
      .label('Moves')
      .meta({ labels: { vertices: 'Every vertex there', whole: 'Together, their centre there' } })
  }),
  check: (_cage, selection, params) => {
    if (isEmpty(selection)) return { found: 'Nothing is picked.', instead: 'Pick what to align.' };
    const p = params as unknown as AlignParams;
    if (p.axis === 'all' && p.how === 'vertices')
      return {
        numbers: true,
        found: 'Every vertex would land on one point.',
        instead: 'Align along one axis, or move them all together; to make one vertex of them use Weld.'
      };
    return undefined;
  },
  run
};
