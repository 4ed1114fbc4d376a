import fc from 'fast-check';
import { env } from 'node:process';

/**
 * Random meshes come from one seed, so that a run that passed passes again. `ULVRIN_SEED=random npm test` looks elsewhere, and
 * `ULVRIN_SEED=<number>` goes back to where that found something.
 */
const seed = env.ULVRIN_SEED ?? '1';
fc.configureGlobal({ seed: seed === 'random' ? Date.now() % 2 ** 31 : Number(seed) });
