import Joi from 'joi';
import { CageError, NONE, type Cage } from '../../mesh/cage.ts';
import { replaceFaces } from '../../mesh/replace-faces.ts';
import { selectFaces, selectVertices, verticesOf, type Selection } from '../../select/selection.ts';
import { refuse, type CageOperation, type Refusal } from '../operation.ts';

function check(cage: Cage, selection: Selection): Refusal | undefined {
  const corners = verticesOf(cage, selection);
  if (corners.length < 3)
    return {
      found: `${corners.length === 0 ? 'No' : `Only ${corners.length}`} vert${corners.length === 1 ? 'ex is' : 'ices are'} picked.`,
      instead: 'Pick three or more vertices, in order round the new face.'
    };
  const inner = corners.filter((v) => cage.vertexEdge[v] !== NONE && !cage.isBorderVertex(v));
  if (inner.length > 0)
    return {
      found: `${inner.length} of the picked vertices ${inner.length === 1 ? 'has' : 'have'} faces all round.`,
      where: selectVertices(inner),
      instead: 'Pick vertices on borders; to divide a face use Connect.'
    };
  return undefined;
}

/** A face over picked vertices, in the order they were picked, turned to agree with its neighbours. */
export const drawFace: CageOperation = {
  kind: 'cage',
  id: 'draw-face',
  bench: 3,
  name: 'Draw face',
  purpose: 'Make a face of picked border vertices, in the order they were picked.',
  icon: 'Draw',
  needs: 'Pick three or more vertices on borders.',
  params: Joi.object({}),
  check,
  run: (cage, selection) => {
    const corners = verticesOf(cage, selection);
    let reason = '';
    for (const order of [corners, [...corners].reverse()]) {
      const copy = cage.clone();
      try {
        const [face] = replaceFaces(copy, { gone: [], added: [{ corners: order }] });
        return { cage: copy, selection: selectFaces([face]), notes: [`A face of ${corners.length} corners.`] };
      } catch (error) {
        if (!(error instanceof CageError)) throw error;
        reason = error.message;
      }
    }
    return refuse(
      `This face cannot be held: ${reason}`,
      selection,
      'Pick the vertices in order round the hole, with every edge between them free on one side.'
    );
  }
};
