import { innerHeight, innerWidth } from 'svelte/reactivity/window';
import type { View } from '$lib/job/view.ts';

/** Pixels of the window from which on the title block has room. */
const [WIDE, HIGH] = [900, 560];

/** Whether the title block shows its scale alone: as it was folded or unfolded, else as the window, or what the stand is divided into, has room for it. */
export const isBlockFolded = ({ blockFolded, sides }: Pick<View, 'blockFolded' | 'sides'>): boolean =>
  blockFolded ?? (sides.length > 1 || (innerWidth.current ?? WIDE) < WIDE || (innerHeight.current ?? HIGH) < HIGH);
