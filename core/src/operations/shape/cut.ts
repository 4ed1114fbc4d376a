import Joi from 'joi';
import { NONE, type Cage } from '../../mesh/cage.ts';
import { splitEdge, splitFace } from '../../mesh/euler-operators.ts';
import { cornersInOneFace } from '../../mesh/topology.ts';
import { selectEdges, selectVertices, type Selection } from '../../select/selection.ts';
import { refuse, type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';

/** A place the cut goes through: a vertex, or a point on an edge at a fraction from the start of half-edge 2e. */
export type CutPoint = { vertex: number } | { edge: number; fraction: number };

interface CutParams {
  points: CutPoint[];
  runOut: boolean;
}

const isVertex = (p: CutPoint): p is { vertex: number } => 'vertex' in p;

/** Faces a point touches. */
function facesAt(cage: Cage, p: CutPoint): number[] {
  const halves = isVertex(p) ? cage.spokes(p.vertex) : [2 * p.edge, 2 * p.edge + 1];
  return halves.map((h) => cage.face[h]).filter((f) => f !== NONE);
}

const exists = (cage: Cage, p: CutPoint) => (isVertex(p) ? cage.hasVertex(p.vertex) : cage.hasEdge(p.edge));
const placeOf = (p: CutPoint): Selection => (isVertex(p) ? selectVertices([p.vertex]) : selectEdges([p.edge]));

function check(cage: Cage, _selection: Selection, params: Params): Refusal | undefined {
  const { points } = params as unknown as CutParams;
  if (points.length < 2)
    return {
      found: points.length === 0 ? 'The cut has no points yet.' : 'The cut has one point only.',
      instead: 'Click along edges and vertices; Enter applies.'
    };
  for (let i = 0; i < points.length; i++) {
    if (!exists(cage, points[i])) return { found: `Point ${i + 1} of the cut lies on an element that is not there any more.` };
    if (i === 0) continue;
    const before = new Set(facesAt(cage, points[i - 1]));
    if (!facesAt(cage, points[i]).some((f) => before.has(f)))
      return {
        found: `Points ${i} and ${i + 1} lie on no common face.`,
        where: placeOf(points[i]),
        instead: 'Click on every edge that the cut crosses between them.'
      };
  }
  return undefined;
}

/** Goes on from the last point straight across quads, until a border, a face that is no quad, or an edge passed already. */
function ranOut(cage: Cage, points: CutPoint[]): CutPoint[] {
  const more: CutPoint[] = [];
  const last = points[points.length - 1];
  if (isVertex(last)) return more;
  const previous = new Set(facesAt(cage, points[points.length - 2]));
  const passed = new Set(points.flatMap((p) => (isVertex(p) ? [] : [p.edge])));
  let h = [2 * last.edge, 2 * last.edge + 1].find((k) => !previous.has(cage.face[k]));
  // measured along h, which always looks the same way across the strip
  const along = h === 2 * last.edge ? last.fraction : 1 - last.fraction;
  while (h !== undefined && cage.face[h] !== NONE && cage.faceSize(cage.face[h]) === 4) {
    h = cage.next[cage.next[h]] ^ 1;
    if (passed.has(h >> 1)) break;
    passed.add(h >> 1);
    more.push({ edge: h >> 1, fraction: h % 2 === 0 ? along : 1 - along });
  }
  return more;
}

/** Puts a vertex at every point; points at an edge's end take the vertex there. */
function placeVertices(cage: Cage, points: CutPoint[]): number[] {
  const onEdge = new Map<number, { t: number; v: number }[]>();
  const ends = new Map(
    points.flatMap((p) => (isVertex(p) ? [] : [[p.edge, [cage.origin[2 * p.edge], cage.origin[2 * p.edge + 1]]] as [number, number[]]]))
  );
  return points.map((p) => {
    if (isVertex(p)) return p.vertex;
    const [a, b] = ends.get(p.edge)!;
    if (p.fraction <= 0) return a;
    if (p.fraction >= 1) return b;
    const chain = onEdge.get(p.edge) ?? [
      { t: 0, v: a },
      { t: 1, v: b }
    ];
    const same = chain.find(({ t }) => Math.abs(t - p.fraction) < 1e-9);
    if (same) return same.v;
    const at = chain.findIndex(({ t }) => t > p.fraction);
    const [from, to] = [chain[at - 1], chain[at]];
    const h = cage.findHalfEdge(from.v, to.v);
    const share = (p.fraction - from.t) / (to.t - from.t);
    const v = splitEdge(cage, h >> 1, h % 2 === 0 ? share : 1 - share);
    chain.splice(at, 0, { t: p.fraction, v });
    onEdge.set(p.edge, chain);
    return v;
  });
}

function run(cage: Cage, _selection: Selection, params: Params): CageResult {
  const { points, runOut } = params as unknown as CutParams;
  const ahead = runOut ? ranOut(cage, points) : [];
  const behind = runOut ? ranOut(cage, [...points].reverse()) : [];
  const all = [...behind.reverse(), ...points, ...ahead];
  const copy = cage.clone();
  const vertices = placeVertices(copy, all);
  const edges: number[] = [];
  for (let i = 1; i < vertices.length; i++) {
    const [a, b] = [vertices[i - 1], vertices[i]];
    if (a === b) continue;
    const there = copy.findHalfEdge(a, b);
    const corners = there === NONE ? cornersInOneFace(copy, a, b) : undefined;
    if (there === NONE && !corners)
      refuse(
        `The cut crosses itself between points ${i} and ${i + 1}.`,
        selectVertices([...(cage.hasVertex(a) ? [a] : []), ...(cage.hasVertex(b) ? [b] : [])]),
        'End it there and begin a second cut.'
      );
    edges.push(corners ? splitFace(copy, corners[0], corners[1]) >> 1 : there >> 1);
  }
  return { cage: copy, selection: selectEdges(edges), notes: [`Cut through ${all.length} points, ${edges.length} edges.`] };
}

const point = Joi.alternatives(
  Joi.object({ vertex: Joi.number().integer().min(0).required() }),
  Joi.object({ edge: Joi.number().integer().min(0).required(), fraction: Joi.number().min(0).max(1).required() })
);

/** A cut along clicked points on edges and vertices. */
export const cut: CageOperation = {
  kind: 'cage',
  id: 'cut',
  bench: 3,
  name: 'Cut',
  purpose: 'Cut new edges across faces by clicking along edges and vertices; let it run out straight on.',
  icon: 'Cut',
  key: 'G',
  pointed: true,
  needs: 'A cage with faces.',
  params: Joi.object({
    points: Joi.array().items(point).default([]).label('Points'),
    runOut: Joi.boolean().default(false).label('Run out at both ends')
  }),
  check,
  run
};
