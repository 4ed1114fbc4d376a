import { assertValid } from '../mesh/assert-valid.ts';
import { knownLayers, type KnownLayer } from '../mesh/attributes.ts';
import { Cage } from '../mesh/cage.ts';
import { type StoredResult } from './entry.ts';

const WHOLES = ['vertexEdge', 'next', 'origin', 'face', 'faceEdge'] as const;
const FREED = ['freeVertices', 'freeEdges', 'freeFaces'] as const;
const LAYER = 'layer.';

/** What `Cage.plain` tells of. */
type Inside = Pick<Cage, (typeof WHOLES)[number] | 'positions' | 'layers' | 'regionNames' | 'vertexSlots' | 'edgeSlots' | 'faceSlots'> &
  Record<(typeof FREED)[number], number[]>;

/** Keeps a cage; arrays are copied, without the room they have to grow. */
export function storedOf(cage: Cage): StoredResult {
  const inside = cage.plain() as unknown as Inside;
  const { vertexSlots: v, edgeSlots: e, faceSlots: f } = inside;
  const slots = { positions: 3 * v, vertexEdge: v, next: 2 * e, origin: 2 * e, face: 2 * e, faceEdge: f };
  const arrays: Record<string, Float64Array | Int32Array> = { positions: inside.positions.slice(0, slots.positions), slots: Int32Array.of(v, e, f) };
  for (const key of WHOLES) arrays[key] = inside[key].slice(0, slots[key]);
  for (const key of FREED) arrays[key] = Int32Array.from(inside[key]);
  const byDomain = { vertex: v, edge: e, face: f, corner: 2 * e };
  for (const { name, domain, size, data } of inside.layers.values()) arrays[LAYER + name] = data.slice(0, size * byDomain[domain]);
  return { arrays, regionNames: [...inside.regionNames] };
}

/** Cages are never changed once they are in a job: of one result there is one. */
const revived = new WeakMap<StoredResult, Cage>();

/** The cage of a stored result, the same one every time. */
export function cageOfStored(stored: StoredResult): Cage {
  const present = revived.get(stored);
  if (present) return present;
  const { arrays } = stored;
  const [vertexSlots, edgeSlots, faceSlots] = arrays.slots;
  const layers = new Map(
    Object.entries(arrays).flatMap(([key, data]) => {
      const name = key.slice(LAYER.length) as KnownLayer;
      return key.startsWith(LAYER) && knownLayers[name] ? [[name, { name, ...knownLayers[name], data }]] : [];
    }) as [string, unknown][]
  );
  const plain = {
    ...Object.fromEntries([...WHOLES, 'positions'].map((key) => [key, arrays[key].slice()])),
    ...Object.fromEntries(FREED.map((key) => [key, [...arrays[key]]])),
    ...{ vertexSlots, edgeSlots, faceSlots, layers, regionNames: [...stored.regionNames] }
  };
  const cage = Cage.revived(plain as never);
  revived.set(stored, cage);
  return cage;
}

/** Bytes that a stored result takes. */
export const storedBytes = ({ arrays }: StoredResult): number => Object.values(arrays).reduce((sum, { byteLength }) => sum + byteLength, 0);

/** What is wrong with a stored result that was read, to stand after its name; nothing where all is well. */
export function checkStored(stored: StoredResult): string | undefined {
  const missing = [...WHOLES, ...FREED, 'positions', 'slots'].find((key) => !stored.arrays[key]);
  if (missing) return `has no ${missing}`;
  const { arrays } = stored;
  const [v, e, f] = arrays.slots;
  const fits =
    arrays.slots.length === 3 &&
    arrays.positions.length === 3 * v &&
    [arrays.vertexEdge.length === v, arrays.faceEdge.length === f].every(Boolean) &&
    [arrays.next, arrays.origin, arrays.face].every((a) => a.length === 2 * e) &&
    [arrays.next, arrays.vertexEdge, arrays.faceEdge].every((a) => a.every((h) => h >= -2 && h < 2 * e)) &&
    arrays.origin.every((at) => at >= -2 && at < v) &&
    arrays.face.every((at) => at >= -1 && at < f);
  if (!fits) return 'has arrays that do not fit each other';
  for (const x of arrays.positions) if (!(Math.abs(x) <= 1e9)) return 'has a coordinate that is not finite, or beyond 1e9 mm';
  try {
    assertValid(cageOfStored(stored));
  } catch (error) {
    return `is broken: ${(error as Error).message}`;
  }
  return undefined;
}
