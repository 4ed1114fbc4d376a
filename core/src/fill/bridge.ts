import { type Cage } from '../mesh/cage.ts';
import { cheapestLinks, type Link } from '../mesh/loop-links.ts';
import { replaceFaces, type NewFace } from '../mesh/replace-faces.ts';
import { add, length, scaled, subtract, type Triple } from '../numeric/vectors.ts';
import { runIn } from './hole.ts';

export interface BridgeSettings {
  /** rows of faces */
  rows: number;
  /** vertices by which the pairing is turned on from the best one */
  offset: number;
  /** 0: straight; 1: leaves both rims as the faces there come in */
  curved: number;
}

/** What a bridge starts or ends at: a whole border, or a chain of its edges. */
export interface Rim {
  /** half-edges without a face, in order along the border */
  halves: number[];
  closed: boolean;
}

/**
 * Joins two borders, or two chains of border edges, by rows of faces; all quads where their counts together are even, one
 * triangle else. Borders are paired by the turn of one against the other with the least sum of squared distances at equal
 * shares of their lengths, chains end to end; quads that take two edges of one rim are spread evenly. Changes the cage.
 * @returns the new faces
 */
export function bridge(cage: Cage, first: Rim, second: Rim, settings: BridgeSettings): number[] {
  const a = rowOf(cage, first.halves, first.closed);
  // faces run along both borders: seen from the first the second one runs the other way round
  const b = rowOf(
    cage,
    [...second.halves].reverse().map((h) => h ^ 1),
    second.closed
  );
  const links = linksBetween(cage, a, b, settings.offset);
  const rims = innerRims(cage, a, b, links, settings);
  const like = cage.face[first.halves[0] ^ 1];
  const added: NewFace[] = [];
  const edges = first.halves.length;
  let rim = a.vertices;
  for (const next of rims) {
    for (let i = 0; i < edges; i++) {
      const j = (i + 1) % rim.length;
      added.push({ corners: [rim[i], rim[j], next[j], next[i]], like });
    }
    rim = next;
  }
  for (let k = 0; k + 1 < links.length; k++) {
    const [[i, j], [i2, j2]] = [links[k], links[k + 1]];
    const outer = Array.from({ length: i2 - i + 1 }, (_, d) => rim[(i + d) % rim.length]);
    const inner = Array.from({ length: j2 - j + 1 }, (_, d) => b.vertices[(j2 - d) % b.vertices.length]);
    added.push({ corners: [...outer, ...inner], like });
  }
  return replaceFaces(cage, { gone: [], added });
}

interface Row {
  /** of a closed row the first is not repeated */
  vertices: number[];
  closed: boolean;
  edges: number;
  /** share of the row's length at which each vertex lies, from 0 */
  shares: number[];
}

function rowOf(cage: Cage, halves: readonly number[], closed: boolean): Row {
  const lengths = halves.map((h) => cage.edgeLength(h >> 1));
  const whole = lengths.reduce((x, y) => x + y, 0) || 1;
  let reached = 0;
  const shares = lengths.map((l) => ((reached += l) - l) / whole);
  const vertices = halves.map((h) => cage.origin[h]);
  if (!closed) {
    vertices.push(cage.target(halves[halves.length - 1]));
    shares.push(1);
  }
  return { vertices, closed, edges: halves.length, shares };
}

/** Links in order along both rows; of closed ones the last is the first once more, a whole turn on. */
function linksBetween(cage: Cage, a: Row, b: Row, offset: number): Link[] {
  const [m, n] = [a.edges, b.edges];
  const places = { a: a.vertices.map((v) => cage.position(v)), b: b.vertices.map((v) => cage.position(v)) };
  const start = a.closed ? (((bestTurn(a, b, places) + offset) % n) + n) % n : 0;
  // shares of the second row count from its own start
  const shareB = (j: number) => {
    if (j >= n) return 1;
    const at = b.shares[(start + j) % b.vertices.length] - b.shares[start];
    return at < 0 ? at + 1 : at;
  };
  const shareA = (i: number) => (i >= m ? 1 : a.shares[i]);
  const { links } = cheapestLinks(m, n, ([i, j], [x, y]) => (shareA(i + x) - shareB(j + y)) ** 2 + (x + y === 1 ? 10 : x === y ? 0 : 1e-6));
  return links.map(([i, j]) => [i, j + start]);
}

/** The vertex of the second rim that goes with the first rim's first one. */
function bestTurn(a: Row, b: Row, places: { a: Triple[]; b: Triple[] }): number {
  const n = b.vertices.length;
  let [best, least] = [0, Infinity];
  for (let turn = 0; turn < n; turn++) {
    let sum = 0;
    let j = 0;
    for (let i = 0; i < a.vertices.length; i++) {
      const share = (k: number) => ((b.shares[(turn + k) % n] - b.shares[turn] + 1) % 1) + (k >= n ? 1 : 0);
      while (j + 1 < n && Math.abs(share(j + 1) - a.shares[i]) <= Math.abs(share(j) - a.shares[i])) j++;
      const way = subtract(places.a[i], places.b[(turn + j) % n]);
      sum += way[0] ** 2 + way[1] ** 2 + way[2] ** 2;
    }
    if (sum < least - 1e-9) [least, best] = [sum, turn];
  }
  return best;
}

/** The rims between the two, each with as many vertices as the first; on straight lines, or on cubic ones that leave the ends as their faces come in. */
function innerRims(cage: Cage, a: Row, b: Row, links: Link[], { rows, curved }: BridgeSettings): number[][] {
  const partner = a.vertices.map((_, i) => {
    const found = links.filter(([x]) => x === i);
    // between two links that pass it by, the next one's end stands for it
    return (found[Math.floor((found.length - 1) / 2)] ?? links.find(([x]) => x > i)!)[1] % b.vertices.length;
  });
  return Array.from({ length: rows - 1 }, (_, r) => {
    const t = (r + 1) / rows;
    return a.vertices.map((v, i) => {
      const w = b.vertices[partner[i]];
      const [p, q] = [cage.position(v), cage.position(w)];
      const chord = subtract(q, p);
      const far = length(chord);
      const [out, into] = [runIn(cage, v)?.tangent, runIn(cage, w)?.tangent];
      const blend = (own: Triple | undefined, sign: number): Triple =>
        own ? add(scaled(chord, 1 - curved), scaled(own, sign * curved * far)) : chord;
      const [d0, d1] = [blend(out, 1), blend(into, -1)];
      // cubic Hermite
      const [h00, h10, h01, h11] = [(1 + 2 * t) * (1 - t) ** 2, t * (1 - t) ** 2, t * t * (3 - 2 * t), t * t * (t - 1)];
      return cage.addVertex(...add(add(scaled(p, h00), scaled(d0, h10)), add(scaled(q, h01), scaled(d1, h11))));
    });
  });
}
