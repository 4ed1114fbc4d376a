import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { faceNormal } from '../../mesh/normals.ts';
import { dot } from '../../numeric/vectors.ts';
import { edgeLoop } from '../../select/loops.ts';
import { selectEdges, selectFaces, type Selection } from '../../select/selection.ts';
import { type CageOperation, type Refusal, pickedTimesFaces } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { orientedChains } from '../shared/chains.ts';
import { outlineOf } from '../shared/extrude-walls.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';
import { bracedEdges, moveSupportLoops, putSupportLoops, takeOutSupportLoops } from '../shared/support-loops.ts';
import { counted } from '../shared/words.ts';

interface BraceParams {
  width: number;
  sides: 'both' | 'left' | 'right';
  loops: 1 | 2;
  span: 'picked' | 'whole';
}

export const widthField = () => Joi.number().min(0.001).default(1).label('Brace width').unit('mm').meta({ step: 0.1 });

/** Picked edges, or the outline of picked faces. */
export const edgesMeant = (cage: Cage, { edges, faces }: Selection): number[] =>
  edges.length > 0 || faces.length === 0 ? edges : [...new Set(outlineOf(cage, faces).map((h) => h >> 1))];

/** Edges at corners of what was braced that bend, but have neither loops nor a crease: the surface bulges past them. */
function leftBare(cage: Cage, braced: readonly number[]): number[] {
  const vertices = new Set(braced.flatMap((e) => [cage.origin[2 * e], cage.origin[2 * e + 1]]));
  const edges = new Set([...vertices].flatMap((v) => cage.spokes(v).map((h) => h >> 1)));
  return [...edges].filter(
    (e) =>
      !cage.isBorderEdge(e) &&
      cage.value('braced', e) === 0 &&
      cage.value('crease', e) === 0 &&
      cage.value('braceAnchor', cage.origin[2 * e]) < 0 !== cage.value('braceAnchor', cage.origin[2 * e + 1]) < 0 &&
      dot(faceNormal(cage, cage.face[2 * e]), faceNormal(cage, cage.face[2 * e + 1])) < Math.cos((35 * Math.PI) / 180)
  );
}

function checkBrace(cage: Cage, selection: Selection): Refusal | undefined {
  const edges = edgesMeant(cage, selection);
  if (edges.length === 0)
    return { found: 'No edge is picked.', where: selection, instead: 'Pick the edges to brace, or faces whose outline is to be braced.' };
  const already = edges.filter((e) => cage.value('braced', e) > 0);
  if (already.length > 0)
    return {
      found: `${already.length} of the ${edges.length} edges ${already.length === 1 ? 'has' : 'have'} support loops already.`,
      where: selectEdges(already),
      instead: 'Change their width with "Brace width", or take them out first.'
    };
  return undefined;
}

