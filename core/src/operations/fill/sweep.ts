import Joi from 'joi';
import { layFaces } from '../../hand/lay-act.ts';
import { there, type Place } from '../../hand/acts.ts';
import { SurfaceWalk, type Anchor } from '../../hand/surface-walk.ts';
import { type Cage } from '../../mesh/cage.ts';
import { add, dot, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { selectEdges, selectFaces, type Selection } from '../../select/selection.ts';
import { meetingNotes } from '../lay/laying.ts';
import { type CageOperation, type CageResult, type Params, type Refusal, type Surroundings } from '../operation.ts';
import { counted } from '../shared/words.ts';
import { chainsPicked } from './borders-meant.ts';

/** Two chains of border vertices that begin at the same one. */
interface Corner {
  first: number[];
  second: number[];
}

const verticesAlong = (cage: Cage, halves: readonly number[]): number[] => [
  ...halves.map((h) => cage.origin[h]),
  cage.target(halves[halves.length - 1])
];

/** How much a chain goes straight on at its vertex i: 1 straight, -1 back. */
function straightness(cage: Cage, chain: readonly number[], i: number): number {
  const [a, b, c] = [chain[i - 1], chain[i], chain[i + 1]].map((v) => cage.position(v));
  return dot(unit(subtract(b, a)), unit(subtract(c, b)));
}

/** The corner that picked border edges make: of two chains that meet, or of one at its picked vertex, or where it bends the most. */
function cornerOf(cage: Cage, selection: Selection): Corner | undefined {
  const chains = chainsPicked(cage, selection).map((halves) => verticesAlong(cage, halves));
  let corner: Corner | undefined;
  if (chains.length === 1 && chains[0].length > 2) {
    const [chain] = chains;
    const inner = chain.map((_, i) => i).slice(1, -1);
    const picked = inner.find((i) => selection.vertices.includes(chain[i]));
    const at = picked ?? inner.reduce((a, b) => (straightness(cage, chain, b) < straightness(cage, chain, a) ? b : a));
    corner = { first: chain.slice(0, at + 1).reverse(), second: chain.slice(at) };
  } else if (chains.length === 2) {
    const [a, b] = chains;
    if (a.at(-1) === b[0]) corner = { first: [...a].reverse(), second: b };
    else if (b.at(-1) === a[0]) corner = { first: a, second: [...b].reverse() };
  }
  // the edge that was picked first is swept along the other
  const [edge] = selection.edges;
  const has = (chain: readonly number[]) => chain.includes(cage.origin[2 * edge]) && chain.includes(cage.target(2 * edge));
  return corner && !has(corner.first) && has(corner.second) ? { first: corner.second, second: corner.first } : corner;
}

function check(cage: Cage, selection: Selection): Refusal | undefined {
  if (cornerOf(cage, selection)) return undefined;
  return {
    found: 'The picked edges are no two chains of a border that meet in a vertex.',
    where: selectEdges(selection.edges),
    instead: 'Pick border edges of the first chain, then those of the second, from the corner on.'
  };
}

/** Places of the first chain when it has gone along the second, row by row; on the reference each goes its own way over it. */
function sweptRows(cage: Cage, { first, second }: Corner, walk: SurfaceWalk | undefined): Triple[][] {
  const rows = [first.map((v) => cage.position(v))];
  let anchors: Anchor[] | undefined = walk && rows[0].map((p) => walk.nearest(p)!);
  for (let i = 1; i < second.length; i++) {
    const step = subtract(cage.position(second[i]), cage.position(second[i - 1]));
    anchors = anchors?.map((anchor) => walk!.step(anchor, step));
    rows.push(anchors ? anchors.map(({ at }) => at) : rows[i - 1].map((p) => add(p, step)));
    rows[i][0] = cage.position(second[i]);
  }
  return rows;
}

function run(cage: Cage, selection: Selection, params: Params, { reference }: Surroundings): CageResult {
  const { weld, cling } = params as unknown as { weld: number; cling: boolean };
  const corner = cornerOf(cage, selection)!;
  const walk = cling && reference ? SurfaceWalk.over(Reference.of(reference)) : undefined;
  const rows = sweptRows(cage, corner, walk);
  const [n, m] = [corner.first.length, corner.second.length];
  const places = rows.flatMap((row, i) => row.map((p, k): Place => (i === 0 || k === 0 ? there(p) : p)));
  const isTurned = cage.findHalfEdge(corner.first[0], corner.first[1]) >= 0 && cage.face[cage.findHalfEdge(corner.first[0], corner.first[1])] < 0;
  const faces = Array.from({ length: (n - 1) * (m - 1) }, (_, q) => {
    const at = Math.floor(q / (n - 1)) * n + (q % (n - 1));
    const corners = [at, at + n, at + n + 1, at + 1];
    return isTurned ? [...corners].reverse() : corners;
  });
  const only = new Set(places.flatMap((p, i) => (p[3] === 1 ? [] : [i])));
  const laid = layFaces(cage, { do: 'faces', places, faces }, weld, 'none', only);
  const notes = [`${n - 1} by ${m - 1}: ${counted(faces.length, 'quad')}.`, ...meetingNotes(laid, weld)];
  return { cage: laid.cage, selection: selectFaces(laid.made), notes };
}

/** Sweeps a chain of border edges along another one. */
export const sweep: CageOperation = {
  kind: 'cage',
  id: 'sweep',
  bench: 5,
  group: 'Holes',
  name: 'Sweep',
  purpose:
    'Sweep a chain of border edges along a second one that begins at its end: a grid of quads between them, over the reference if there is one.',
  icon: 'DataTable',
  needs: 'Two chains of border edges that meet in a vertex.',
  params: Joi.object({
    weld: Joi.number().min(0).max(1e6).default(0).label('Weld within').unit('mm').meta({ step: 0.1 }).description('0: nothing it meets is welded'),
    cling: Joi.boolean().default(true).label('Put on the reference')
  }),
  check,
  run
};
