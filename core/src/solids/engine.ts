import Module, { type ManifoldToplevel } from 'manifold-3d/manifold.js';

let engine: ManifoldToplevel | undefined;

/**
 * Loads the library for solids (WebAssembly); operations on solids can run from then on.
 * @param wasm address of its binary, where it does not lie beside its script
 */
export async function loadSolids(wasm?: string): Promise<void> {
  if (engine) return;
  const loaded = await Module(wasm ? { locateFile: () => wasm } : undefined);
  loaded.setup();
  engine = loaded;
}

export const solidsLoaded = (): boolean => engine !== undefined;

/** @throws Error before `loadSolids` has ended */
export function solidsEngine(): ManifoldToplevel {
  if (!engine) throw new Error('The library for solids is still loading.');
  return engine;
}
