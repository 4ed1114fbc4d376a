import GroupsList from './GroupsList.svelte';
import type { List } from './list.ts';

export const groups: List = {
  id: 'groups',
  bench: 6,
  name: 'Groups',
  help: 'Regions, locks and saved masks',
  component: GroupsList
};
