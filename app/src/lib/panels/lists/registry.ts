import type { Bench } from '@ulvrin/core';
import { borders } from './borders.ts';
import { compare } from './compare.ts';
import { deliveries } from './deliveries.ts';
import { findings } from './findings.ts';
import { groups } from './groups.ts';
import type { List } from './list.ts';

export const lists: readonly List[] = [borders, groups, findings, compare, deliveries];

/** Lists of a bench. */
export const listsAt = (bench: Bench): readonly List[] => lists.filter((list) => list.bench === bench);
