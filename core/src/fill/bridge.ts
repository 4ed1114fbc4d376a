import { type Cage } from '../mesh/cage.ts';
import { cheapestLinks, type Link } from '../mesh/loop-links.ts';
import { replaceFaces, type NewFace } from '../mesh/replace-faces.ts';
import { add, between, dot, length, mean, scaled, subtract, unit, type Triple } from '../numeric/vectors.ts';
import { holeAlong, runIn } from './hole.ts';

export interface BridgeSettings {
  /** rows of faces */
  rows: number;
  /** vertices by which the pairing is turned on from the best one */
  offset: number;
  /** 0: straight; 1: leaves both rims as the faces there come in */
  curved: number;
  /** what takes the edges that the richer rim has more; two to one where missing */
  transition?: Transition;
  /** quads at the first rim's corners, as many as their angles have room for */
  corners?: boolean;
}

/** How a row takes two edges more on one rim: by a quad with three corners there, or by a group of quads round two poles. */
export type Transition = '2:0' | '3:1' | '4:2';

const WIDER: Record<Transition, readonly Link[]> = {
  '2:0': [],
  '3:1': [
    [3, 1],
    [1, 3]
  ],
  '4:2': [
    [4, 2],
    [2, 4],
    [3, 1],
    [1, 3]
  ]
};

/** What a bridge starts or ends at: a whole border, or a chain of its edges. */
export interface Rim {
  /** half-edges without a face, in order along the border */
  halves: number[];
  closed: boolean;
}

/**
 * Joins two borders, or two chains of border edges, by rows of faces; all quads where their counts together are even, one
 * triangle else. Borders are paired by the turn of one against the other with the least sum of squared distances at equal
 * shares of their lengths, weighted by how the faces of both come in, chains end to end; what takes two edges more on one rim
 * is spread evenly. Changes the cage.
 * @returns the new faces
 */
export function bridge(cage: Cage, first: Rim, second: Rim, settings: BridgeSettings): number[] {
  const room = settings.corners === true ? roomAt(cage, first, second) : undefined;
  // a link starts at the first vertex: not where one quad alone has room
  const turn =
    room && first.closed
      ? Math.max(
          0,
          room.findIndex((quads) => quads !== 1)
        )
      : 0;
  const turned = <T>(list: readonly T[]): T[] => [...list.slice(turn), ...list.slice(0, turn)];
  const from: Rim = { ...first, halves: turned(first.halves) };
  const [a, b] = rowsOf(cage, from, second);
  const links = linksBetween(cage, a, b, settings, room && turned(room));
  const rims = innerRims(cage, a, b, links, settings);
  const like = cage.face[from.halves[0] ^ 1];
  const added: NewFace[] = [];
  const edges = from.halves.length;
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
    const inner = Array.from({ length: j2 - j + 1 }, (_, d) => b.vertices[(j + d) % b.vertices.length]);
    for (const corners of linkFaces(cage, outer, inner)) added.push({ corners, like });
  }
  return replaceFaces(cage, { gone: [], added });
}

/** The faces from one link to the next: one, or the transition of a richer side to a poorer one. */
function linkFaces(cage: Cage, outer: number[], inner: number[]): number[][] {
  if (inner.length < 2 || outer.length < 2 || inner.length === outer.length) return [[...outer, ...inner.reverse()]];
  if (inner.length > outer.length) return transition(cage, inner, outer).map((corners) => corners.reverse());
  return transition(cage, outer, inner);
}

/**
 * Quads between n + 2 edges and n: a row of one quad an edge on the richer side, whose ends turn down to the poorer one. Two
 * vertices have three neighbours each. Changes the cage.
 */
