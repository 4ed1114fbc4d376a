import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';

/** Where a loop ends: at a pole of some valence, at a border, at a turn sharper than asked, or not at all. */
export type LoopEnd = { why: 'pole'; vertex: number; valence: number } | { why: 'border' | 'turn'; vertex: number } | { why: 'closed' };

/** An edge loop as a walk. */
export interface LoopRun {
  /** half-edges in order, each starting where the one before ended */
  halves: number[];
  closed: boolean;
  /** behind the first and after the last half-edge */
  ends: [LoopEnd, LoopEnd];
  /** vertices it passes more than once */
  crossings: number[];
  /** whether it comes to lie beside itself */
  spiral: boolean;
}

/** The half-edge that goes straight on behind h, or NONE: opposite at vertices of four edges, along the border on a border. */
export function straightOn(cage: Cage, h: number): number {
  if (cage.isBorderEdge(h >> 1)) {
    // along the border, on whichever side h runs
    if (cage.face[h] === NONE) return cage.next[h];
    return cage.previous(h ^ 1) ^ 1;
  }
  const v = cage.target(h);
  if (cage.isBorderVertex(v) || cage.valence(v) !== 4) return NONE;
  return cage.next[cage.next[h] ^ 1];
}

/**
 * The edge loop through half-edge `start`, both ways.
 * @param mostTurn degrees; a loop that turns more at a vertex ends there
 */
export function loopThrough(cage: Cage, start: number, mostTurn = 180): LoopRun {
  const forward = walkLoop(cage, start, mostTurn);
  if (forward.closed) return completed(cage, forward.halves, true, mostTurn);
  const backward = walkLoop(cage, start ^ 1, mostTurn).halves.map((h) => h ^ 1);
  return completed(cage, [...backward.slice(1).reverse(), ...forward.halves], false, mostTurn);
}

function walkLoop(cage: Cage, start: number, mostTurn: number): { halves: number[]; closed: boolean } {
  const halves: number[] = [];
  const seen = new Set<number>();
  for (let h = start; h !== NONE && !seen.has(h >> 1);) {
    halves.push(h);
    seen.add(h >> 1);
    const on = straightOn(cage, h);
    if (on === NONE || (mostTurn < 180 && turnBetween(cage, h, on) > mostTurn)) break;
    if (on === start) return { halves, closed: true };
    h = on;
  }
  return { halves, closed: false };
}

/** Degrees by which the way turns from half-edge a to b, which follows it. */
export function turnBetween(cage: Cage, a: number, b: number): number {
  const [p, q, r] = [cage.position(cage.origin[a]), cage.position(cage.origin[b]), cage.position(cage.target(b))];
  const u = [q[0] - p[0], q[1] - p[1], q[2] - p[2]];
  const w = [r[0] - q[0], r[1] - q[1], r[2] - q[2]];
  const cosine = (u[0] * w[0] + u[1] * w[1] + u[2] * w[2]) / (Math.hypot(u[0], u[1], u[2]) * Math.hypot(w[0], w[1], w[2]) || 1);
  return (Math.acos(Math.min(1, Math.max(-1, cosine))) * 180) / Math.PI;
}

function completed(cage: Cage, halves: number[], closed: boolean, mostTurn: number): LoopRun {
  const first = halves[0];
  const last = halves[halves.length - 1];
  const passed = new Map<number, number>();
  const left = new Set<number>();
  const right = new Set<number>();
  for (const h of halves) {
    passed.set(cage.origin[h], (passed.get(cage.origin[h]) ?? 0) + 1);
    if (cage.face[h] !== NONE) left.add(cage.face[h]);
    if (cage.face[h ^ 1] !== NONE) right.add(cage.face[h ^ 1]);
  }
  return {
    halves,
    closed,
    ends: closed ? [{ why: 'closed' }, { why: 'closed' }] : [endAt(cage, first ^ 1, mostTurn), endAt(cage, last, mostTurn)],
    crossings: [...passed].filter(([, times]) => times > 1).map(([v]) => v),
    spiral: halves.length > 2 && [...left].some((f) => right.has(f))
  };
}

