import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { splitEdge, splitFace } from '../../mesh/euler-operators.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { sliceFaces } from '../../mesh/slice.ts';
import { cornersInOneFace } from '../../mesh/topology.ts';
import { cross, dot, length, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { selectEdges, selectVertices, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';
import { elementAt, facesAt, isInFace, isOnEdge, isVertex, placeExists, pointedPlaces, positionOf, type PointedPlace } from '../shared/places.ts';
import { counted } from '../shared/words.ts';

interface CutParams {
  points: PointedPlace[];
  runOut: boolean;
  reach: 'seen' | 'through';
  /** where the eye is; with `parallel` the direction it looks from */
  eye: number[];
  parallel: boolean;
}

function check(cage: Cage, _selection: Selection, params: Params): Refusal | undefined {
  const { points, reach, eye } = params as unknown as CutParams;
  if (points.length < 2)
    return {
      found: points.length === 0 ? 'The cut has no points yet.' : 'The cut has one point only.',
      instead: 'Click along edges, vertices and faces; Enter applies.'
    };
  const lost = points.findIndex((p) => !placeExists(cage, p));
  if (lost >= 0) return { found: `Point ${lost + 1} of the cut lies on an element that is not there any more.`, instead: 'Cut again from there.' };
  if (reach === 'through')
    return eye.length === 3 ? undefined : { found: 'The direction of the view is missing.', instead: 'Draw the cut again on the stand.' };
  for (const i of [0, points.length - 1])
    if (isInFace(points[i]))
      return {
        found: `Point ${i + 1} lies inside a face: a cut can turn there, not end.`,
        where: elementAt(points[i]),
        instead: 'End it on an edge or a vertex.'
      };
  for (let i = 1; i < points.length; i++) {
    const before = new Set(facesAt(cage, points[i - 1]));
    if (!facesAt(cage, points[i]).some((f) => before.has(f)))
      return {
        found: `Points ${i} and ${i + 1} lie on no common face.`,
        where: elementAt(points[i]),
        instead: 'Click on every edge that the cut crosses between them, or cut through everything.'
      };
  }
  return undefined;
}

/** Where one end of a cut ran out to, and why no farther. */
interface End {
  more: PointedPlace[];
  because: 'border' | 'no quad' | 'itself' | 'closed' | 'vertex';
}

/** The faces a cut goes across between its points. */
const facesCut = (cage: Cage, points: PointedPlace[]): Set<number> =>
  new Set(points.slice(1).flatMap((p, i) => facesAt(cage, p).filter((f) => facesAt(cage, points[i]).includes(f))));

/** Goes on from the last point straight across quads: to a border, a face that is no quad, or where the cut, with what ran out before, meets itself. */
function ranOut(cage: Cage, points: PointedPlace[], others: PointedPlace[] = []): End {
  const more: PointedPlace[] = [];
  const last = points[points.length - 1];
  if (!isOnEdge(last)) return { more, because: 'vertex' };
  const previous = new Set(facesAt(cage, points[points.length - 2]));
  const passed = new Map([...points, ...others].flatMap((p) => (isOnEdge(p) ? [[p.edge, p.fraction] as const] : [])));
  const cutAlready = new Set([...facesCut(cage, points), ...facesCut(cage, [points[0], ...others])]);
  let h = [2 * last.edge, 2 * last.edge + 1].find((k) => !previous.has(cage.face[k]));
  // measured along h, which always looks the same way across the strip
  const along = h === 2 * last.edge ? last.fraction : 1 - last.fraction;
  for (;;) {
    if (h === undefined || cage.face[h] === NONE) return { more, because: 'border' };
    if (cage.faceSize(cage.face[h]) !== 4) return { more, because: 'no quad' };
    if (cutAlready.has(cage.face[h])) return { more, because: 'itself' };
    cutAlready.add(cage.face[h]);
    h = cage.next[cage.next[h]] ^ 1;
    const fraction = h % 2 === 0 ? along : 1 - along;
    const there = passed.get(h >> 1);
    if (there !== undefined && Math.abs(there - fraction) > 1e-6) return { more, because: 'itself' };
    more.push({ edge: h >> 1, fraction });
    if (there !== undefined) return { more, because: 'closed' };
    passed.set(h >> 1, fraction);
  }
}

/** What is told of the two ends that ran out. */
function describeEnds(ends: End[]): string[] {
  if (ends.some(({ because }) => because === 'closed')) return ['It runs all the way round and closes.'];
  const why = { border: 'at a border', 'no quad': 'at a face that is no quad', itself: 'where it meets itself', closed: '', vertex: 'at its vertex' };
  return ends.map(
    ({ more, because }, i) =>
      `Its ${i === 0 ? 'last' : 'first'} end ${more.length > 0 ? `runs out through ${more.length} face${more.length === 1 ? '' : 's'} and stops` : 'stays'} ${why[because]}.`
  );
}

/** Puts a vertex at every point on an edge; points at an edge's end take the vertex there. NONE for those inside faces. */
function placeVertices(cage: Cage, points: PointedPlace[]): number[] {
  const onEdge = new Map<number, { t: number; v: number }[]>();
  const ends = new Map(
    points.flatMap((p) => (isOnEdge(p) ? [[p.edge, [cage.origin[2 * p.edge], cage.origin[2 * p.edge + 1]]] as [number, number[]]] : []))
  );
  return points.map((p) => {
    if (isVertex(p)) return p.vertex;
    if (!isOnEdge(p)) return NONE;
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

/** Cuts from a vertex to another across one face, by way of points inside it. @returns the edges of the cut */
function cutAcross(cage: Cage, a: number, b: number, turns: Triple[], span: string, lost: Selection): number[] {
  const there = cage.findHalfEdge(a, b);
  if (there !== NONE && turns.length === 0) return [there >> 1];
  const corners = cornersInOneFace(cage, a, b);
  if (!corners)
    return refuse(
      turns.length > 0 ? `Between ${span} the cut turns inside a face along one of its own edges.` : `The cut crosses itself between ${span}.`,
      lost,
      'End it there and begin a second cut.'
    );
  let h = splitFace(cage, corners[0], corners[1]) ^ 1;
  if (cage.origin[h] !== a) h ^= 1;
  const edges = [h >> 1];
  for (const p of turns) {
    // the part towards b is cut again at the next turn
    const v = splitEdge(cage, h >> 1, 0.5);
    cage.positions.set(p, 3 * v);
    h = cage.findHalfEdge(v, b);
    edges.push(cage.findHalfEdge(a, v) >> 1, h >> 1);
    a = v;
  }
  return edges;
}

function cutAlong(cage: Cage, points: PointedPlace[], runOut: boolean): CageResult {
  const ahead = runOut ? ranOut(cage, points) : undefined;
  // an end that closed the cut leaves the other nothing to do
  const behind = ahead && ahead.because !== 'closed' ? ranOut(cage, [...points].reverse(), ahead.more) : undefined;
  const before = [...(behind?.more ?? [])].reverse();
  const all = [...before, ...points, ...(ahead?.more ?? [])];
  const nameOf = (i: number) => Math.min(points.length, Math.max(1, i + 1 - before.length));
  const copy = cage.clone();
  const vertices = placeVertices(copy, all);
  const edges = new Set<number>();
  let from = 0;
  for (let i = 1; i < vertices.length; i++) {
    if (vertices[i] === NONE) continue;
    const [a, b] = [vertices[from], vertices[i]];
    const turns = all.slice(from + 1, i).map((p) => positionOf(cage, p));
    const span = `points ${nameOf(from)} and ${nameOf(i)}`;
    if (a !== b) for (const e of cutAcross(copy, a, b, turns, span, selectVertices([a, b].filter((v) => cage.hasVertex(v))))) edges.add(e);
    from = i;
  }
  const ends = [ahead, behind].filter((end) => end !== undefined);
  return {
    cage: copy,
    selection: selectEdges(edges),
    notes: [`Cut through ${counted(all.length, 'point')}, ${counted(edges.size, 'edge')}.`, ...describeEnds(ends)]
  };
}

/** Cuts everything that lies behind the clicked line as well, by planes through the eye. */
function cutThrough(cage: Cage, p: CutParams): CageResult {
  const copy = cage.clone();
  const places = p.points.map((q) => positionOf(cage, q));
  const eye = p.eye as Triple;
  const edges = new Set<number>();
  for (let i = 1; i < places.length; i++) {
    const [a, b] = [places[i - 1], places[i]];
    const way = subtract(b, a);
    if (length(way) < 1e-9) continue;
    const look = p.parallel ? eye : subtract(a, eye);
    const normal = unit(cross(way, look));
    if (length(normal) < 0.5)
      refuse(`Points ${i} and ${i + 1} lie behind each other.`, elementAt(p.points[i]), 'Click points that lie beside each other in the view.');
    // between the two clicked lines of sight, with a hair to spare at both ends
    const beside = (q: Triple, end: Triple) => {
      const sight = p.parallel ? eye : subtract(end, eye);
      return dot(cross(sight, normal), subtract(q, end)) / (length(sight) || 1);
    };
    const sign = Math.sign(beside(b, a)) || 1;
    const spare = 1e-6 * length(way);
    const within = (q: Triple) => sign * beside(q, a) >= -spare && sign * beside(q, b) <= spare;
    for (const e of sliceFaces(copy, { point: a, normal }, { within }, 1e-7)) edges.add(e);
  }
  if (edges.size === 0)
    refuse('The line crosses no face from one edge to another.', undefined, 'Start and end it outside the faces to cut, or on their edges.');
  return {
    cage: copy,
    selection: selectEdges([...edges].filter((e) => copy.hasEdge(e))),
    notes: [`Cut through everything behind the line: ${counted(edges.size, 'edge')}.`]
  };
}

/** A cut along clicked points on edges, vertices and faces. */
export const cut: CageOperation = {
  kind: 'cage',
  id: 'cut',
  bench: 3,
  name: 'Cut',
  purpose: 'Cut new edges across faces by clicking along edges, vertices and faces; let it run out, or go through everything.',
  icon: 'Cut',
  key: 'G',
  pointed: 'cage',
  needs: 'A cage with faces.',
  keepsSurface: 'there too',
  once: ['points', 'eye', 'parallel'],
  params: Joi.object({
    points: pointedPlaces(true),
    runOut: Joi.boolean()
      .default(false)
      .label('Run out at both ends')
      .meta({ when: { field: 'reach', is: 'seen' } }),
    reach: Joi.string()
      .valid('seen', 'through')
      .default('seen')
      .label('Cuts')
      .meta({ labels: { seen: 'What faces you', through: 'Through everything' } }),
    angle: Joi.number()
      .valid(0, 15, 30, 45)
      .default(0)
      .label('Angle steps')
      .unit('°')
      .description('Each next point snaps to a multiple of this angle in the view.')
      .meta({ labels: { 0: 'Free', 15: '15', 30: '30', 45: '45' } }),
    eye: Joi.array().items(Joi.number()).max(3).default([]).label('Eye'),
    parallel: Joi.boolean().default(false).label('Parallel').meta({ hidden: true }),
    keepSurface: keepSurfaceField()
  }),
  check,
  run: (cage, _selection, params) => {
    const p = params as unknown as CutParams;
    return p.reach === 'through' ? cutThrough(cage, p) : cutAlong(cage, p.points, p.runOut);
  }
};
