import BordersList from './BordersList.svelte';
import type { List } from './list.ts';

export const borders: List = {
  id: 'borders',
  bench: 5,
  first: true,
  name: 'Borders',
  help: 'Holes and open edges, the best fill of each',
  component: BordersList
};
