import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { splitEdge, splitFace } from '../../mesh/euler-operators.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { cornersInOneFace } from '../../mesh/topology.ts';
import { ringThrough } from '../../select/loops.ts';
import { selectEdges, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { orientedChains } from '../shared/chains.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';

interface AddLoopParams {
  where: 'across' | 'both' | 'left' | 'right';
  measure: 'fraction' | 'mm';
  fraction: number;
  distance: number;
  count: number;
  span: 'whole' | 'this';
}

/** A run of edges to be cut, all looking the same way; cuts are measured from where they start. */
interface Run {
  halves: number[];
  closed: boolean;
  crossesItself: boolean;
}

/** Half-edges the new loops cross first: the picked edges, or those that leave picked edges on a side. */
function seeds(cage: Cage, edges: number[], where: AddLoopParams['where']): number[] {
  if (where === 'across') return edges.map((e) => 2 * e);
  const picked = new Set(edges);
  const along = orientedChains(cage, edges).flat();
  const beside: number[] = [];
  for (const h of along)
    for (const side of where === 'both' ? [h, h ^ 1] : where === 'left' ? [h] : [h ^ 1]) {
      if (cage.face[side] === NONE || cage.faceSize(cage.face[side]) !== 4) continue;
      const rung = cage.next[side];
      if (!picked.has(rung >> 1)) beside.push(rung);
    }
  return beside;
}

/** Whole rings, or only the stretches of them whose edges are seeds; no edge is in two runs. */
function runsOf(cage: Cage, starts: number[], span: 'whole' | 'this'): Run[] {
  const wanted = new Set(starts.map((h) => h >> 1));
  const done = new Set<number>();
  const runs: Run[] = [];
  for (const start of starts) {
    if (done.has(start >> 1)) continue;
    const ring = ringThrough(cage, start);
    const { halves } = ring;
    const n = halves.length;
    const takes = (i: number) => {
      const h = halves[ring.closed ? (i + n) % n : i];
      return h !== undefined && !done.has(h >> 1) && (span === 'whole' || wanted.has(h >> 1));
    };
    let from = halves.findIndex((h) => h >> 1 === start >> 1);
    let to = from;
    while (to - from + 1 < n && takes(to + 1)) to++;
    while (to - from + 1 < n && takes(from - 1)) from--;
    const stretch = Array.from({ length: to - from + 1 }, (_, i) => halves[(from + i + n) % n]);
    for (const h of stretch) done.add(h >> 1);
    runs.push({ halves: stretch, closed: ring.closed && stretch.length === n, crossesItself: ring.crossedTwice.length > 0 });
  }
  return runs;
}

/** Fractions along an edge at which it is cut, from its start. */
function cutsOf(cage: Cage, h: number, p: AddLoopParams): number[] {
  const first = p.measure === 'mm' ? Math.min(0.95, p.distance / (cage.edgeLength(h >> 1) || 1)) : p.fraction;
  if (p.count === 1) return [first];
  // several: spread evenly over the edge
  return Array.from({ length: p.count }, (_, i) => (i + 1) / (p.count + 1));
}

/** Cuts every edge of a run and joins the cuts across the faces. @returns new edges of the loops, and ends led to a corner */
function cutRun(cage: Cage, run: Run, p: AddLoopParams): { loops: number[]; ended: number } {
  const outside = [cage.face[run.halves[0] ^ 1], cage.face[run.halves[run.halves.length - 1]]];
  const rows = run.halves.map((h) => cutEdge(cage, h, cutsOf(cage, h, p)));
  const loops: number[] = [];
  const last = run.closed ? rows.length : rows.length - 1;
  for (let i = 0; i < last; i++) {
    const to = rows[(i + 1) % rows.length];
    rows[i].forEach((v, k) => loops.push(...joinAcross(cage, v, to[k])));
  }
  if (run.closed || p.span === 'whole') return { loops, ended: 0 };
  const ends = [rows[0], rows[rows.length - 1]].flatMap((row, i) => (outside[i] === NONE ? [] : [leadToCorner(cage, row, outside[i])]));
  // across one edge alone there is nothing of a loop but its ends
  return { loops: rows.length > 1 ? loops : ends.flat(), ended: ends.filter((e) => e.length > 0).length };
}

/** Joins cut vertices on the rim of a face with its far corners, so that none hangs in the middle of an edge. @returns the new edges */
function leadToCorner(cage: Cage, row: number[], face: number): number[] {
  const led: number[] = [];
  for (const v of row) {
    const loop = cage.loopOf(cage.faceEdge[face]);
    const at = loop.findIndex((h) => cage.origin[h] === v);
    if (at < 0 || loop.length < 5) return led;
    led.push(splitFace(cage, loop[at], loop[(at + 2) % loop.length]) >> 1);
  }
  return led;
}

/** Whether a run can be cut: through two edges at least, or through one of which a quad lies beside, where it shall end at once. */
const canBeCut = (cage: Cage, { halves }: Run, span: AddLoopParams['span']): boolean =>
  halves.length > 1 || (span === 'this' && [halves[0], halves[0] ^ 1].some((h) => cage.face[h] !== NONE && cage.faceSize(cage.face[h]) === 4));

/** Puts vertices on an edge at fractions from the start of half-edge h. */
function cutEdge(cage: Cage, h: number, fractions: number[]): number[] {
  const e = h >> 1;
  const towards = h === 2 * e;
  const start = cage.origin[h];
  // from the far end on, so that what is left is always the edge's first part
  let behind = 1;
  const made: number[] = [];
  let piece = e;
  for (const t of [...fractions].reverse()) {
    const part = t / behind;
    const v = splitEdge(cage, piece, towards ? part : 1 - part);
    made.unshift(v);
    behind = t;
    piece = cage.findHalfEdge(start, v) >> 1;
  }
  return made;
}

/** Joins two vertices on opposite sides of what was one quad; where another new loop lies between, it is crossed. */
function joinAcross(cage: Cage, a: number, b: number): number[] {
  const shared = cornersInOneFace(cage, a, b);
  if (shared) return [splitFace(cage, shared[0], shared[1]) >> 1];
  for (const h of cage.spokes(a)) {
    if (cage.face[h] === NONE) continue;
    for (const k of cage.loopOf(h)) {
      const across = cage.face[k ^ 1];
      if (across === NONE || !cage.spokes(b).some((s) => cage.face[s] === across)) continue;
      if (cage.origin[k] === a || cage.target(k) === a || cage.origin[k] === b || cage.target(k) === b) continue;
      const m = splitEdge(cage, k >> 1, 0.5);
      return [...joinAcross(cage, a, m), ...joinAcross(cage, m, b)];
    }
  }
  return [];
}

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  const p = params as unknown as AddLoopParams;
  if (selection.edges.length === 0)
    return { found: 'No edge is picked.', instead: 'Pick an edge for the new loop to cross, or a loop to add one beside.' };
  const starts = seeds(cage, selection.edges, p.where);
  const runs = runsOf(cage, starts, p.span).filter((run) => canBeCut(cage, run, p.span));
  if (runs.length === 0)
    return {
      found:
        p.where === 'across'
          ? 'No quad lies beside the picked edges, so no loop can run across them.'
          : 'No quad lies beside the picked edges on that side.',
      where: selectEdges(selection.edges),
      instead: p.where === 'across' ? 'Pick an edge of a quad.' : 'Take the other side, or let the loop cross the picked edges.'
    };
  const crossing = runs.find((run) => run.crossesItself);
  if (p.span === 'this' && p.count > 1)
    return { found: 'Several loops cannot end inside a face pattern at once.', instead: 'Add one loop, or let them run on (whole loop).' };
  if (crossing && p.count > 1)
    return {
      found: 'This ring crosses itself, and several loops at once would cut each other.',
      where: selectEdges(crossing.halves.map((h) => h >> 1)),
      instead: 'Add one loop at a time.'
    };
  return undefined;
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const p = params as unknown as AddLoopParams;
  const copy = cage.clone();
  const runs = runsOf(cage, seeds(cage, selection.edges, p.where), p.span).filter((r) => canBeCut(cage, r, p.span));
  if (runs.length === 0) refuse('No loop can run there.', undefined, 'Pick an edge between two quads.');
  const results = runs.map((one) => cutRun(copy, one, p));
  const loops = results.flatMap((r) => r.loops);
  const ended = results.reduce((sum, r) => sum + r.ended, 0);
  const made = runs.length * p.count;
  const notes = [`${loops.length} edges in ${made} new loop${made === 1 ? '' : 's'}.`];
  if (ended > 0) notes.push(`${ended} end${ended === 1 ? '' : 's'} led to a corner of the next face, which leaves a triangle there.`);
  // an edge that a later loop crossed has become two
  return { cage: copy, selection: selectEdges(loops.filter((e) => copy.hasEdge(e))), notes };
}

