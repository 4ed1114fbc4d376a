import { Cage } from '../../mesh/cage.ts';
import { pickedPoints, uniformMesh, usedVertices } from '../../mesh/polygon-mesh.ts';
import { borderLoops, eulerCharacteristic } from '../../mesh/topology.ts';
import { chunks, openSides, type QuadList, type Topology } from '../base/quad-list.ts';

/**
 * Closes small tears that a torn map leaves, and takes out quads that share two sides.
 * @returns nothing where the result is not a manifold of the expected topology
 */
export function mended(extracted: QuadList, expected: Topology): QuadList | undefined {
  let quads = removeDoublets([...chunks(extracted.quads)]);
  quads = closeTears(quads, expected.borders);
  quads = removeDoublets(quads);
  const list = packed(extracted, quads);
  return matches(list, expected) ? list : undefined;
}

/** The same quads without those that share two sides, as they come where halves are joined. */
export const withoutDoublets = (list: QuadList): QuadList => packed(list, removeDoublets([...chunks(list.quads)]));

export function matches(list: QuadList, expected: Topology): boolean {
  try {
    const cage = Cage.fromPolygons(uniformMesh(list.positions, list.quads, 4));
    return eulerCharacteristic(cage) === expected.euler && borderLoops(cage).length === expected.borders;
  } catch {
    return false;
  }
}

/** Two quads round an inner vertex of valence two become one. */
function removeDoublets(quads: number[][]): number[][] {
  const count = 1 + quads.reduce((most, q) => Math.max(most, q[0], q[1], q[2], q[3]), 0);
  for (let round = 0; round < 20; round++) {
    // how many quads a vertex has, the first of them, and the sum of their numbers
    const [times, first, sum] = [new Int32Array(count), new Int32Array(count), new Int32Array(count)];
    quads.forEach((q, i) => {
      for (const v of q) {
        if (times[v]++ === 0) first[v] = i;
        sum[v] += i;
      }
    });
    const gone = new Set<number>();
    for (let v = 0; v < count; v++) {
      if (times[v] !== 2) continue;
      const [i, j] = [first[v], sum[v] - first[v]];
      if (gone.has(i) || gone.has(j)) continue;
      const q = turnedTo(quads[i], v);
      const r = turnedTo(quads[j], v);
      // q = v, a, b, c and r = v, c, d, a: inside, the two share both sides at v
      if (i === j || q[1] !== r[3] || q[3] !== r[1]) continue;
      quads[i] = [q[1], q[2], q[3], r[2]];
      gone.add(j);
    }
    quads = quads.filter((q, i) => !gone.has(i) && isQuad(q));
    if (gone.size === 0) break;
  }
  return quads;
}

const isQuad = ([a, b, c, d]: number[]): boolean => a !== b && a !== c && a !== d && b !== c && b !== d && c !== d;

function turnedTo(quad: number[], v: number): number[] {
  const k = quad.indexOf(v);
  return [...quad.slice(k), ...quad.slice(0, k)];
}

/** Fills every border loop but the `keep` longest by quads; loops of odd length stay open. */
function closeTears(quads: number[][], keep: number): number[][] {
  const count = 1 + quads.reduce((most, q) => Math.max(most, ...q), 0);
  const next = new Map<number, number[]>();
  for (const [a, b] of openSides(quads, count)) (next.get(b) ?? next.set(b, []).get(b)!).push(a);
  const loops: number[][] = [];
  for (const start of next.keys()) {
    while (next.get(start)!.length > 0) {
      const loop = [start];
      let v = next.get(start)!.pop()!;
      while (v !== start && next.get(v)?.length) {
        loop.push(v);
        v = next.get(v)!.pop()!;
      }
      loops.push(loop);
    }
  }
  loops.sort((a, b) => b.length - a.length);
  const filled = quads.slice();
  for (const loop of loops.slice(keep)) filled.push(...fillLoop(loop));
  return filled;
}

/** Cuts quads off a loop of even length until four are left. */
function fillLoop(loop: number[]): number[][] {
  const made: number[][] = [];
  const left = loop.slice();
  if (left.length % 2 === 1 || left.length > 24) return made;
  while (left.length > 4) made.push([left[0], ...left.splice(1, 2), left[1]]);
  if (left.length === 4) made.push(left);
  return made;
}

function packed(list: QuadList, quads: number[][]): QuadList {
  const { used, indices } = usedVertices(quads.flat(), list.hold.length);
  return { positions: pickedPoints(list.positions, used), quads: indices, hold: Uint8Array.from(used, (v) => list.hold[v]) };
}
