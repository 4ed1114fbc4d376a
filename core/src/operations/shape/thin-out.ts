import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { selectEdges, type Selection } from '../../select/selection.ts';
import { thinnedOut } from '../../select/thin-out.ts';
import { type CageOperation, type Params, type Refusal } from '../operation.ts';
import { dissolve } from './dissolve.ts';

interface ThinOutParams {
  every: number;
  phase: number;
  keepBorders: boolean;
}

const edgesToGo = (cage: Cage, selection: Selection, params: Params) => thinnedOut(cage, selection.edges, params as unknown as ThinOutParams);

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  if (selection.edges.length === 0)
    return { found: 'No edge is picked.', instead: 'Pick one edge of the loops that shall become fewer: on a tube, an edge along it.' };
  if (edgesToGo(cage, selection, params).length === 0)
    return {
      found: 'No loop beside the picked edge would go.',
      where: selection,
      instead: 'Pick an edge with quads beside it, or keep one of fewer.'
    };
  return undefined;
}

/** Keeps one of every N loops beside the picked edge's and dissolves the others. */
export const thinOut: CageOperation = {
  kind: 'cage',
  id: 'thin-out',
  bench: 3,
  name: 'Thin out',
  purpose: 'Keep one of every N loops, counted from the picked edge, and take the others out.',
  icon: 'RowCollapse',
  needs: 'Pick one edge of the loops that shall become fewer.',
  params: Joi.object({
    every: Joi.number().integer().min(2).max(64).default(2).label('Keep one of').meta({ step: 1 }),
    phase: Joi.number().integer().min(0).max(63).default(0).label('Shift by').unit('loops').meta({ step: 1 }),
    keepBorders: Joi.boolean().default(true).label('Keep border loops')
  }),
  check,
  run: (cage, selection, params) => dissolve.run(cage, selectEdges(edgesToGo(cage, selection, params)), { keepVertices: false })
};