/** New loops across picked edges, or beside picked loops. */
export const addLoop: CageOperation = {
  kind: 'cage',
  id: 'add-loop',
  seconds: (cage) => 2.5e-5 * cage.faceCount,
  bench: 3,
  name: 'Add loop',
  purpose: 'Cut a new edge loop across picked edges, or beside a picked loop, at a fraction or a distance.',
  icon: 'RowInsert',
  key: 'A',
  needs: 'Pick an edge of a quad, or a loop.',
  keepsSurface: 'there too',
  params: Joi.object({
    where: Joi.string()
      .valid('across', 'both', 'left', 'right')
      .default('across')
      .label('Where')
      .meta({
        labels: { across: 'Across the picked edges', both: 'Beside them, both sides', left: 'Beside them, left', right: 'Beside them, right' }
      }),
    measure: Joi.string()
      .valid('fraction', 'mm')
      .default('fraction')
      .label('Place by')
      .meta({ labels: { fraction: 'Fraction', mm: 'Distance' } }),
    fraction: Joi.number()
      .min(0.001)
      .max(0.999)
      .default(0.5)
      .label('Fraction')
      .meta({ step: 0.05, when: { field: 'measure', is: 'fraction' } }),
    distance: Joi.number()
      .greater(0)
      .max(1e6)
      .default(1)
      .label('Distance')
      .unit('mm')
      .meta({ step: 0.1, when: { field: 'measure', is: 'mm' } }),
    count: Joi.number().integer().min(1).max(64).default(1).label('Number of loops').meta({ step: 1 }),
    span: Joi.string()
      .valid('whole', 'this')
      .default('whole')
      .label('Runs')
      .meta({ labels: { whole: 'Whole loop', this: 'This span' } }),
    keepSurface: keepSurfaceField()
  }),
  check,
  run
};
