import type { Params } from '@ulvrin/core';

/** The numbers that an operation goes on with once it was applied: a brush with a new stroke. */
export const goingOn = (params: Params): Params => ('dabs' in params ? { ...params, dabs: [] } : params);
