import CompareList from './CompareList.svelte';
import type { List } from './list.ts';

export const compare: List = {
  id: 'compare',
  bench: 7,
  name: 'Compare',
  help: 'What the part was after an entry, or another part, beside what it is now: figures, charts, how far apart',
  component: CompareList
};
