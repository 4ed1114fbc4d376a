import { destinations, type Destination, type Routine } from '@ulvrin/core';

/** What the form asks for, field by field; what is switched off keeps its number. */
export interface AskedOfBatch {
  lays: boolean;
  count: number;
  routine?: Routine;
  as: string;
  to?: Destination;
  thins: boolean;
  levels: number;
  within: number;
  checks: boolean;
}

/** The settings of a batch as plain data, as `ulvrin batch` takes them from a file. */
export const settingsOf = ({ lays, count, routine, as, to, thins, levels, within, checks }: AskedOfBatch): object => ({
  format: 'ulvrin-batch',
  version: 1,
  ...(lays ? { quads: { by: 'count', count } } : {}),
  ...(routine ? { routine } : {}),
  ...(thins ? { levels: { levels, within } } : {}),
  as,
  ...(to ? { to: destinations.includes(to) ? to.id : to } : {}),
  check: checks
});
