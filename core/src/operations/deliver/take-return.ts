import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { lengthInWords } from '../../numeric/length-words.ts';
import { length } from '../../numeric/vectors.ts';
import { selectVertices } from '../../select/selection.ts';
import { type PartsOperation, type Refusal } from '../operation.ts';
import { counted } from '../shared/words.ts';

/** Why vertices of a part that came back cannot be those of the one that was sent; nothing where they can. */
function differs(own: Cage, back: Cage): string | undefined {
  const [a, b] = [own.toPolygons(), back.toPolygons()];
  const counts = (m: typeof a) => `${counted(m.positions.length / 3, 'vertex', 'vertices')} and ${counted(m.faceStart.length - 1, 'face')}`;
  if (a.positions.length !== b.positions.length || a.faceStart.length !== b.faceStart.length)
    return `It has ${counts(b)}, the part has ${counts(a)}.`;
  const other = a.faceVertices.findIndex((v, i) => v !== b.faceVertices[i]);
  return other < 0 ? undefined : 'It has as many vertices and faces, but they are joined in another order.';
}

/** Takes the positions of a part that was sent out, changed there and brought back in, where its faces are the same. */
export const takeReturn: PartsOperation = {
  kind: 'parts',
  id: 'take-return',
  bench: 8,
  group: 'Returns',
  name: 'Take return',
  purpose: 'Take the positions of a part that came back changed, with the same faces, outside the mask alone if there is one; say what has moved.',
  icon: 'DocumentImport',
  needs: 'Two parts that are cages: bring the returned file into this job first.',
  once: ['with'],
  params: Joi.object({
    with: Joi.string().allow('').default('').label('Returned').meta({ widget: 'part' }),
    mask: Joi.boolean().default(true).label('Masked vertices stay')
  }),
  check(active, other): Refusal | undefined {
    if (!other) return { found: 'There is no second cage that could be a return.', instead: 'Bring the returned file into this job as a cage.' };
    const why = differs(active.cage, other.cage);
    return why
      ? {
          found: `${other.name} is no return of ${active.name}. ${why}`,
          instead: 'Bring it in as a reference in place of the former one, and hold this part to it.'
        }
      : undefined;
  },
  run(active, other, _selection, params) {
    const cage = active.cage.clone();
    const { vertexIds, positions } = active.cage.toPolygons();
    const back = other!.cage.toPolygons().positions;
    const moved: number[] = [];
    let [most, masked] = [0, 0];
    vertexIds.forEach((v, i) => {
      const by = [0, 1, 2].map((k) => back[3 * i + k] - positions[3 * i + k]);
      if (length(by) === 0) return;
      const free = params.mask === false ? 1 : 1 - cage.value('mask', v);
      if (free === 0) return void masked++;
      // a vertex that is wholly free lies where it came back, to the last bit
      for (let k = 0; k < 3; k++) cage.positions[3 * v + k] = free === 1 ? back[3 * i + k] : positions[3 * i + k] + free * by[k];
      moved.push(v);
      most = Math.max(most, free * length(by));
    });
    const notes = [
      moved.length > 0 ? `${counted(moved.length, 'vertex', 'vertices')} moved, by ${lengthInWords(most)} at most.` : 'No vertex has moved.',
      ...(masked > 0 ? [`${counted(masked, 'vertex', 'vertices')} that would have moved are masked, and stay.`] : [])
    ];
    return { cage, gone: [other!.id], made: [], selection: selectVertices(moved), notes };
  }
};
