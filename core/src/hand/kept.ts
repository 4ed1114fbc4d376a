import { type Cage } from '../mesh/cage.ts';

/** Edges that stay where they are, whatever is held or evened out. */
export const keptEdges = (cage: Cage): number[] => (cage.layers.has('kept') ? [...cage.edges()].filter((e) => cage.value('kept', e) > 0) : []);

/** Vertices at kept edges. */
export const keptVertices = (cage: Cage): ReadonlySet<number> =>
  new Set(keptEdges(cage).flatMap((e) => [cage.origin[2 * e], cage.origin[2 * e + 1]]));
