import { isBrush, LOWER_ROW, operationById, operations, rackAt, UPPER_ROW, type Bench } from '@ulvrin/core';
import { favourites, MOST_FAVOURITES } from '$lib/settings/favourites.svelte.ts';
import { findings } from './check.ts';
import type { Command } from './command.ts';
import { delivering } from './deliver.ts';

const row = (which: 'upper' | 'lower', letters: readonly string[]): Command[] =>
  letters.map((letter, i) => ({
    id: `${which}-${letter}`,
    name: `Rack, ${which} row: ${letter}`,
    code: `Key${letter}`,
    unlisted: true,
    run: (workshop) => {
      const { job, start } = workshop;
      const operation = rackAt(job.view.bench)[which][i];
      if (!operation && which === 'lower') return benchCommand(job.view.bench, letter)?.run(workshop);
      // a brush in hand stays as it is: its key is held for the wheel
      const inHand = isBrush(operation) && job.running?.operation === operation;
      if (operation && !inHand) start(operation);
    }
  }));

/** Commands that have a key of the lower row at a bench. */
const onRack: readonly Command[] = [...findings, ...delivering];

/** The command that has a key of the lower row at a bench; nothing where none has. */
export const benchCommand = (bench: Bench, letter: string): Command | undefined =>
  onRack.find((command) => command.rack?.bench === bench && command.rack.letter === letter);

const mine: Command[] = Array.from({ length: MOST_FAVOURITES }, (_, i) => ({
  id: `mine-${i + 1}`,
  name: `Personal row: ${i + 1}`,
  code: `Shift+Digit${i + 1}`,
  unlisted: true,
  run: ({ job, start }) => {
    const operation = operationById(favourites.ids[i] ?? '');
    if (operation) start(operation);
    else job.tell('info', 'This place of the personal row is free: pin an operation there with the star in the rack.');
  }
}));

/** The keys of the rack's rows, and of the personal one. */
export const rack: readonly Command[] = [...row('upper', UPPER_ROW), ...row('lower', LOWER_ROW), ...mine];

/** The other of two brushes that go together. */
export const swapBrush: Command = {
  id: 'swap-brush',
  name: 'Swap the brush for its partner',
  code: 'Space',
  run: ({ job, start }) => {
    const { running } = job;
    if (!running || !isBrush(running.operation)) return;
    const partner = operationById(running.operation.brushed.partner ?? '');
    if (!partner) return;
    // each brush remembers its own size and strength
    job.draft.lastUsed.keep(running.operation, running.params);
    start(partner);
  }
};

/** Operations with a key of their own beside the rack. */
export const ownKeys: readonly Command[] = operations
  .filter((operation) => operation.keyWish)
  .map((operation) => ({ id: operation.id, name: operation.name, code: operation.keyWish, unlisted: true, run: ({ start }) => start(operation) }));
