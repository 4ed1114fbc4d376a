import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { isPole } from '../mesh/topology.ts';
import { loopThrough } from '../select/loops.ts';
import { spiralsAmong, stripsOf } from './quad-quality.ts';

/** Which long strip each face belongs to; lists are in the order of the cage's faces. */
export interface StripPattern {
  /** number of the longer of the two strips through a quad; -1 for other faces */
  strip: Int32Array;
  /** 1 where that strip runs beside itself */
  spirals: Uint8Array;
  /** quads of each strip, by its number */
  lengths: number[];
}

/** The strips of quads of a cage, each quad counted to the longer of its two. */
export function stripPattern(cage: Cage): StripPattern {
  const { of, lengths } = stripsOf(cage);
  const spiral = spiralsAmong(cage, of);
  const faces = [...cage.faces()];
  const strip = Int32Array.from(faces, (f) => {
    if (cage.faceSize(f) !== 4) return NONE;
    const h = cage.faceEdge[f];
    const [a, b] = [of[h >> 1], of[cage.next[h] >> 1]];
    return lengths[b] > lengths[a] ? b : a;
  });
  return { strip, spirals: Uint8Array.from(strip, (s) => (spiral.has(s) ? 1 : 0)), lengths };
}

/**
 * The patches that a cage falls into when it is cut along the edge loops that begin at its poles: within each all is a plain grid.
 * @returns number of the patch by face, in the order of the cage's faces
 */
export function patchesBetweenPoles(cage: Cage): Int32Array {
  const cut = new Uint8Array(cage.edgeSlots);
  for (const v of cage.vertices())
    if (isPole(cage, v))
      for (const h of cage.spokes(v)) {
        if (cut[h >> 1]) continue;
        for (const k of loopThrough(cage, h).halves) cut[k >> 1] = 1;
      }
  const patch = new Int32Array(cage.faceSlots).fill(NONE);
  let many = 0;
  for (const seed of cage.faces()) {
    if (patch[seed] !== NONE) continue;
    const open = [seed];
    patch[seed] = many;
    while (open.length > 0)
      for (const h of cage.loopOf(cage.faceEdge[open.pop()!])) {
        const g = cage.face[h ^ 1];
        if (g === NONE || patch[g] !== NONE || cut[h >> 1]) continue;
        patch[g] = many;
        open.push(g);
      }
    many++;
  }
  return Int32Array.from(cage.faces(), (f) => patch[f]);
}