function transition(cage: Cage, rich: number[], poor: number[]): number[][] {
  const along = (t: number): Triple => {
    const k = Math.min(poor.length - 2, Math.floor(t * (poor.length - 1)));
    return between(cage.position(poor[k]), cage.position(poor[k + 1]), t * (poor.length - 1) - k);
  };
  const edges = rich.length - 1;
  // the row's ends turn down at 45 degrees where it is high enough, else halfway up
  const [foot, end] = [along(1 / edges), cage.position(poor[0])];
  const up = Math.min(0.5, Math.max(0.2, length(subtract(foot, end)) / (length(subtract(cage.position(rich[1]), foot)) || 1)));
  const middle = rich.slice(1, -1).map((v, i) => cage.addVertex(...between(along((i + 1) / edges), cage.position(v), up)));
  const lower = [poor[0], ...middle, poor[poor.length - 1]];
  const upper = rich.slice(1).map((v, i) => [rich[i], v, lower[i + 1], lower[i]]);
  return [...upper, ...poor.slice(1).map((v, i) => [middle[i], middle[i + 1], v, poor[i]])];
}

interface Row {
  /** of a closed row the first is not repeated */
  vertices: number[];
  closed: boolean;
  edges: number;
  /** share of the row's length at which each vertex lies, from 0 */
  shares: number[];
}

