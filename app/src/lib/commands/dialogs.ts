import { type Command } from './command.ts';

export const dialogs: readonly Command[] = [
  { id: 'lookup', name: 'Lookup', code: 'Control+KeyK', run: ({ show }) => show('lookup') },
  { id: 'keys', name: 'Key sheet', purpose: 'Every key, and how to change it', code: 'Shift+Slash', run: ({ show }) => show('keys') },
  { id: 'settings', name: 'Settings', purpose: 'Orbiting, single-letter keys, theme', run: ({ show }) => show('settings') },
  {
    id: 'routines',
    name: 'Routines',
    purpose: 'Play a run of steps on this part, or make one of entries of the logbook',
    run: ({ show }) => show('routines')
  },
  {
    id: 'spares',
    name: 'Spares',
    purpose: 'Keep a piece for other jobs, or place one: on faces, vertices or along edges, by itself or joined',
    run: ({ show }) => show('spares')
  },
  {
    id: 'versions',
    name: 'Versions',
    purpose: 'Keep the job as it is now under a name; open it as it was earlier',
    run: ({ show }) => show('versions')
  },
  {
    id: 'done-when',
    name: 'Done when',
    purpose: 'Set what this job has to meet, as a checklist that is measured',
    run: ({ show }) => show('done-when')
  }
];
