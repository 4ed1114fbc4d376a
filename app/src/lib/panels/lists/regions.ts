import type { List } from './list.ts';
import RegionsList from './RegionsList.svelte';

export const regions: List = {
  id: 'regions',
  bench: 6,
  name: 'Regions',
  help: 'Named groups of faces',
  component: RegionsList
};
