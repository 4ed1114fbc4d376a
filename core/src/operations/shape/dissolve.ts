import Joi from 'joi';
import { type Cage, NONE } from '../../mesh/cage.ts';
import { joinEdges, joinFaces } from '../../mesh/euler-operators.ts';
import { emptySelection, isEmpty, selectEdges, type Selection } from '../../select/selection.ts';
import { type CageOperation, type Refusal } from '../operation.ts';

function check(cage: Cage, selection: Selection): Refusal | undefined {
  if (isEmpty(selection)) return { found: 'Nothing is picked.', instead: 'Pick edges, a loop, vertices or faces that shall become one.' };
  const border = selection.edges.filter((e) => cage.isBorderEdge(e));
  if (selection.edges.length > 0 && border.length === selection.edges.length && selection.vertices.length + selection.faces.length === 0)
    return {
      found: `${border.length === 1 ? 'This edge lies' : `All ${border.length} picked edges lie`} on a border: there is only one face, and nothing to join it with.`,
      where: selectEdges(border),
      instead: 'Delete the face, or pick an edge between two faces.'
    };
  return undefined;
}

/** Inner edges of picked faces, edges at picked vertices, and picked edges. */
function edgesToGo(cage: Cage, selection: Selection): Set<number> {
  const edges = new Set(selection.edges.filter((e) => !cage.isBorderEdge(e)));
  const faces = new Set(selection.faces);
  for (const f of faces) for (const h of cage.loopOf(cage.faceEdge[f])) if (faces.has(cage.face[h ^ 1])) edges.add(h >> 1);
  for (const v of selection.vertices) for (const h of cage.spokes(v)) if (!cage.isBorderEdge(h >> 1)) edges.add(h >> 1);
  return edges;
}

/** Takes edges out and joins their faces; vertices left with two edges go as well, unless they are kept. */
export const dissolve: CageOperation = {
  kind: 'cage',
  id: 'dissolve',
  bench: 3,
  name: 'Dissolve',
  purpose: 'Take out edges, loops or vertices and join the faces beside them.',
  icon: 'EdgeCluster',
  key: 'D',
  needs: 'Pick edges, a loop, vertices or faces.',
  params: Joi.object({ keepVertices: Joi.boolean().default(false).label('Keep vertices of two edges') }),
  check,
  run: (cage, selection, params) => {
    const copy = cage.clone();
    const ends = new Set(selection.vertices);
    let joined = 0;
    let stayed = 0;
    for (const e of edgesToGo(cage, selection)) {
      const vertices = [copy.origin[2 * e], copy.origin[2 * e + 1]];
      // an edge whose end has no other edge would leave a spike inside the face: its vertex goes with it
      if (joinFaces(copy, e) !== NONE) {
        joined++;
        vertices.forEach((v) => ends.add(v));
      } else stayed++;
    }
    if (params.keepVertices !== true) for (const v of ends) if (copy.hasVertex(v) && copy.valence(v) === 2) joinEdges(copy, v);
    dropSpikes(copy);
    const notes = [`${joined} edge${joined === 1 ? '' : 's'} taken out.`];
    if (stayed > 0) notes.push(`${stayed} stayed: the same face lay on both sides.`);
    return { cage: copy, selection: emptySelection(), notes };
  }
};

/** Edges that stick into a face after all other edges of their end are gone. */
function dropSpikes(cage: Cage): void {
  for (let again = true; again;) {
    again = false;
    for (const v of cage.vertices()) {
      if (cage.valence(v) !== 1) continue;
      const out = cage.vertexEdge[v];
      const inward = out ^ 1;
      const base = cage.target(out);
      const before = cage.previous(inward);
      const after = cage.next[out];
      cage.next[before] = after;
      if (cage.vertexEdge[base] === inward) cage.vertexEdge[base] = after;
      if (cage.face[out] !== NONE) cage.faceEdge[cage.face[out]] = after;
      cage.freeEdge(out >> 1);
      cage.freeVertex(v);
      again = true;
    }
  }
}
