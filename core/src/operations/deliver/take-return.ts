import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { lengthInWords } from '../../numeric/length-words.ts';
import { length } from '../../numeric/vectors.ts';
import { selectVertices } from '../../select/selection.ts';
import { type NamedCage, type PartsOperation, type Refusal } from '../operation.ts';
import { OperationRefused } from '../refusal.ts';
import { counted } from '../shared/words.ts';

/** Why a part is no return of another. */
const noReturn = (back: NamedCage, own: NamedCage, why: string): Refusal => ({
  found: `${back.name} is no return of ${own.name}. ${why}`,
  instead: 'Bring it in as a reference in place of the former one, and hold this part to it.'
});
const counts = ({ vertexCount, faceCount }: Cage): string => `${counted(vertexCount, 'vertex', 'vertices')} and ${counted(faceCount, 'face')}`;

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
    const [own, back] = [active.cage, other.cage];
    // how they are joined takes a look at every face: the run tells it
    return own.vertexCount === back.vertexCount && own.faceCount === back.faceCount
      ? undefined
      : noReturn(other, active, `It has ${counts(back)}, the part has ${counts(own)}.`);
  },
  run(active, other, _selection, params) {
    const cage = active.cage.clone();
    const { vertexIds, positions, faceStart, faceVertices } = active.cage.toPolygons();
    const { positions: back, ...faces } = other!.cage.toPolygons();
    const isSame = (a: Int32Array, b: Int32Array) => a.length === b.length && a.every((x, i) => x === b[i]);
    if (!isSame(faceStart, faces.faceStart) || !isSame(faceVertices, faces.faceVertices))
      throw new OperationRefused(noReturn(other!, active, 'It has as many vertices and faces, but they are joined in another order.'));
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
