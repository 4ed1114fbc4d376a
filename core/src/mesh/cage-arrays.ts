import { assertValid } from './assert-valid.ts';
import { knownLayers, type KnownLayer } from './attributes.ts';
import { Cage } from './cage.ts';
import { FREE } from './half-edges.ts';

/**
 * A cage as arrays by name, as they are, those of its attributes under `layer.NAME`: for files, and for what is kept for long. Ids are the same
 * as in the cage it was taken from, those to be used next included.
 */
export interface CageArrays {
  arrays: Readonly<Record<string, Float64Array | Int32Array>>;
  regionNames: readonly string[];
}

const WHOLES = ['vertexEdge', 'next', 'origin', 'face', 'faceEdge'] as const;
const FREED = ['freeVertices', 'freeEdges', 'freeFaces'] as const;
const LAYER = 'layer.';

/** What `Cage.plain` tells of. */
type Inside = Pick<Cage, (typeof WHOLES)[number] | 'positions' | 'layers' | 'regionNames' | 'vertexSlots' | 'edgeSlots' | 'faceSlots'> &
  Record<(typeof FREED)[number], number[]>;

/** A cage as arrays; they are copied, without the room they have to grow. */
export function arraysOf(cage: Cage): CageArrays {
  const inside = cage.plain() as unknown as Inside;
  const { vertexSlots: v, edgeSlots: e, faceSlots: f } = inside;
  const slots = { vertexEdge: v, next: 2 * e, origin: 2 * e, face: 2 * e, faceEdge: f };
  const byDomain = { vertex: v, edge: e, face: f, corner: 2 * e };
  const layers = [...inside.layers.values()].map(({ name, domain, size, data }) => [LAYER + name, data.slice(0, size * byDomain[domain])] as const);
  const arrays = {
    positions: inside.positions.slice(0, 3 * v),
    slots: Int32Array.of(v, e, f),
    ...Object.fromEntries(WHOLES.map((key) => [key, inside[key].slice(0, slots[key])])),
    ...Object.fromEntries(FREED.map((key) => [key, Int32Array.from(inside[key])])),
    ...Object.fromEntries(layers)
  };
  return { arrays, regionNames: [...inside.regionNames] };
}

/** Of the same arrays there is one cage: cages that are kept are never changed. */
const revived = new WeakMap<CageArrays, Cage>();

/** The cage that arrays tell of, the same one every time: it is not to be changed. */
export function cageOfArrays(kept: CageArrays): Cage {
  const present = revived.get(kept);
  if (present) return present;
  const { arrays } = kept;
  const [vertexSlots, edgeSlots, faceSlots] = arrays.slots;
  const layers = new Map(
    Object.entries(arrays).flatMap(([key, data]) => {
      const name = key.slice(LAYER.length) as KnownLayer;
      return key.startsWith(LAYER) && knownLayers[name] ? [[name, { name, ...knownLayers[name], data: data as Float64Array }] as const] : [];
    })
  );
  const inside: Inside = {
    ...(Object.fromEntries([...WHOLES, 'positions'].map((key) => [key, arrays[key].slice()])) as Pick<Inside, (typeof WHOLES)[number] | 'positions'>),
    ...(Object.fromEntries(FREED.map((key) => [key, [...arrays[key]]])) as Pick<Inside, (typeof FREED)[number]>),
    ...{ vertexSlots, edgeSlots, faceSlots, layers, regionNames: [...kept.regionNames] }
  };
  const cage = Cage.revived(inside as never);
  revived.set(kept, cage);
  return cage;
}

/** Bytes that arrays take. */
export const bytesOf = ({ arrays }: CageArrays): number => Object.values(arrays).reduce((sum, { byteLength }) => sum + byteLength, 0);

/** What is wrong with arrays that were read, to stand after their name; nothing where all is well. */
export function checkArrays(kept: CageArrays): string | undefined {
  const { arrays } = kept;
  const missing = [...WHOLES, ...FREED, 'positions', 'slots'].find((key) => !arrays[key]);
  if (missing) return `has no ${missing}`;
  const [v, e, f] = arrays.slots;
  const within = (key: string, least: number, most: number) => arrays[key].every((id) => id >= least && id < most);
  const fits =
    arrays.slots.length === 3 &&
    arrays.positions.length === 3 * v &&
    arrays.vertexEdge.length === v &&
    arrays.faceEdge.length === f &&
    ['next', 'origin', 'face'].every((key) => arrays[key].length === 2 * e) &&
    ['next', 'vertexEdge', 'faceEdge'].every((key) => within(key, FREE, 2 * e)) &&
    within('origin', FREE, v) &&
    within('face', FREE, f) &&
    isFreeList(arrays.freeVertices, v, (id) => arrays.vertexEdge[id] === FREE) &&
    isFreeList(arrays.freeEdges, e, (id) => arrays.origin[2 * id] === FREE) &&
    isFreeList(arrays.freeFaces, f, (id) => arrays.faceEdge[id] === FREE);
  if (!fits) return 'has arrays that do not fit each other';
  for (const x of arrays.positions) if (!(Math.abs(x) <= 1e9)) return 'has a coordinate that is not finite, or beyond 1e9 mm';
  try {
    assertValid(cageOfArrays(kept));
  } catch (error) {
    return `is broken: ${(error as Error).message}`;
  }
  return undefined;
}

/** Whether a list names each free slot once, and no other. */
function isFreeList(list: ArrayLike<number>, slots: number, isFree: (id: number) => boolean): boolean {
  let free = 0;
  for (let id = 0; id < slots; id++) if (isFree(id)) free++;
  const named = new Set(Array.from(list));
  return list.length === free && named.size === free && [...named].every((id) => id >= 0 && id < slots && isFree(id));
}
