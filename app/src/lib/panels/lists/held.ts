import HeldList from './HeldList.svelte';
import type { List } from './list.ts';

export const held: List = {
  id: 'held',
  bench: 6,
  name: 'Locks',
  help: 'Locked vertices and saved masks',
  component: HeldList
};
