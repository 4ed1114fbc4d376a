import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { splitEdge, splitFace } from '../../mesh/euler-operators.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { cornersInOneFace } from '../../mesh/topology.ts';
import { selectEdges, selectVertices, type Selection } from '../../select/selection.ts';
import { type CageOperation, type Refusal } from '../operation.ts';

/** Faces with two or more picked corners that are not all neighbours, with these corners in order round the face. */
function facesToCut(cage: Cage, vertices: number[]): { face: number; corners: number[] }[] {
  const picked = new Set(vertices);
  const faces = new Set(vertices.flatMap((v) => cage.spokes(v).map((h) => cage.face[h])));
  faces.delete(NONE);
  return [...faces]
    .map((face) => ({ face, corners: cage.faceVertices(face).filter((v) => picked.has(v)) }))
    .filter(({ face, corners }) => pairsOf(cage, face, corners).length > 0);
}

/** Neighbouring picked corners of a face that no edge joins yet. */
function pairsOf(cage: Cage, face: number, corners: number[]): [number, number][] {
  const size = cage.faceSize(face);
  const order = cage.faceVertices(face);
  const apart = (a: number, b: number) => {
    const step = Math.abs(order.indexOf(a) - order.indexOf(b));
    return step > 1 && step < size - 1;
  };
  const pairs = corners.map((v, i) => [v, corners[(i + 1) % corners.length]] as [number, number]).filter(([a, b]) => apart(a, b));
  return corners.length === 2 ? pairs.slice(0, 1) : pairs;
}

function check(cage: Cage, selection: Selection): Refusal | undefined {
  if (selection.vertices.length < 2)
    return {
      found: `${selection.vertices.length === 0 ? 'No vertex is' : 'Only one vertex is'} picked.`,
      instead: 'Pick two or more vertices of one face.'
    };
  if (facesToCut(cage, selection.vertices).length === 0)
    return {
      found: 'No two of the picked vertices lie apart in one face.',
      where: selectVertices(selection.vertices),
      instead: 'Pick vertices of the same face that no edge joins, or cut across the faces between them.'
    };
  return undefined;
}

/** New edges between picked vertices across the faces they share. */
export const connect: CageOperation = {
  kind: 'cage',
  id: 'connect',
  bench: 3,
  name: 'Connect',
  purpose: 'Join picked vertices by new edges across the faces they share.',
  icon: 'Connect',
  needs: 'Pick two or more vertices of one face.',
  params: Joi.object({}),
  check,
  run: (cage, selection) => {
    const copy = cage.clone();
    const made: number[] = [];
    for (const { face, corners } of facesToCut(cage, selection.vertices))
      for (const [a, b] of pairsOf(cage, face, corners)) {
        const inFace = cornersInOneFace(copy, a, b);
        if (inFace && copy.findHalfEdge(a, b) === NONE) made.push(splitFace(copy, inFace[0], inFace[1]) >> 1);
      }
    return { cage: copy, selection: selectEdges(made), notes: [`${made.length} new edge${made.length === 1 ? '' : 's'}.`] };
  }
};

/** Puts vertices on picked edges. */
export const pointOnEdge: CageOperation = {
  kind: 'cage',
  id: 'point-on-edge',
  bench: 3,
  name: 'Point on edge',
  purpose: 'Put a vertex on each picked edge, at a fraction of its length.',
  icon: 'LocationCurrent',
  needs: 'Pick edges.',
  params: Joi.object({ fraction: Joi.number().min(0.001).max(0.999).default(0.5).label('Fraction').meta({ step: 0.05 }) }),
  check: (_cage, selection) =>
    selection.edges.length === 0 ? { found: 'No edge is picked.', instead: 'Pick the edges to put a vertex on.' } : undefined,
  run: (cage, selection, params) => {
    const copy = cage.clone();
    const made = selection.edges.map((e) => splitEdge(copy, e, params.fraction as number));
    return { cage: copy, selection: selectVertices(made), notes: [] };
  }
};