/** Puts support loops beside picked edges. */
export const brace: CageOperation = {
  kind: 'cage',
  id: 'brace',
  seconds: (cage, selection) => 4e-9 * pickedTimesFaces(cage, selection),
  bench: 4,
  key: 'X',
  group: 'Support loops',
  name: 'Brace',
  purpose:
    'Put support loops beside picked edges at a width in mm, round corners and junctions with quads only; they can be moved or taken out later.',
  icon: 'TextAlignJustify',
  needs: 'Pick edges, or faces whose outline is meant.',
  keepsSurface: 'there too',
  params: Joi.object({
    width: widthField(),
    sides: Joi.string()
      .valid('both', 'left', 'right')
      .default('both')
      .label('Sides')
      .meta({ labels: { both: 'Both', left: 'Left', right: 'Right' } }),
    loops: Joi.number()
      .valid(1, 2)
      .default(1)
      .label('Loops a side')
      .meta({ labels: { 1: 'One', 2: 'Two, the second half as wide' } }),
    span: Joi.string()
      .valid('picked', 'whole')
      .default('picked')
      .label('Along')
      .meta({ labels: { picked: 'The picked edges', whole: 'Their whole loops' } }),
    keepSurface: keepSurfaceField()
  }),
  check: checkBrace,
  run: (cage, selection, params) => {
    const p = params as unknown as BraceParams;
    let edges = edgesMeant(cage, selection);
    if (p.span === 'whole') edges = [...new Set(edges.flatMap((e) => edgeLoop(cage, e).edges))];
    const chains = orientedChains(cage, edges);
    const halves = chains
      .flatMap((chain) => (p.sides === 'both' ? chain.flatMap((h) => [h, h ^ 1]) : p.sides === 'left' ? chain : chain.map((h) => h ^ 1)))
      .filter((h) => cage.face[h] !== NONE);
    if (halves.length === 0) refuse('There is no face on that side.', selectEdges(edges), 'Choose the other side.');
    let result = putSupportLoops(cage, halves, p.width);
    let { squeezed } = result;
    let vertices = result.loopVertices.length;
    if (Number(p.loops) === 2) {
      result = putSupportLoops(result.cage, result.halves, p.width / 2);
      squeezed += result.squeezed;
      vertices += result.loopVertices.length;
      for (const h of result.halves) result.cage.setValue('braced', h >> 1, p.width);
    }
    const done = [...new Set(result.halves.map((h) => h >> 1))];
    const notes = [`${counted(edges.length, 'edge')} braced at ${p.width} mm; ${counted(vertices, 'vertex', 'vertices')}.`];
    if (squeezed > 0)
      notes.push(`At ${squeezed} places there is no room for the width, beside another brace or on a short edge: the loops lie closer there.`);
    if (result.ngons > 0)
      notes.push(`${counted(result.ngons, 'face')} at the ends of one-sided loops got a corner more: brace both sides, or run them out.`);
    const bare = leftBare(result.cage, done);
    if (bare.length > 0)
      notes.push(
        `${bare.length} bent edge${bare.length === 1 ? '' : 's'} at the corners of the brace ${bare.length === 1 ? 'is' : 'are'} not braced: the surface still bulges past them.`
      );
    return { cage: result.cage, selection: selectEdges(done), notes };
  }
};

/** Braced edges among the picked ones, or all where none is picked. */
function bracedMeant(cage: Cage, selection: Selection): number[] {
  const braced = bracedEdges(cage);
  const picked = edgesMeant(cage, selection);
  return picked.length > 0 ? picked.filter((e) => braced.has(e)) : [...braced.keys()];
}

const checkBraced = (cage: Cage, selection: Selection): Refusal | undefined =>
  bracedMeant(cage, selection).length > 0
    ? undefined
    : { found: 'None of the edges has support loops that Brace put there.', where: selection, instead: 'Pick braced edges, or nothing for all.' };

/** Moves support loops to another width. */
export const braceWidth: CageOperation = {
  kind: 'cage',
  id: 'brace-width',
  bench: 4,
  key: 'C',
  group: 'Support loops',
  name: 'Brace width',
  purpose: 'Move the support loops of picked edges, or all, to another width in mm.',
  icon: 'FitToWidth',
  needs: 'Pick braced edges, or nothing for all.',
  params: Joi.object({ width: widthField() }),
  check: checkBraced,
  run: (cage, selection, params) => {
    const edges = bracedMeant(cage, selection);
    const { cage: moved, moved: count, turned } = moveSupportLoops(cage, edges, params.width as number);
    if (turned.length > 0)
      refuse(`At ${params.width} mm ${turned.length} faces beside the loops would turn over.`, selectFaces(turned), 'Type a smaller width.');
    return {
      cage: moved,
      selection: selectEdges(edges),
      notes: [`${counted(count, 'vertex', 'vertices')} of support loops moved, ${counted(edges.length, 'edge')} at ${params.width} mm.`]
    };
  }
};

/** Takes support loops out. */
export const takeOutBrace: CageOperation = {
  kind: 'cage',
  id: 'take-out-brace',
  bench: 4,
  key: 'V',
  group: 'Support loops',
  name: 'Remove support loops',
  purpose: 'Take the support loops of picked edges, or all, out again, also after other edits.',
  icon: 'SubtractAlt',
  needs: 'Pick braced edges, or nothing for all.',
  atOnce: true,
  params: Joi.object({}),
  check: checkBraced,
  run: (cage, selection) => {
    const { cage: without, taken } = takeOutSupportLoops(cage, bracedMeant(cage, selection));
    return { cage: without, selection: selectEdges([]), notes: [`${counted(taken, 'vertex', 'vertices')} of support loops taken out.`] };
  }
};
