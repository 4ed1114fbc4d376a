import type { Command } from './command.ts';

export const repeat: Command = {
  id: 'repeat',
  name: 'Repeat the last operation on what is picked',
  code: 'Shift+KeyT',
  run: ({ job }) => job.repeat()
};

/** The open card. */
export const card: readonly Command[] = [
  { id: 'apply', name: 'Apply', code: 'Enter', run: ({ job }) => job.apply(true) },
  { id: 'escape', name: 'Close the list, the operation, the selection', code: 'Escape', run: ({ job }) => void job.escape() }
];

/** The journal, there and back. */
export const journal: readonly Command[] = [
  { id: 'undo', name: 'Undo', code: 'Control+KeyZ', run: ({ job }) => job.undo() },
  { id: 'redo', name: 'Redo', code: 'Control+Shift+KeyZ', run: ({ job }) => job.redo() }
];
