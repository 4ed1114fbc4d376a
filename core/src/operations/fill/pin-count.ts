import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { selectEdges, type Selection } from '../../select/selection.ts';
import { type CageOperation } from '../operation.ts';
import { orientedChains } from '../shared/chains.ts';
import { holesMeant } from './borders-meant.ts';

/** The picked edges as chains; where none is picked, the borders that are meant. */
function chainsMeant(cage: Cage, selection: Selection): number[][] {
  if (selection.edges.length > 1) return orientedChains(cage, selection.edges).map((chain) => chain.map((h) => h >> 1));
  return holesMeant(cage, selection).map(({ halves }) => halves.map((h) => h >> 1));
}

/** Pins how many edges a rim is to have: bridge and pair up bring it to that, and nothing in Fill changes it. */
export const pinCount: CageOperation = {
  kind: 'cage',
  id: 'pin-count',
  bench: 5,
  group: 'Holes',
  name: 'Pin count',
  purpose: 'Set how many edges a rim has: pair up adds loops until it has them, and strips and welds leave it alone.',
  icon: 'Pin',
  needs: 'A loop or a chain of edges, or an edge of a border.',
  params: Joi.object({
    count: Joi.number()
      .integer()
      .min(-1)
      .max(10_000)
      .default(0)
      .label('Edges')
      .meta({ step: 1 })
      .description('0 pins the number there is, -1 takes the pin away')
  }),
  check: (cage, selection, params) => {
    const chains = chainsMeant(cage, selection);
    if (chains.length === 0) return { found: 'No rim is picked.', instead: 'Pick a loop, a chain of edges, or an edge of a border.' };
    const wanted = params.count as number;
    const richer = chains.find((chain) => wanted > 0 && chain.length > wanted);
    if (richer)
      return {
        found: `The rim has ${richer.length} edges already, more than ${wanted}.`,
        where: selectEdges(richer),
        instead: `Pin it to ${richer.length} or more, or take loops out first.`,
        numbers: true
      };
    return undefined;
  },
  run: (cage, selection, params) => {
    const copy = cage.clone();
    const wanted = params.count as number;
    const chains = chainsMeant(cage, selection);
    for (const chain of chains) for (const e of chain) copy.setValue('pinned', e, wanted < 0 ? 0 : wanted || chain.length);
    const notes = chains.map((chain) =>
      wanted < 0 ? `The pin of a rim of ${chain.length} edges was removed.` : `A rim of ${chain.length} edges is pinned to ${wanted || chain.length}.`
    );
    return { cage: copy, selection: selectEdges(chains.flat()), notes };
  }
};
