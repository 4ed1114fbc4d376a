import type { Bench } from '@ulvrin/core';
import { borders } from './borders.ts';
import type { List } from './list.ts';

export const lists: readonly List[] = [borders];

/** Lists of a bench. */
export const listsAt = (bench: Bench): readonly List[] => lists.filter((list) => list.bench === bench);
