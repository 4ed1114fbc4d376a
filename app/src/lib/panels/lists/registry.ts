import type { Bench } from '@ulvrin/core';
import { borders } from './borders.ts';
import { held } from './held.ts';
import type { List } from './list.ts';
import { regions } from './regions.ts';

export const lists: readonly List[] = [borders, regions, held];

/** Lists of a bench. */
export const listsAt = (bench: Bench): readonly List[] => lists.filter((list) => list.bench === bench);
