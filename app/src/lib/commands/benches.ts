import { benches as names, type Bench } from '@ulvrin/core';
import type { Command } from './command.ts';

/** One bench each, by its number. */
export const benches: readonly Command[] = names.map((_, i) => ({
  id: `bench-${i + 1}`,
  name: `Bench ${i + 1}`,
  code: `Digit${i + 1}`,
  run: ({ job }) => (job.view.bench = (i + 1) as Bench)
}));
