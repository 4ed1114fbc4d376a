/** Node's environment; the core's own types know no Node. */
const { env } = (globalThis as unknown as { process: { env: Record<string, string | undefined> } }).process;

/** How much of a long test runs: a little with `npm test`, all of it with `npm run soak`. */
export const amount = (usual: number, soak: number): number => (env.ULVRIN_SOAK ? soak : usual);

/** Whether long jobs are done as well: by `npm run soak`. */
export const soaks = Boolean(env.ULVRIN_SOAK);
