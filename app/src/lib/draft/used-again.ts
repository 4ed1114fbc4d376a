import type { Operation, Params } from '@ulvrin/core';

/** The numbers an operation begins with the next time: all but those that are meant once. */
export const usedAgain = ({ once = [] }: Operation, params: Params): Params =>
  Object.fromEntries(Object.entries(params).filter(([name]) => !once.includes(name)));
