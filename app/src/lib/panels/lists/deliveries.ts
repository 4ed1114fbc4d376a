import DeliveriesList from './DeliveriesList.svelte';
import type { List } from './list.ts';

export const deliveries: List = {
  id: 'deliveries',
  bench: 8,
  name: 'Sheet',
  help: 'What was sent where and when, with checksum, what was lost, and how far off it is',
  first: true,
  component: DeliveriesList
};
