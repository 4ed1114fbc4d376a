import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { mergeFaces, splitFace } from '../../mesh/euler-operators.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { selectEdges, type Selection } from '../../select/selection.ts';
import { type CageOperation, type Refusal } from '../operation.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';

function check(cage: Cage, selection: Selection): Refusal | undefined {
  if (selection.edges.length === 0) return { found: 'No edge is picked.', instead: 'Pick edges to swing inside their two faces.' };
  const border = selection.edges.filter((e) => cage.isBorderEdge(e));
  if (border.length === selection.edges.length)
    return {
      found: 'The picked edges lie on a border: there is only one face to swing in.',
      where: selectEdges(border),
      instead: 'Pick an edge between two faces.'
    };
  return undefined;
}

/** Turns an edge one corner on inside the face its two faces make. @returns the swung edge, or NONE where it would lie on another */
export function swing(cage: Cage, e: number, back: boolean): number {
  const h = 2 * e;
  if (cage.face[h] === NONE || cage.face[h + 1] === NONE) return NONE;
  // over a vertex of two edges the faces share more than this edge, and merging them would take that vertex out
  if (cage.loopOf(h).filter((k) => cage.face[k ^ 1] === cage.face[h + 1]).length > 1) return NONE;
  // forward: both ends go to the next corner of the face on their left
  const from = back ? cage.previous(h) : cage.next[h + 1];
  const to = back ? cage.previous(h + 1) : cage.next[h];
  const [a, b] = back ? [cage.origin[from], cage.origin[to]] : [cage.target(from), cage.target(to)];
  if (a === b || cage.findHalfEdge(a, b) !== NONE) return NONE;
  const f = mergeFaces(cage, [cage.face[h], cage.face[h + 1]]);
  if (f === NONE) return NONE;
  const loop = cage.loopOf(cage.faceEdge[f]);
  const [s, t] = [a, b].map((v) => loop.find((k) => cage.origin[k] === v)!);
  return splitFace(cage, s, t) >> 1;
}

/** Rotates edges inside their two faces: the way to turn a triangle's diagonal, or to lead a loop elsewhere. */
export const swingEdge: CageOperation = {
  kind: 'cage',
  id: 'swing-edge',
  bench: 3,
  name: 'Swing edge',
  purpose: 'Rotate picked edges inside their two faces, forward or back.',
  icon: 'Rotate',
  needs: 'Pick edges between two faces.',
  keepsSurface: 'there too',
  params: Joi.object({
    way: Joi.string()
      .valid('forward', 'back')
      .default('forward')
      .label('Way')
      .meta({ labels: { forward: 'Forward', back: 'Back' } }),
    keepSurface: keepSurfaceField()
  }),
  check,
  run: (cage, selection, params) => {
    const copy = cage.clone();
    const swung: number[] = [];
    let stayed = 0;
    let sharp = 0;
    for (const e of selection.edges) {
      if (cage.isBorderEdge(e)) continue;
      const crease = copy.value('crease', e);
      const result = copy.hasEdge(e) ? swing(copy, e, params.way === 'back') : NONE;
      if (result === NONE) stayed++;
      else {
        swung.push(result);
        if (crease > 0) sharp++;
      }
    }
    const notes = [`${swung.length} edge${swung.length === 1 ? '' : 's'} swung.`];
    if (stayed > 0) notes.push(`${stayed} stayed: the new edge would lie on another one, or its faces share a second edge.`);
    // a crease follows a line of the surface; the swung edge lies across it
    if (sharp > 0) notes.push(`${sharp} crease${sharp === 1 ? '' : 's'} went with the edges: a swung edge runs across the line that was sharp.`);
    return { cage: copy, selection: selectEdges(swung), notes };
  }
};
