import Joi from 'joi';
import { NONE } from '../../mesh/half-edges.ts';
import { replaceFaces } from '../../mesh/replace-faces.ts';
import { emptySelection, isEmpty } from '../../select/selection.ts';
import { type CageOperation } from '../operation.ts';

/** Takes out picked faces, and the faces at picked edges and vertices. */
export const deleteOperation: CageOperation = {
  kind: 'cage',
  id: 'delete',
  bench: 3,
  name: 'Delete',
  purpose: 'Take out what is picked and leave a hole.',
  icon: 'TrashCan',
  key: 'V',
  needs: 'Pick vertices, edges or faces first.',
  atOnce: true,
  keyWish: 'Delete',
  params: Joi.object({ keepVertices: Joi.boolean().default(false).label('Keep lone vertices') }),
  check: (_cage, selection) => (isEmpty(selection) ? { found: 'Nothing is picked.', instead: 'Pick vertices, edges or faces first.' } : undefined),
  run: (cage, selection, params) => {
    const copy = cage.clone();
    const faces = new Set(selection.faces);
    for (const e of selection.edges) for (const h of [2 * e, 2 * e + 1]) if (copy.face[h] !== NONE) faces.add(copy.face[h]);
    for (const v of selection.vertices) for (const h of copy.spokes(v)) if (copy.face[h] !== NONE) faces.add(copy.face[h]);
    replaceFaces(copy, { gone: faces, added: [], keepLone: params.keepVertices === true });
    for (const v of selection.vertices) if (copy.hasVertex(v) && copy.vertexEdge[v] === NONE) copy.freeVertex(v);
    return { cage: copy, selection: emptySelection(), notes: [`${faces.size} face${faces.size === 1 ? '' : 's'} taken out.`] };
  }
};
