import { type Command } from './command.ts';

export const dialogs: readonly Command[] = [
  { id: 'lookup', name: 'Lookup', code: 'Control+KeyK', run: ({ show }) => show('lookup') },
  { id: 'keys', name: 'Key sheet', purpose: 'Every key, and how to change it', code: 'Shift+Slash', run: ({ show }) => show('keys') },
  { id: 'settings', name: 'Settings', purpose: 'Orbiting, single-letter keys, theme', run: ({ show }) => show('settings') },
  {
    id: 'done-when',
    name: 'Done when',
    purpose: 'Set what this job has to meet, as a checklist that is measured',
    run: ({ show }) => show('done-when')
  }
];
