import { operations } from '@ulvrin/core';
import { codeOf, readable, type KeyBinding, type KeySettings } from '$lib/settings/keys.ts';
import { benches } from './benches.ts';
import { findings } from './check.ts';
import type { Command, Workshop } from './command.ts';
import { delivering } from './deliver.ts';
import { dialogs } from './dialogs.ts';
import { pickKinds, picking, selections } from './picking.ts';
import { ownKeys, rack, swapBrush } from './rack.ts';
import { card, journal, repeat } from './steps.ts';
import { colours, looking, orbiting, shown } from './views.ts';

/** Every command, in the order of the key sheet. Keys, lookup, menus and buttons call these. */
export const commands: readonly Command[] = [
  ...benches,
  ...pickKinds,
  ...rack,
  ...shown,
  ...picking,
  repeat,
  ...looking,
  ...card,
  swapBrush,
  ...ownKeys,
  ...findings,
  ...journal,
  ...dialogs,
  ...selections,
  ...delivering,
  orbiting,
  colours
];

const byId = new Map(commands.map((command) => [command.id, command]));

/** Does what a command says, and keeps the view it may have changed. */
export function call(id: string, workshop: Workshop): void {
  byId.get(id)?.run(workshop);
  workshop.job.saveViewSoon();
}

/** Commands with a key, as the key sheet shows and changes them. */
export const defaultBindings: readonly KeyBinding[] = commands
  .filter((command) => command.code)
  .map(({ id, name, code }) => ({ id, label: name, code: code! }));

/** One thing that can be looked up and done. */
export interface Found {
  name: string;
  purpose: string;
  key?: string;
  /** why it cannot be done now */
  why?: string;
  run: () => void;
}

/** Everything that can be looked up: operations, and commands that the lookup lists. */
export function everything(workshop: Workshop, keys: KeySettings): Found[] {
  const named = operations.map((o) => ({
    name: o.name,
    purpose: o.purpose,
    key: o.key,
    why: workshop.job.whyNot(o),
    run: () => workshop.start(o)
  }));
  const listed = commands.filter((c) => !c.unlisted);
  const rest = [...listed.filter((c) => c.purpose), ...listed.filter((c) => !c.purpose)].map(({ id, name, purpose, code }) => ({
    name,
    purpose: purpose ?? 'View, picking or setting',
    key: code && readable(codeOf({ id, code }, keys)),
    run: () => call(id, workshop)
  }));
  return [...named, ...rest];
}