function endAt(cage: Cage, h: number, mostTurn: number): LoopEnd {
  const vertex = cage.target(h);
  const on = straightOn(cage, h);
  if (on !== NONE && turnBetween(cage, h, on) > mostTurn) return { why: 'turn', vertex };
  if (cage.isBorderVertex(vertex)) return { why: 'border', vertex };
  return { why: 'pole', vertex, valence: cage.valence(vertex) };
}

/** A ring as a walk across quads; its half-edges all look the same way. */
export interface RingRun {
  halves: number[];
  closed: boolean;
  /** quads it goes through twice */
  crossedTwice: number[];
  /** face at either end of an open ring that is no quad, or NONE at a border */
  ends: [number, number];
}

/** The ring of edges crossed by walking from quad to quad, through half-edge `start`, both ways. */
export function ringThrough(cage: Cage, start: number): RingRun {
  const forward = walkRing(cage, start);
  const back = forward.closed ? { halves: [start], end: NONE } : walkRing(cage, start ^ 1, new Set(forward.halves.map((h) => h >> 1)));
  const halves = [
    ...back.halves
      .slice(1)
      .reverse()
      .map((h) => h ^ 1),
    ...forward.halves
  ];
  const passed = new Map<number, number>();
  for (const h of forward.closed ? halves : halves.slice(0, -1)) passed.set(cage.face[h], (passed.get(cage.face[h]) ?? 0) + 1);
  return {
    halves,
    closed: forward.closed,
    crossedTwice: [...passed].filter(([, times]) => times > 1).map(([f]) => f),
    ends: [back.end, forward.end]
  };
}

function walkRing(cage: Cage, start: number, taken: ReadonlySet<number> = new Set()): { halves: number[]; closed: boolean; end: number } {
  const halves: number[] = [];
  const seen = new Set<number>();
  for (let h = start; ;) {
    halves.push(h);
    seen.add(h >> 1);
    const f = cage.face[h];
    if (f === NONE || cage.faceSize(f) !== 4) return { halves, closed: false, end: f };
    h = cage.next[cage.next[h]] ^ 1;
    if (seen.has(h >> 1) || taken.has(h >> 1)) return { halves, closed: h === start, end: f };
  }
}

/** Edges of the loop through e. */
export function edgeLoop(cage: Cage, e: number, mostTurn?: number): { edges: number[]; closed: boolean } {
  const { halves, closed } = loopThrough(cage, 2 * e, mostTurn);
  return { edges: halves.map((h) => h >> 1), closed };
}

/** Edges of the ring through e. */
export function edgeRing(cage: Cage, e: number): { edges: number[]; closed: boolean } {
  const { halves, closed } = ringThrough(cage, 2 * e);
  return { edges: halves.map((h) => h >> 1), closed };
}

/** "18 edges, closed" or "7 edges, from a border to a pole of 5": what the hint line says of a hovered loop. */
export function describeLoop(run: LoopRun): string {
  const n = run.halves.length;
  const count = `${n.toLocaleString('en')} edge${n === 1 ? '' : 's'}`;
  const said = (end: LoopEnd) =>
    end.why === 'pole' ? `a pole of ${end.valence}` : end.why === 'border' ? 'a border' : end.why === 'turn' ? 'a turn' : 'itself';
  const way = run.closed ? 'closed' : `from ${said(run.ends[0])} to ${said(run.ends[1])}`;
  const crossing = run.crossings.length > 0 ? `, crosses itself ${run.crossings.length} time${run.crossings.length === 1 ? '' : 's'}` : '';
  return `${count}, ${way}${run.spiral ? ', a spiral' : ''}${crossing}`;
}
