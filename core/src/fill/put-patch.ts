import { type Cage } from '../mesh/cage.ts';
import { replaceFaces } from '../mesh/replace-faces.ts';
import { type Patch } from './patch.ts';

/**
 * Puts a patch into a cage; quads at a vertex that its border passes twice in a row become triangles. Changes the cage.
 * @param border the vertices the border points of the patch stand for
 * @param like face whose values the new ones take
 * @returns the new faces, and the vertex of every point
 */
export function putPatch(cage: Cage, border: readonly number[], patch: Patch, like: number | undefined): { faces: number[]; vertex: number[] } {
  const vertex = patch.places.map((p, k) => border[k] ?? cage.addVertex(...p));
  const corners = (quad: number[]) => quad.map((p) => vertex[p]).filter((v, k, all) => v !== all[(k + 1) % 4]);
  return { faces: replaceFaces(cage, { gone: [], added: patch.quads.map((quad) => ({ corners: corners(quad), like })) }), vertex };
}
