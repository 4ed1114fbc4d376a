import { loadSolids } from '@ulvrin/core';
import wasm from 'manifold-3d/manifold.wasm?url';

/** Loads the library for solids once; entries that subtract, join or take what is common can be replayed from then on. */
export const readySolids = (): Promise<void> => loadSolids(wasm);
