import { innerHeight, innerWidth } from 'svelte/reactivity/window';
import type { View } from '$lib/job/view.ts';

/** Pixels of the window from which on the title block has room. */
const [WIDE, HIGH] = [900, 560];

/** Whether the title block shows its scale alone: as it was folded or unfolded, else as the window has room for it. */
export const isBlockFolded = ({ blockFolded }: Pick<View, 'blockFolded'>): boolean =>
  blockFolded ?? ((innerWidth.current ?? WIDE) < WIDE || (innerHeight.current ?? HIGH) < HIGH);