/** Both rims in one direction: faces run along both borders, so that seen from the first the second one runs the other way round. */
function rowsOf(cage: Cage, first: Rim, second: Rim): [Row, Row] {
  const back = [...second.halves].reverse().map((h) => h ^ 1);
  return [rowOf(cage, first.halves, first.closed), rowOf(cage, back, second.closed)];
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

/**
 * The link of the first rim's first vertex: vertices of the second rim in the order in which offsets choose them, that of
 * the best pairing first.
 */
export function firstLink(cage: Cage, first: Rim, second: Rim): { from: number; to: number[] } {
  const [a, b] = rowsOf(cage, first, second);
  const best = bestTurn(cage, a, b);
  return { from: a.vertices[0], to: b.vertices.map((_, k, all) => all[(best + k) % all.length]) };
}

/** Links in order along both rows; of closed ones the last is the first once more, a whole turn on. */
function linksBetween(cage: Cage, a: Row, b: Row, { offset, transition = '2:0' }: BridgeSettings, room?: number[]): Link[] {
  const [m, n] = [a.edges, b.edges];
  const start = a.closed ? (((bestTurn(cage, a, b) + offset) % n) + n) % n : 0;
  // shares of the second row count from its own start
  const shareB = (j: number) => {
    if (j >= n) return 1;
    const at = b.shares[(start + j) % b.vertices.length] - b.shares[start];
    return at < 0 ? at + 1 : at;
  };
  const shareA = (i: number) => (i >= m ? 1 : a.shares[i]);
  const wider = WIDER[transition];
  // the first wider steps are what was asked for; what comes after them only helps out where counts are too far apart
  const dear = ([x, y]: Link): number => {
    // the one triangle is taken in any case
    if (x === y || x + y === 1) return 0;
    const rank = wider.findIndex(([p, q]) => p === x && q === y);
    return rank < 0 ? (wider.length > 0 ? 1 : 1e-6) : rank < 2 ? 1e-6 : 0.1;
  };
  const off = ([i, j]: Link, [x, y]: Link) => (shareA(i + x) - shareB(j + y)) ** 2;
  const edgesAt = (j: number) => cage.valence(b.vertices[(start + j) % b.vertices.length]);
  const missedAt = (from: Link, step: Link) => (a.closed ? missed(room!, edgesAt, from, step) : missedInChain(room!, edgesAt, from, step, n));
  const price = (from: Link, step: Link) => off(from, step) * Math.max(1, step[0], step[1]) + (room ? missedAt(from, step) : dear(step));
  const { links, taken } = cheapestLinks(m, n, price, room ? [...wider, ROUND_CORNER] : wider);
  // round a corner a quad comes before the edge
  const whole = links.flatMap(([i, j], k): Link[] =>
    taken[k] === ROUND_CORNER
      ? [
          [i, j],
          [i, j + 2]
        ]
      : [[i, j]]
  );
  return whole.map(([i, j]) => [i, j + start]);
}

/** A step from a corner that has room for three quads: one that only touches the first rim there, then one along its edge. */
const ROUND_CORNER: Link = [1, 3];
/** What it costs where a corner gets more or fewer quads than it has room for, against squares of shares of the rim. */
const MISSED = 0.02;

/** Quads that each vertex of a rim has room for: 1 to 3; at the ends of an open one 1 or 2 before the link to the end of the second rim. */
function roomAt(cage: Cage, first: Rim, second?: Rim): number[] {
  const { halves, closed } = first;
  const { vertices, angles } = holeAlong(cage, cage.loopOf(halves[0]));
  const angleAt = new Map(vertices.map((v, i) => [v, angles[i]]));
  const room = halves.map((h) => Math.min(3, Math.max(1, Math.round(angleAt.get(cage.origin[h])! / (Math.PI / 2)))));
  if (closed || !second) return room;
  const [from, to] = [first, second].map((rim) => [cage.origin[rim.halves[0]], cage.target(rim.halves[rim.halves.length - 1])]);
  const atEnd = (v: number, next: number, link: number): number => {
    const [along, across] = [next, link].map((w) => unit(subtract(cage.position(w), cage.position(v))));
    return dot(along, across) < -Math.SQRT1_2 ? 2 : 1;
  };
  return [atEnd(from[0], cage.target(halves[0]), to[1]), ...room.slice(1), atEnd(from[1], cage.origin[halves[halves.length - 1]], to[0])];
}

/**
 * What a step costs by the corners it gives too many quads or too few.
 * @param room quads that the first rim's vertices have room for
 * @param edges at the second rim's vertices: one with two is a corner, which a quad ends at that takes two edges of the first
 */
function missed(room: readonly number[], edges: (j: number) => number, [i, j]: Link, step: Link): number {
  const at = (k: number) => room[k % room.length];
  const linked = at(i) === 1 ? MISSED : 0;
  if (step === ROUND_CORNER) return at(i) === 3 && edges(j + 1) > 2 ? 0 : 10 * MISSED;
  const poor = at(i) === 3 ? MISSED : 0;
  const [x, y] = step;
  if (x + y === 1) return 0;
  if (x === 2 && y === 0) return (at(i + 1) === 1 ? 0 : edges(j) === 2 ? 5 * MISSED : 10 * MISSED) + linked + poor;
  if (x === 0) return 10 * MISSED;
  if (x === y) return linked + poor;
  // a transition needs a straight piece
  const straight = Array.from({ length: x + 1 }, (_, k) => at(i + k)).every((r) => r === 2);
  return linked + poor + (straight ? MISSED / 4 : 3 * MISSED);
}

/** The same in an open rim: at an end with room for two the first or last quad only touches the rim. */
function missedInChain(room: readonly number[], edges: (j: number) => number, [i, j]: Link, step: Link, n: number): number {
  const last = room.length - 1;
  const inside = [2, ...room.slice(1, last), 2];
  const [x, y] = step;
  if (x === 0 && y === 2 && ((i === 0 && j === 0 && room[0] === 2) || (j + 2 === n && i === last && room[last] === 2)))
    return edges(j + 1) > 2 ? 0 : 20 * MISSED;
  const short = (j === 0 && i === 0 && room[0] === 2) || (i + x === last && j + y === n && room[last] === 2);
  return missed(inside, edges, [i, j], step) + (short ? 10 * MISSED : 0);
}

/** Edges that the far side of a row of quads along a closed rim has, with as many quads at its corners as they have room for. */
export const edgesBeyond = (cage: Cage, rim: Rim): number => roomAt(cage, rim).reduce((sum, room) => sum + 2 * (room - 2), rim.halves.length);

/** The vertex of the second rim that goes with the first rim's first one. */
function bestTurn(cage: Cage, a: Row, b: Row): number {
  const [placesA, placesB] = [a, b].map(({ vertices }) => vertices.map((v) => cage.position(v)));
  const [runsA, runsB] = [a, b].map(({ vertices }) => vertices.map((v) => runIn(cage, v)?.tangent));
  const n = b.vertices.length;
  let [best, least] = [0, Infinity];
  for (let turn = 0; turn < n; turn++) {
    let sum = 0;
    let j = 0;
    for (let i = 0; i < a.vertices.length; i++) {
      const share = (k: number) => ((b.shares[(turn + k) % n] - b.shares[turn] + 1) % 1) + (k >= n ? 1 : 0);
      while (j + 1 < n && Math.abs(share(j + 1) - a.shares[i]) <= Math.abs(share(j) - a.shares[i])) j++;
      const k = (turn + j) % n;
      sum += linkCost(subtract(placesB[k], placesA[i]), runsA[i], runsB[k]);
    }
    if (sum < least * (1 - 1e-9)) [least, best] = [sum, turn];
  }
  return best;
}

/** Squared length of a link, more where it turns away from how the faces come in at its ends: twice as much at a right angle. */
function linkCost(link: Triple, from: Triple | undefined, to: Triple | undefined): number {
  const way = unit(link);
  const turned = (from ? 1 - dot(way, from) : 0) + (to ? 1 + dot(way, to) : 0);
  return dot(link, link) * (1 + turned / 2);
}

/** The rims between the two, each with as many vertices as the first; on straight lines, or on cubic ones that leave the ends as their faces come in. */
function innerRims(cage: Cage, a: Row, b: Row, links: Link[], { rows, curved }: BridgeSettings): number[][] {
  const partners = a.vertices.map((_, i) => partnerOf(cage, b, links, i));
  const runs = a.vertices.map((v) => runIn(cage, v)?.tangent);
  return Array.from({ length: rows - 1 }, (_, r) => {
    const t = (r + 1) / rows;
    return a.vertices.map((v, i) => {
      const [p, q] = [cage.position(v), partners[i].at];
      const chord = subtract(q, p);
      const far = length(chord);
      const blend = (own: Triple | undefined, sign: number): Triple =>
        own ? add(scaled(chord, 1 - curved), scaled(own, sign * curved * far)) : chord;
      const [d0, d1] = [blend(runs[i], 1), blend(partners[i].tangent, -1)];
      // cubic Hermite
      const [h00, h10, h01, h11] = [(1 + 2 * t) * (1 - t) ** 2, t * (1 - t) ** 2, t * t * (3 - 2 * t), t * t * (t - 1)];
      return cage.addVertex(...add(add(scaled(p, h00), scaled(d0, h10)), add(scaled(q, h01), scaled(d1, h11))));
    });
  });
}

/** Where a vertex of the first rim is joined to on the second one, and how the faces come in there; between two links by their share. */
function partnerOf(cage: Cage, b: Row, links: Link[], i: number): { at: Triple; tangent?: Triple } {
  const own = links.filter(([x]) => x === i);
  const k = links.findIndex(([x]) => x > i);
  const link = own[Math.floor((own.length - 1) / 2)];
  const [from, to] = link ? [link, link] : [links[k - 1], links[k]];
  const t = to[0] === from[0] ? 0 : (i - from[0]) / (to[0] - from[0]);
  const on = from[1] + t * (to[1] - from[1]);
  const [v, w] = [Math.floor(on), Math.ceil(on)].map((j) => b.vertices[j % b.vertices.length]);
  const runs = [v, w].map((x) => runIn(cage, x)?.tangent).filter((x) => x !== undefined);
  const at = between(cage.position(v), cage.position(w), on - Math.floor(on));
  return { at, tangent: runs.length > 0 ? unit(mean(runs)) : undefined };
}
