import Joi from 'joi';
import { takeMarks } from '../../mesh/join-cages.ts';
import { replaceFaces } from '../../mesh/replace-faces.ts';
import { add, type Triple } from '../../numeric/vectors.ts';
import { facesOf, isEmpty, selectFaces, verticesOf, type Selection } from '../../select/selection.ts';
import { type Cage } from '../../mesh/cage.ts';
import { type CageOperation } from '../operation.ts';

/** What is picked, or everything. */
const meant = (cage: Cage, selection: Selection): number[] => (isEmpty(selection) ? [...cage.faces()] : facesOf(cage, selection));

const shift = (label: string) => Joi.number().min(-1e6).max(1e6).default(0).label(label).unit('mm').meta({ step: 1 });

/** Puts copies of picked faces beside them, as islands of their own. */
export const duplicate: CageOperation = {
  kind: 'cage',
  id: 'duplicate',
  bench: 3,
  group: 'Parts and solids',
  name: 'Duplicate',
  purpose: 'Copy picked faces, or the whole part, as islands of their own, with their marks; several in a row.',
  icon: 'Copy',
  needs: 'A cage with faces.',
  params: Joi.object({
    copies: Joi.number().integer().min(1).max(200).default(1).label('Copies').meta({ step: 1 }),
    x: shift('Each further by X'),
    y: shift('Each further by Y'),
    z: shift('Each further by Z')
  }),
  check: (cage, selection) =>
    meant(cage, selection).length === 0
      ? { found: 'No face is picked.', where: selection, instead: 'Pick faces, or nothing for the whole part.' }
      : undefined,
  run: (cage, selection, params) => {
    const { copies, x, y, z } = params as Record<string, number>;
    const faces = meant(cage, selection);
    const vertices = verticesOf(cage, selectFaces(faces));
    const copy = cage.clone();
    const made: number[] = [];
    for (let i = 1; i <= copies; i++) {
      const by: Triple = [x * i, y * i, z * i];
      const vertexOf = new Map(vertices.map((v) => [v, copy.addVertex(...add(cage.position(v), by))]));
      const ids = replaceFaces(copy, { gone: [], added: faces.map((f) => ({ corners: cage.faceVertices(f).map((v) => vertexOf.get(v)!) })) });
      takeMarks(copy, cage, vertexOf, new Map(faces.map((f, k) => [f, ids[k]])));
      made.push(...ids);
    }
    const notes = x === 0 && y === 0 && z === 0 ? ['The copies lie where the faces are: move them, or type a distance.'] : [];
    return { cage: copy, selection: selectFaces(made), notes };
  }
};
