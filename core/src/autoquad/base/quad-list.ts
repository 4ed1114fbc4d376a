import { type Triple } from '../../numeric/vectors.ts';
import { type TriangleBvh } from '../../reference/triangle-bvh.ts';

/** Quads as an index list with their vertices' positions. */
export interface QuadList {
  positions: Float64Array;
  quads: Int32Array;
  hold: Uint8Array;
}

/** What the quads must agree with: the surface they were laid over. */
export interface Topology {
  euler: number;
  borders: number;
}

/** Corners of one quad after the other. */
export function* chunks(flat: Int32Array): Generator<number[]> {
  for (let i = 0; i < flat.length; i += 4) yield [flat[i], flat[i + 1], flat[i + 2], flat[i + 3]];
}

/**
 * Sides of quads that no other quad has the other way round, from vertex to vertex.
 * @param count of vertices
 */
export function openSides(quads: Iterable<readonly number[]>, count: number): [number, number][] {
  const to = Array.from({ length: count }, (): number[] => []);
  for (const q of quads) for (let k = 0; k < 4; k++) to[q[k]].push(q[(k + 1) & 3]);
  return to.flatMap((ends, a) => ends.filter((b, i) => !to[b].includes(a) && ends.indexOf(b) === i).map((b): [number, number] => [a, b]));
}

/** Both ends of each edge, one after the other. */
export function edgeEnds({ positions, quads }: QuadList): Triple[] {
  const count = positions.length / 3;
  const edges = new Set<number>();
  for (const q of chunks(quads)) q.forEach((v, k) => edges.add(Math.min(v, q[(k + 1) & 3]) * count + Math.max(v, q[(k + 1) & 3])));
  const point = (v: number): Triple => [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
  return [...edges].flatMap((e) => [point(Math.floor(e / count)), point(e % count)]);
}

/** Lines that vertices stay on: those at borders on the border, others on sharp edges. */
export interface FeatureLines {
  border?: TriangleBvh;
  sharp?: TriangleBvh;
}
