import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { between, length, subtract, type Triple } from '../../numeric/vectors.ts';
import { isEmpty, selectVertices, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { linesOf } from '../shared/chains.ts';

interface SpaceOutParams {
  along: 'way' | 'line';
  amount: number;
}

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  const lines = linesOf(cage, selection);
  if (isEmpty(selection) || lines.length === 0)
    return {
      found: 'No chain of edges is picked.',
      where: selection,
      instead: 'Pick edges that follow each other, a loop, or faces for their outline.'
    };
  const { along } = params as unknown as SpaceOutParams;
  const wrong = lines.find((line) => (along === 'line' ? line.closed : line.vertices.length < 3));
  if (!wrong) return undefined;
  return along === 'line'
    ? {
        numbers: true,
        found: 'A closed loop has no ends to draw a line between.',
        where: selectVertices(wrong.vertices),
        instead: 'Space it along its own way.'
      }
    : {
        found: 'Between the ends of a single edge there is nothing to space.',
        where: selectVertices(wrong.vertices),
        instead: 'Pick a longer chain.'
      };
}

/** Places at even distances along a row of points; a closed row ends where it begins. */
function evenly(points: Triple[], closed: boolean): Triple[] {
  const way = closed ? [...points, points[0]] : points;
  const reached = [0];
  for (let i = 1; i < way.length; i++) reached.push(reached[i - 1] + length(subtract(way[i], way[i - 1])));
  const step = reached[reached.length - 1] / (way.length - 1);
  let k = 1;
  return points.map((_, i) => {
    while (k < way.length - 1 && reached[k] < i * step) k++;
    const span = reached[k] - reached[k - 1];
    return between(way[k - 1], way[k], span > 0 ? Math.min(1, (i * step - reached[k - 1]) / span) : 0);
  });
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const { along, amount } = params as unknown as SpaceOutParams;
  const copy = cage.clone();
  for (const { vertices, closed } of linesOf(cage, selection)) {
    const points = vertices.map((v) => cage.position(v));
    const last = points.length - 1;
    const places = along === 'line' ? points.map((_, i) => between(points[0], points[last], i / last)) : evenly(points, closed);
    vertices.forEach((v, i) => copy.positions.set(between(points[i], places[i], amount / 100), 3 * v));
  }
  return { cage: copy, selection, notes: [] };
}

/** Puts the vertices of picked chains at even distances. */
export const spaceOut: CageOperation = {
  kind: 'cage',
  id: 'space-out',
  bench: 3,
  group: 'Form',
  name: 'Even spacing',
  purpose: 'Put the vertices of picked loops and chains at even distances, along their way or on a straight line.',
  icon: 'DistributeHorizontalCenter',
  needs: 'Pick edges that follow each other, or a loop.',
  params: Joi.object({
    along: Joi.string()
      .valid('way', 'line')
      .default('way')
      .label('Along')
      .meta({ labels: { way: 'Their own way', line: 'A line between the ends' } }),
    amount: Joi.number().min(0).max(100).default(100).label('Amount').unit('%').meta({ step: 5 })
  }),
  check,
  run
};
