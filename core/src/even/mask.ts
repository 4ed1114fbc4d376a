import { type Cage } from '../mesh/cage.ts';
import { sameTopology } from '../mesh/topology.ts';
import { type Triple } from '../numeric/vectors.ts';
import { normalAt, type VertexNet } from './vertex-net.ts';

/** How much a vertex may follow what moves it, 1 to 0; nothing where no vertex is masked. */
export function freedomOf(cage: Cage): ((v: number) => number) | undefined {
  const mask = cage.layers.get('mask')?.data;
  if (!mask?.some((m) => m > 0)) return undefined;
  return (v) => 1 - mask[v];
}

/**
 * Holds masked vertices of a cage that was moved where they were, each by its share. Where vertices have come or gone nothing is held: then
 * places are not moved, but made.
 * @param now changed
 */
export function heedMask(before: Cage, now: Cage): void {
  const freedom = freedomOf(before);
  if (!freedom || !sameTopology(before, now)) return;
  const [p, q] = [before.positions, now.positions];
  for (const v of before.vertices()) {
    const free = freedom(v);
    // what is wholly masked stays bit for bit
    if (free < 1) for (let i = 3 * v; i < 3 * v + 3; i++) q[i] = free <= 0 ? p[i] : p[i] + free * (q[i] - p[i]);
  }
}

/** Of images in a mirror those that are masked as much as what they follow: others do not follow. */
export function maskedAlike(cage: Cage, images: ReadonlyMap<number, number>): ReadonlyMap<number, number> {
  const freedom = freedomOf(cage);
  return freedom ? new Map([...images].filter(([v, w]) => freedom(v) === freedom(w))) : images;
}

/** The mask of a cage by vertex, 0 to 1. */
export const maskOf = (cage: Cage): Float64Array =>
  Float64Array.from({ length: cage.vertexSlots }, (_, v) => (cage.hasVertex(v) ? cage.value('mask', v) : 0));

/** Vertices that are masked, wholly or in part. */
export const maskedVertices = (cage: Cage): number[] =>
  cage.layers.has('mask') ? [...cage.vertices()].filter((v) => cage.value('mask', v) > 0) : [];

/** A copy of a cage with another mask. @param mask by vertex; brought to 0 to 1 */
export function withMask(cage: Cage, mask: ArrayLike<number>): Cage {
  const copy = cage.clone();
  for (const v of cage.vertices()) copy.setValue('mask', v, Math.min(1, Math.max(0, mask[v])));
  return copy;
}

/** Layers of saved masks are named by this and the mask's name. */
const SAVED = 'mask:';

/** Names of the masks that are saved with a cage; they follow its vertices. */
export const savedMasks = (cage: Cage): string[] =>
  [...cage.layers.keys()].filter((name) => name.startsWith(SAVED)).map((name) => name.slice(SAVED.length));

/** A saved mask by vertex; nothing where there is none of that name. */
export const savedMask = (cage: Cage, name: string): Float64Array | undefined => cage.layers.get(SAVED + name)?.data.slice(0, cage.vertexSlots);

/** A copy of a cage with its mask saved under a name, in place of one that was. */
export function withSavedMask(cage: Cage, name: string): Cage {
  const copy = cage.clone();
  copy.layers.set(SAVED + name, { ...copy.layer('mask'), name: SAVED + name, data: copy.layer('mask').data.slice() });
  return copy;
}

/** A copy of a cage without a saved mask. */
export function withoutSavedMask(cage: Cage, name: string): Cage {
  const copy = cage.clone();
  copy.layers.delete(SAVED + name);
  return copy;
}

/** A mask once blurred: every vertex gets the mean of itself and its neighbours. */
export function blurred(net: VertexNet, mask: Float64Array): Float64Array {
  return overNeighbours(net, mask, (own, others) => (own + others.reduce((sum, m) => sum + m, 0)) / (others.length + 1));
}

/** A mask grown by a ring of vertices, or shrunk. */
export const grown = (net: VertexNet, mask: Float64Array): Float64Array => overNeighbours(net, mask, (own, others) => Math.max(own, ...others));
export const shrunk = (net: VertexNet, mask: Float64Array): Float64Array => overNeighbours(net, mask, (own, others) => Math.min(own, ...others));

function overNeighbours({ start, ring }: VertexNet, mask: Float64Array, of: (own: number, others: number[]) => number): Float64Array {
  return mask.map((own, v) => {
    const others = Array.from(ring.subarray(start[v], start[v + 1]), (w) => mask[w]);
    return others.length > 0 ? of(own, others) : own;
  });
}

/** A share that goes from 0 to 1 as a value goes from one bound to another; a step where both are the same. */
const between = (value: number, from: number, to: number): number =>
  from === to ? Number(value >= to) : Math.min(1, Math.max(0, (value - from) / (to - from)));

/** Masks what lies high along an axis (0, 1 or 2): from one height on more and more, from another wholly, mm. */
export function maskByHeight(cage: Cage, axis: number, from: number, to: number): Float64Array {
  return Float64Array.from({ length: cage.vertexSlots }, (_, v) => between(cage.positions[3 * v + axis], from, to));
}

/** Masks what looks a way: wholly within half the angle, up to the angle less and less, degrees. */
export function maskByDirection(net: VertexNet, positions: Float64Array, way: Triple, degrees: number): Float64Array {
  const normal = new Float64Array(3);
  return Float64Array.from({ length: net.slots }, (_, v) => {
    normalAt(net, positions, v, normal);
    const cosine = normal[0] * way[0] + normal[1] * way[1] + normal[2] * way[2];
    const off = (Math.acos(Math.min(1, Math.max(-1, cosine))) * 180) / Math.PI;
    return net.start[v] === net.start[v + 1] ? 0 : between(-off, -degrees, -degrees / 2);
  });
}

/** Masks vertices whose colour is like that of one of some vertices. @param within largest difference of red, green or blue, 0 to 1 */
export function maskByColour(cage: Cage, like: readonly number[], within: number): Float64Array {
  const colours = cage.layer('colour').data;
  const wished = [...new Map(like.map((v) => [colours.subarray(3 * v, 3 * v + 3).join(), colours.subarray(3 * v, 3 * v + 3)])).values()];
  return Float64Array.from({ length: cage.vertexSlots }, (_, v) =>
    Number(wished.some((colour) => [0, 1, 2].every((k) => Math.abs(colours[3 * v + k] - colour[k]) <= within + 1e-9)))
  );
}

/**
 * Masks ridges, or hollows: vertices that stand over their neighbours' mean by more than a share of the mean edge at them.
 * @param side 1 for ridges, -1 for hollows
 * @param least share from which on a vertex is masked wholly; from half of it on in part
 */
export function maskByBend(net: VertexNet, positions: Float64Array, side: 1 | -1, least: number): Float64Array {
  const p = positions;
  const normal = new Float64Array(3);
  return Float64Array.from({ length: net.slots }, (_, v) => {
    const [from, to] = [net.start[v], net.start[v + 1]];
    if (from === to) return 0;
    normalAt(net, p, v, normal);
    let [over, edges] = [0, 0];
    for (let i = from; i < to; i++) {
      const w = net.ring[i];
      let long = 0;
      for (let k = 0; k < 3; k++) {
        const way = p[3 * v + k] - p[3 * w + k];
        over += way * normal[k];
        long += way * way;
      }
      edges += Math.sqrt(long);
    }
    return edges > 0 ? between((side * over) / edges, least / 2, least) : 0;
  });
}
