import FindingsList from './FindingsList.svelte';
import type { List } from './list.ts';

export const findings: List = {
  id: 'findings',
  bench: 7,
  first: true,
  name: 'Findings',
  help: 'What shows on the smooth surface, the gravest first, and what is harmless',
  component: FindingsList
};
