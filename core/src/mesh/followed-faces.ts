import { type Cage } from './cage.ts';

const MARK = 'followed';

/**
 * Does something to a cage and tells what became of some of its faces: those made of them count as them.
 * @param change takes the cage with a mark on the faces, and gives the changed one
 */
export function followFaces<T extends { cage: Cage }>(cage: Cage, faces: readonly number[], change: (cage: Cage) => T): T & { faces: number[] } {
  const marked = cage.clone();
  const data = new Float64Array(marked.faceEdge.length);
  for (const f of faces) data[f] = 1;
  marked.layers.set(MARK, { name: MARK, domain: 'face', size: 1, initial: 0, onSplit: 'copy', onJoin: 'copy', data });
  const result = change(marked);
  const mark = result.cage.layers.get(MARK);
  result.cage.layers.delete(MARK);
  return { ...result, faces: mark ? [...result.cage.faces()].filter((f) => mark.data[f] === 1) : [] };
}
