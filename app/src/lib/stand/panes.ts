import type { View } from '$lib/job/view.ts';
import type { Side } from './sides.ts';

/** How the stand is divided: other panes beside the first one. */
export interface Panes {
  id: string;
  label: string;
  /** sides that straight panes look from */
  sides: readonly Side[];
  /** the second pane shows another version or part */
  compares?: boolean;
}

export const PANES: readonly Panes[] = [
  { id: 'one', label: 'one view', sides: [] },
  { id: 'compare', label: 'compare versions', sides: [], compares: true },
  { id: 'front', label: 'and from the front', sides: ['front'] },
  { id: 'side', label: 'and from the right', sides: ['right'] },
  { id: 'four', label: 'and three sides', sides: ['top', 'front', 'right'] }
];

/** How the stand of a view is divided now. */
export const panesOf = ({ compare, sides }: Pick<View, 'compare' | 'sides'>): Panes =>
  PANES.find((p) => (compare !== undefined ? p.compares : !p.compares && p.sides.join() === sides.join())) ?? PANES[0];

/** What a view changes to where it is divided in a way. */
export const dividedInto = ({ sides, compares }: Panes): Pick<View, 'compare' | 'sides' | 'wipe'> => ({
  sides: [...sides],
  wipe: undefined,
  compare: compares ? 'smooth' : undefined
});
