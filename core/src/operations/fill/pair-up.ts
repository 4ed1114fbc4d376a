import { holeThrough } from '../../fill/hole.ts';
import { type Cage } from '../../mesh/cage.ts';
import { ringThrough } from '../../select/loops.ts';
import { selectEdges, selectVertices } from '../../select/selection.ts';
import { applyOperation } from '../apply.ts';
import { type Refusal } from '../operation.ts';
import { refuse, unlessRefused } from '../refusal.ts';
import { addLoop } from '../flow/add-loop.ts';
import { edgesIn, type VertexLine } from '../shared/chains.ts';

/** The count an edge of a rim is pinned to; 0 where none is. */
export function pinOf(cage: Cage, { vertices }: VertexLine): number {
  if (!cage.layers.has('pinned')) return 0;
  return vertices.reduce((pin, v, i) => {
    const h = cage.findHalfEdge(v, vertices[(i + 1) % vertices.length]);
    return h < 0 ? pin : Math.max(pin, cage.value('pinned', h >> 1));
  }, 0);
}

/** The counts both rims are to have: equal, as many as the richer one has, or what one of them is pinned to. */
export function wantedCounts(cage: Cage, a: VertexLine, b: VertexLine): [number, number] {
  const [m, n] = [edgesIn(a), edgesIn(b)];
  const [pinA, pinB] = [pinOf(cage, a), pinOf(cage, b)];
  const wanted = Math.max(m, n, pinA, pinB);
  return [pinA || wanted, pinB || wanted];
}

/** Why two rims cannot be paired up: pins that contradict each other, or the counts there are. */
export function unequalPins(cage: Cage, a: VertexLine, b: VertexLine): Omit<Refusal, 'where'> | undefined {
  const pins = [pinOf(cage, a), pinOf(cage, b)];
  const counts = [edgesIn(a), edgesIn(b)];
  const [m, n] = wantedCounts(cage, a, b);
  const tight = pins.findIndex((pin, i) => pin > 0 && pin < counts[i]);
  if (tight >= 0)
    return {
      found: `One rim is pinned to ${pins[tight]} edges and has ${counts[tight]} already.`,
      instead: 'Take loops out of it, or pin it to what it has.'
    };
  if (m !== n)
    return {
      found: `The rims need ${m} and ${n} edges: ${pins.map((pin, i) => `${pin > 0 ? `pinned to ${pin}` : 'not pinned'}, ${counts[i]} now`).join('; ')}.`,
      instead: 'Pin both to one count, unpin one, or let quads match the edge counts.'
    };
  return undefined;
}

/** Longest rims looked at for each loop: further ones are shorter still. */
const TRIED = 6;

/**
 * Adds loops across a border's edges until it has so many: each across one of its longest edges, where the loop is shortest
 * and does not come back to the border it started from.
 * @returns the cage, a copy where loops were added, and the border's vertices in it
 */
export function pairUp(cage: Cage, vertices: number[], wanted: number): { cage: Cage; vertices: number[]; added: number } {
  let added = 0;
  let rim = holeThrough(cage, vertices);
  while (rim && rim.vertices.length < wanted) {
    const missing = wanted - rim.vertices.length;
    const own = new Set(rim.halves.map((h) => h >> 1));
    const harm = (h: number) => {
      const { halves, crossedTwice } = ringThrough(cage, h);
      const back = halves.filter((k) => own.has(k >> 1)).length - 1;
      return halves.length + 1000 * (crossedTwice.length + (back > 0 && missing < 2 ? 10 : back));
    };
    const longest = [...rim.halves].sort((x, y) => cage.edgeLength(y >> 1) - cage.edgeLength(x >> 1)).slice(0, TRIED);
    // of equally long edges the harmless ones first
    const tried = longest
      .map((h) => ({ h, harm: harm(h) - 1e3 * (cage.edgeLength(h >> 1) / cage.edgeLength(longest[0] >> 1)) }))
      .sort((x, y) => x.harm - y.harm);
    let next: Cage | undefined;
    for (const { h } of tried) {
      next = withLoop(cage, h >> 1);
      if (next) break;
    }
    const grown = next && holeThrough(next, rim.vertices);
    if (!next || !grown || grown.vertices.length <= rim.vertices.length || grown.vertices.length > wanted)
      return refuse(
        `No more loop can be added across the border of ${rim.vertices.length} edges; ${missing} are missing.`,
        selectVertices(rim.vertices),
        'Let quads match the edge counts instead.'
      );
    [cage, rim] = [next, grown];
    added++;
  }
  return { cage, vertices: rim?.vertices ?? vertices, added };
}

const withLoop = (cage: Cage, e: number): Cage | undefined => unlessRefused(() => applyOperation(addLoop, cage, selectEdges([e]), {}).cage);
