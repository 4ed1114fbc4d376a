import Joi from 'joi';
import { layAlong, type LaidAlong } from '../../fill/rows-along.ts';
import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { mean, type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { selectEdges, selectFaces, type Selection } from '../../select/selection.ts';
import { type CageOperation, type Grip, type Params, type Refusal } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { counted } from '../shared/words.ts';

interface LayParams {
  quads: number;
  weld: number;
  cling: boolean;
}

/** The sides without a face of the two edges that were picked first. */
const sidesMeant = (cage: Cage, { edges }: Selection): number[] =>
  edges.slice(0, 2).flatMap((e) => [2 * e, 2 * e + 1].filter((h) => cage.face[h] === NONE).slice(0, 1));

function check(cage: Cage, selection: Selection): Refusal | undefined {
  const { edges } = selection;
  if (edges.length !== 2)
    return {
      found: `${edges.length === 0 ? 'No edge is' : edges.length === 1 ? 'One edge is' : `${edges.length} edges are`} picked; quads are laid on from two.`,
      where: selectEdges(edges),
      instead: 'Pick the border edge the row begins at, then one beside it to run along, or one that faces it.'
    };
  const closed = edges.filter((e) => !cage.isBorderEdge(e));
  if (closed.length > 0)
    return {
      found: `${closed.length === 2 ? 'Both edges have' : 'One of the edges has'} faces on both sides: nothing can be laid there.`,
      where: selectEdges(closed),
      instead: 'Pick border edges.'
    };
  return undefined;
}

function laid(cage: Cage, selection: Selection, p: LayParams, put?: (at: Triple) => Triple) {
  const copy = cage.clone();
  const [first, second] = sidesMeant(cage, selection);
  return { cage: copy, ...layAlong(copy, first, second, { quads: p.quads, weld: p.weld, put }) };
}

/** The end of the row, which can be dragged to where it is to end. */
function grips(cage: Cage, selection: Selection, params: Params): Grip[] {
  if (check(cage, selection)) return [];
  const p = params as unknown as LayParams;
  const whole: LaidAlong = laid(cage, selection, { ...p, quads: 0 });
  const stop = (sign: number) => (at: Triple, i: number) => ({ at, params: { quads: sign * (i + 1) } });
  const stops = [...whole.rungs.map(stop(1)), ...whole.back.map(stop(-1))];
  const end = stops.find((s) => s.params.quads === (p.quads || whole.rungs.length));
  const ends = [0, 1].map((k) => cage.position(cage.origin[2 * selection.edges[0] + k]));
  return end ? [{ label: 'End of the row', from: mean(ends), at: end.at, stops }] : [];
}

/** Lays a row of quads on from two border edges. */
export const layAlongOperation: CageOperation = {
  kind: 'cage',
  id: 'lay-along',
  bench: 5,
  group: 'Holes',
  name: 'Lay along',
  purpose:
    'Lay quads on from two border edges, along the border or between two, as many as fit or as far as the end is dragged; corners weld to what they meet.',
  icon: 'RowExpand',
  needs: 'Two border edges: the one the row begins at, then one beside it to run along, or one that faces it.',
  goesOn: true,
  params: Joi.object({
    quads: Joi.number()
      .integer()
      .min(-2000)
      .max(2000)
      .default(0)
      .label('Quads')
      .meta({ step: 1 })
      .description('0 lays as many as fit; below 0 the other way, between two borders'),
    weld: Joi.number().min(0).default(0).label('Weld within').unit('mm').meta({ step: 0.1 }).description('0: two fifths of an edge'),
    cling: Joi.boolean().default(true).label('Put on the reference')
  }),
  check,
  grips,
  run: (cage, selection, params, { reference }) => {
    const p = params as unknown as LayParams;
    const on = p.cling && reference ? Reference.of(reference) : undefined;
    const { cage: copy, faces, welded, within } = laid(cage, selection, p, on && ((at) => on.closestPoint(at)));
    if (faces.length === 0)
      refuse(
        'No quad fits between the two edges.',
        selectEdges(selection.edges),
        'Pick edges that face each other without one crossing what lies between, or two that follow each other along the border.'
      );
    const notes = [`${counted(faces.length, 'quad')} laid.`];
    if (welded.length > 0) notes.push(`${counted(welded.length, 'corner')} welded within ${within.toFixed(2)} mm.`);
    return { cage: copy, selection: { ...selectFaces(faces), vertices: welded.filter((v) => copy.hasVertex(v)) }, notes };
  }
};
