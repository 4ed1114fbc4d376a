import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { selectEdges } from '../../select/selection.ts';
import { STAYS_SHARP } from '../../subdivide/level-topology.ts';
import { type CageOperation } from '../operation.ts';
import { counted } from '../shared/words.ts';

/** Whether any element has a value; the rack asks it at every pick. */
const hasAny = (cage: Cage, layer: 'crease' | 'corner'): boolean => {
  if (!cage.layers.has(layer)) return false;
  for (const x of layer === 'crease' ? cage.edges() : cage.vertices()) if (cage.value(layer, x) > 0) return true;
  return false;
};
const creased = (cage: Cage): number[] => [...cage.edges()].filter((e) => cage.value('crease', e) > 0);
const cornered = (cage: Cage): number[] => [...cage.vertices()].filter((v) => cage.value('corner', v) > 0);

/** Converts sharpness from the scale of the place that a part came from: some count to 1, some to 100. */
export const sharpnessScale: CageOperation = {
  kind: 'cage',
  id: 'sharpness-scale',
  bench: 8,
  group: 'Returns',
  name: 'Sharpness scale',
  purpose: 'Convert the sharpness of a part that came from elsewhere: say which number stays sharp there.',
  icon: 'Scales',
  needs: 'Creases or corners.',
  params: Joi.object({
    from: Joi.number().greater(0).max(1e6).default(1).label('Stays sharp there').description('It becomes 10').meta({ step: 1 })
  }),
  check: (cage) =>
    hasAny(cage, 'crease') || hasAny(cage, 'corner')
      ? undefined
      : { found: 'There are no creases and no sharp corners to convert.', instead: 'Crease edges first, or bring in a file that holds creases.' },
  run(cage, _selection, params) {
    const copy = cage.clone();
    const [edges, vertices] = [creased(cage), cornered(cage)];
    const converted = (s: number) => Math.min(STAYS_SHARP, (s * STAYS_SHARP) / (params.from as number));
    for (const e of edges) copy.setValue('crease', e, converted(cage.value('crease', e)));
    for (const v of vertices) copy.setValue('corner', v, converted(cage.value('corner', v)));
    const notes = [
      `${counted(edges.length, 'crease')} and ${counted(vertices.length, 'corner')} converted: ${params.from} there is ${STAYS_SHARP} here.`
    ];
    return { cage: copy, selection: selectEdges(edges), notes };
  }
};
