import Joi from 'joi';
import { leastLocked, locked, type LockKind, withoutLocks } from '../../even/locks.ts';
import { type Cage } from '../../mesh/cage.ts';
import { lengthInWords } from '../../numeric/length-words.ts';
import { isEmpty, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { counted } from '../shared/words.ts';

type Held = LockKind | 'free';

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  if (isEmpty(selection)) return { found: 'Nothing is picked.', instead: 'Pick the vertices, edges or faces to lock.' };
  const held = params.held as Held;
  const vertices = verticesOf(cage, selection);
  if (held === 'free')
    return vertices.some((v) => cage.value('lock', v) > 0)
      ? undefined
      : { numbers: true, found: 'None of the picked vertices is locked.', instead: 'Pick locked ones: the list of locks shows them.' };
  if (vertices.length >= leastLocked[held]) return undefined;
  return {
    numbers: true,
    found: `${counted(vertices.length, 'vertex is', 'vertices are')} always ${held}.`,
    where: selection,
    instead: `Pick ${leastLocked[held]} or more, or hold them still.`
  };
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const held = params.held as Held;
  const vertices = verticesOf(cage, selection);
  if (held === 'free') {
    const freed = vertices.filter((v) => cage.value('lock', v) > 0);
    return { cage: withoutLocks(cage, freed), selection, notes: [`${counted(freed.length, 'vertex', 'vertices')} unlocked.`] };
  }
  const { cage: made, off } = locked(cage, vertices, held);
  return {
    cage: made,
    selection,
    notes: [`${counted(vertices.length, 'vertex', 'vertices')} locked ${held}, brought there by ${lengthInWords(off)} at most.`]
  };
}

/** Locks vertices: whatever is done later, they stay flat, straight, round or where they are. */
export const lock: CageOperation = {
  kind: 'cage',
  id: 'lock',
  bench: 6,
  group: 'Masks and locks',
  name: 'Lock',
  purpose: 'Keep picked vertices flat, straight, round or still, whatever is evened out, held or fitted later; or unlock them.',
  icon: 'CircleDash',
  needs: 'Pick the vertices, edges or faces to lock.',
  params: Joi.object({
    held: Joi.string()
      .valid('flat', 'straight', 'round', 'still', 'free')
      .default('flat')
      .label('Hold them')
      .meta({ labels: { flat: 'Flat', straight: 'Straight', round: 'Round', still: 'Still', free: 'No more: unlock' } })
  }),
  // what it sets is not held by the lock before
  setsLocks: true,
  check,
  run
};
