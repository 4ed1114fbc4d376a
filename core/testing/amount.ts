import { env } from 'node:process';

/** How much of a long test runs: a little with `npm test`, all of it with `npm run soak`. */
export const amount = (usual: number, soak: number): number => (env.ULVRIN_SOAK ? soak : usual);
