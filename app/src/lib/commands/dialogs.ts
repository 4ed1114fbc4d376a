import { formatNames } from '@ulvrin/core';
import { type Command } from './command.ts';

export const dialogs: readonly Command[] = [
  { id: 'lookup', name: 'Lookup', code: 'Control+KeyK', run: ({ show }) => show('lookup') },
  { id: 'keys', name: 'Key sheet', code: 'Shift+Slash', run: ({ show }) => show('keys') }
];

export const deliver: Command = {
  id: 'deliver',
  name: 'Deliver',
  purpose: `Save the cage or the smooth surface (${formatNames}); export the job`,
  run: ({ show }) => show('deliver')
};
