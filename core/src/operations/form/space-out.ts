import Joi from 'joi';
import { rowsAcross } from '../../even/rows-across.ts';
import { type Cage } from '../../mesh/cage.ts';
import { pieceAt, placeAlong, waysAlong } from '../../numeric/curve.ts';
import { between, dot, length, subtract, type Triple } from '../../numeric/vectors.ts';
import { facesOf, isEmpty, selectVertices, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { edgesIn, linesOf, type VertexLine } from '../shared/chains.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';
import { edgeLengthField } from '../shared/edge-length-field.ts';

interface SpaceOutParams {
  along: 'way' | 'line' | 'rows';
  by: 'even' | 'bend' | 'mm';
  bend: number;
  length: number;
  other: boolean;
  amount: number;
}

/** Points of a line in order; of a closed one the first is the last once more. */
function rowOf(cage: Cage, { vertices, closed }: VertexLine): Triple[] {
  const points = vertices.map((v) => cage.position(v));
  return closed ? [...points, points[0]] : points;
}

/** The lines that are spaced: chains of picked edges, outlines of picked faces, or the rows across these faces. */
const linesMeant = (cage: Cage, selection: Selection, { along }: SpaceOutParams): VertexLine[] =>
  along === 'rows'
    ? rowsAcross(cage, facesOf(cage, selection)).flatMap((vertices) => (vertices.length > 2 ? [{ vertices, closed: false }] : []))
    : linesOf(cage, selection);

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  const own = params as unknown as SpaceOutParams;
  const lines = linesMeant(cage, selection, own);
  if (own.along === 'rows' && lines.length === 0)
    return {
      numbers: true,
      found: 'No row of edges runs across the picked faces.',
      where: selection,
      instead: 'Pick a strip that is two faces wide or more.'
    };
  if (isEmpty(selection) || lines.length === 0)
    return {
      found: 'No chain of edges is picked.',
      where: selection,
      instead: 'Pick edges that follow each other, a loop, or faces for their outline.'
    };
  const { along, by, length: wished } = own;
  const wrong = lines.find((line) => (along === 'line' ? line.closed : line.vertices.length < 3));
  if (!wrong) return along !== 'line' && by === 'mm' ? tooLong(cage, lines, wished) : undefined;
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

/** Refuses edges of so many mm where all but the last of a line are longer than it. */
function tooLong(cage: Cage, lines: readonly VertexLine[], wished: number): Refusal | undefined {
  for (const line of lines) {
    const long = waysAlong(rowOf(cage, line)).at(-1)!;
    const most = long / (edgesIn(line) - 1);
    if (wished >= most)
      return {
        numbers: true,
        found: `Edges of ${wished} mm do not fit: the chain is ${long.toFixed(2)} mm long.`,
        where: selectVertices(line.vertices),
        instead: `Use less than ${most.toFixed(2)} mm.`
      };
  }
  return undefined;
}

/** How far along a row each of its points is to lie, mm. @param reached how far along each lies now; of a closed row its first once more */
function wishedWays(way: readonly Triple[], reached: readonly number[], { by, bend, length: wished }: SpaceOutParams): number[] {
  const last = way.length - 1;
  const whole = reached[last];
  if (by === 'mm') return way.map((_, i) => (i === last ? whole : i * wished));
  if (by === 'even') return way.map((_, i) => (i * whole) / last);
  // as many turns as there are between two points count as so much more way
  const closed = length(subtract(way[0], way[last])) === 0;
  const turn = way.map((p, i) => {
    if (!closed && (i === 0 || i === last)) return 0;
    const [a, b] = [subtract(p, way[i > 0 ? i - 1 : last - 1]), subtract(way[i < last ? i + 1 : 1], p)];
    return Math.acos(Math.min(1, Math.max(-1, dot(a, b) / (length(a) * length(b) || 1))));
  });
  const turns = turn.slice(0, last).reduce((sum, t, i) => sum + (t + turn[i + 1]) / 2, 0);
  const weight = turns > 0 ? (bend / 100) * (whole / turns) : 0;
  const counted = [0];
  for (let i = 1; i <= last; i++) counted.push(counted[i - 1] + reached[i] - reached[i - 1] + (weight * (turn[i - 1] + turn[i])) / 2);
  return way.map((_, i) => {
    const [piece, share] = pieceAt(counted, (i * counted[last]) / last);
    return reached[piece - 1] + share * (reached[piece] - reached[piece - 1]);
  });
}

/** Places along a row of points at wished distances; of a closed row its first once more. */
function spaced(way: readonly Triple[], params: SpaceOutParams): Triple[] {
  const reached = waysAlong(way);
  return wishedWays(way, reached, params).map((goal) => placeAlong(way, reached, goal));
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const own = params as unknown as SpaceOutParams;
  const copy = cage.clone();
  for (const { vertices, closed } of linesMeant(cage, selection, own)) {
    const line = { vertices: own.by === 'mm' && own.other ? [...vertices].reverse() : vertices, closed };
    const row = rowOf(cage, line);
    const last = row.length - 1;
    const places = own.along === 'line' ? row.map((_, i) => between(row[0], row[last], i / last)) : spaced(row, own);
    line.vertices.forEach((v, i) => copy.positions.set(between(row[i], places[i], own.amount / 100), 3 * v));
  }
  return { cage: copy, selection, notes: [] };
}

/** Puts the vertices of picked chains at even distances. */
export const spaceOut: CageOperation = {
  kind: 'cage',
  id: 'space-out',
  bench: 6,
  group: 'Form',
  name: 'Even spacing',
  purpose:
    'Put the vertices of picked loops and chains at even distances, closer where they bend, or at distances in mm, along their way or on a straight line.',
  icon: 'DistributeHorizontalCenter',
  needs: 'Pick edges that follow each other, or a loop.',
  keepsSurface: 'there too',
  params: Joi.object({
    along: Joi.string()
      .valid('way', 'line', 'rows')
      .default('way')
      .label('Along')
      .meta({ labels: { way: 'Their own way', line: 'A line between the ends', rows: 'Rows across the picked faces' } }),
    by: Joi.string()
      .valid('even', 'bend', 'mm')
      .default('even')
      .label('Distances')
      .meta({
        labels: { even: 'All the same', bend: 'Closer where it bends', mm: 'By mm; the last takes the rest' },
        when: { field: 'along', is: 'way|rows' }
      }),
    bend: Joi.number()
      .min(0)
      .max(500)
      .default(100)
      .label('Closer by')
      .unit('%')
      .meta({ step: 10, when: { field: 'by', is: 'bend' } }),
    length: edgeLengthField(),
    other: Joi.boolean()
      .default(false)
      .label('From the other end')
      .meta({ when: { field: 'by', is: 'mm' } }),
    amount: Joi.number().min(0).max(100).default(100).label('Amount').unit('%').meta({ step: 5 }),
    keepSurface: keepSurfaceField().meta({ more: true })
  }),
  check,
  run
};
