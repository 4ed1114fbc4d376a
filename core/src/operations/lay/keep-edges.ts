import Joi from 'joi';
import { changedSurface, largestMove } from '../../check/forecast.ts';
import { keptEdges } from '../../hand/kept.ts';
import { lengthInWords } from '../../numeric/length-words.ts';
import { selectEdges, type Selection } from '../../select/selection.ts';
import { STAYS_SHARP } from '../../subdivide/level-topology.ts';
import { type Cage } from '../../mesh/cage.ts';
import { edgesMeant } from '../loops/brace.ts';
import { type CageOperation, type CageResult, type Params, type Surroundings } from '../operation.ts';
import { counted } from '../shared/words.ts';

interface KeepParams {
  keep: boolean;
  sharp: boolean;
}

function run(cage: Cage, selection: Selection, params: Params, { surface }: Surroundings): CageResult {
  const { keep, sharp } = params as unknown as KeepParams;
  const copy = cage.clone();
  const edges = edgesMeant(cage, selection);
  const inner = edges.filter((e) => !cage.isBorderEdge(e));
  for (const e of edges) copy.setValue('kept', e, keep ? 1 : 0);
  if (sharp) for (const e of inner) copy.setValue('crease', e, keep ? STAYS_SHARP : 0);
  const notes = [
    keep ? `${counted(edges.length, 'edge')} kept; ${keptEdges(copy).length} of the part are.` : `${counted(edges.length, 'edge')} let go.`
  ];
  const moved = sharp ? largestMove(changedSurface(cage, copy, surface)) : undefined;
  if (moved) notes.push(`${keep ? 'Without them' : 'Now'} the smooth surface lies ${lengthInWords(moved)} from where it is with them, at most.`);
  return { cage: copy, selection: selectEdges(edges), notes };
}

/** Marks edges that stay where they are, whatever is held, evened out or laid anew. */
export const keepEdges: CageOperation = {
  kind: 'cage',
  id: 'keep-edges',
  bench: 2,
  group: 'On the reference',
  name: 'Keep edges',
  purpose: 'Mark edges that stay where they are whatever is held or evened out, and that the smooth surface and new quads follow.',
  icon: 'Pin',
  needs: 'Pick edges, or faces whose outline is meant.',
  params: Joi.object({
    keep: Joi.boolean().default(true).label('Kept').description('Off: lets them go again'),
    sharp: Joi.boolean().default(true).label('Sharp in the smooth surface').description('New quads follow them then, too')
  }),
  check: (cage, selection) =>
    edgesMeant(cage, selection).length > 0 ? undefined : { found: 'No edge is picked.', instead: 'Pick edges, or faces whose outline is meant.' },
  run
};
