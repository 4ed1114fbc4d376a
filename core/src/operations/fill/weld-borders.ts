import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { splitEdge } from '../../mesh/euler-operators.ts';
import { CageError, NONE } from '../../mesh/half-edges.ts';
import { PointGrid } from '../../numeric/point-grid.ts';
import { closestOnSegment, length, mean, subtract, type Triple } from '../../numeric/vectors.ts';
import { selectVertices, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { mergeVertices } from '../../mesh/merge-vertices.ts';
import { counted } from '../shared/words.ts';

/** Border vertices that are picked, or all where nothing is. */
function borderVertices(cage: Cage, selection: Selection): number[] {
  const picked = verticesOf(cage, selection);
  return (picked.length > 0 ? picked : [...cage.vertices()]).filter((v) => cage.isBorderVertex(v));
}

/** Finds vertices within a distance of a place. */
class Near {
  private readonly grid: PointGrid;

  constructor(
    private readonly cage: Cage,
    vertices: readonly number[],
    private readonly reach: number
  ) {
    // cells no smaller than a millionth of what they hold
    const extent = [...vertices].reduce((most, v) => Math.max(most, ...cage.position(v).map(Math.abs)), 0);
    this.grid = new PointGrid(reach, Math.max(reach, 1e-6 * extent));
    for (const v of vertices) this.put(v);
  }

  put(v: number): void {
    this.grid.put(v, ...this.cage.position(v));
  }

  at(p: Triple): { vertex: number; far: number }[] {
    const found: { vertex: number; far: number }[] = [];
    this.grid.visitNear(...p, (vertex) => {
      const far = length(subtract(p, this.cage.position(vertex)));
      if (far <= this.reach) found.push({ vertex, far });
    });
    return found;
  }
}

/** Share of an edge next to its ends where a vertex is taken to mean the end. */
const END = 0.02;

/**
 * Puts a vertex on every border edge that another border vertex lies on, within a distance, so that both can be welded.
 * Changes the cage.
 * @returns the new vertices
 */
function splitAtJunctions(cage: Cage, vertices: readonly number[], distance: number): number[] {
  const made: number[] = [];
  const own = new Set(vertices);
  const near = new Near(cage, vertices, distance);
  const edges = [...cage.edges()].filter((e) => cage.isBorderEdge(e) && own.has(cage.origin[2 * e]) && own.has(cage.origin[2 * e + 1]));
  const longest = edges.reduce((most, e) => Math.max(most, cage.edgeLength(e)), 0);
  const middles = new PointGrid(distance + longest / 2, Math.max(distance, longest));
  const putEdge = (e: number) => middles.put(e, ...mean([0, 1].map((k) => cage.position(cage.origin[2 * e + k]))));
  edges.forEach(putEdge);
  for (const v of vertices) {
    const p = cage.position(v);
    if (near.at(p).some(({ vertex }) => vertex !== v && !isBeside(cage, v, vertex))) continue;
    let best = undefined as { e: number; far: number; share: number } | undefined;
    middles.visitNear(...p, (e) => {
      const [a, b] = [cage.origin[2 * e], cage.origin[2 * e + 1]];
      if (a === v || b === v || isBeside(cage, v, a) || isBeside(cage, v, b)) return;
      const [from, to] = [cage.position(a), cage.position(b)];
      const on = closestOnSegment(p, from, to);
      const far = length(subtract(p, on));
      const share = length(subtract(on, from)) / (length(subtract(to, from)) || 1);
      if (far <= distance && share > END && share < 1 - END && (!best || far < best.far)) best = { e, far, share };
    });
    if (!best) continue;
    const w = splitEdge(cage, best.e, best.share);
    made.push(w);
    near.put(w);
    // the half that kept the edge's number has another middle now: both are within reach of the old one
    for (const h of cage.spokes(w)) if (h >> 1 !== best.e && cage.isBorderEdge(h >> 1)) putEdge(h >> 1);
  }
  return made;
}

const isBeside = (cage: Cage, v: number, w: number): boolean => cage.findHalfEdge(v, w) !== NONE;

/** Pairs of border vertices that are looked at, at most; more lie within a distance only where that is far too large. */
const MOST_PAIRS = 2_000_000;

/** Vertices that become one, with what none of them may share with another: faces, and neighbours. */
interface Group {
  vertices: number[];
  faces: Set<number>;
  neighbours: Set<number>;
  far: number;
}

/**
 * Groups of border vertices that lie together within a distance, no two of them on one edge or in one face, the nearest first.
 * @throws OperationRefused where too many lie so near
 */
function groupsWithin(cage: Cage, vertices: readonly number[], distance: number): { vertices: number[]; far: number }[] {
  const near = new Near(cage, vertices, distance);
  const pairs: { v: number; w: number; far: number }[] = [];
  for (const v of vertices) {
    for (const { vertex: w, far } of near.at(cage.position(v))) if (v < w) pairs.push({ v, w, far });
    if (pairs.length > MOST_PAIRS)
      refuse(`Nearly all border vertices lie within ${distance} mm of each other.`, selectVertices(vertices), 'Type a smaller distance.');
  }
  pairs.sort((a, b) => a.far - b.far);
  const group = new Map<number, Group>();
  const groupOf = (v: number): Group => {
    const found = group.get(v);
    if (found) return found;
    const spokes = cage.spokes(v);
    const faces = new Set(spokes.map((h) => cage.face[h]).filter((f) => f !== NONE));
    return { vertices: [v], faces, neighbours: new Set(spokes.map((h) => cage.target(h))), far: 0 };
  };
  for (const { v, w, far } of pairs) {
    const [a, b] = [groupOf(v), groupOf(w)];
    if (a === b) continue;
    const [small, large] = a.vertices.length < b.vertices.length ? [a, b] : [b, a];
    if (small.vertices.some((x) => large.neighbours.has(x)) || [...small.faces].some((f) => large.faces.has(f))) continue;
    large.vertices.push(...small.vertices);
    for (const f of small.faces) large.faces.add(f);
    for (const x of small.neighbours) large.neighbours.add(x);
    large.far = Math.max(large.far, small.far, far);
    for (const x of large.vertices) group.set(x, large);
  }
  return [...new Set(group.values())];
}

/** Welds border vertices that lie together; closes hairline gaps, also where vertices lie on edges. */
export const weldBorders: CageOperation = {
  kind: 'cage',
  id: 'weld-borders',
  bench: 5,
  group: 'Holes',
  name: 'Weld borders',
  purpose: 'Weld border vertices that lie within a distance of each other, and close hairline gaps where a vertex lies on the edge beside.',
  icon: 'Merge',
  needs: 'Borders; with something picked only what is picked.',
  params: Joi.object({
    distance: Joi.number().greater(0).max(1e6).default(0.1).label('Within').unit('mm').meta({ step: 0.05 }),
    junctions: Joi.boolean().default(true).label('Also vertices on edges')
  }),
  check: (cage, selection) =>
    borderVertices(cage, selection).length > 0
      ? undefined
      : {
          found: 'No border vertex is picked, or the part is closed.',
          instead: 'Pick the borders that are to be welded, or nothing for all of them.'
        },
  run: (cage, selection, params) => {
    const distance = params.distance as number;
    const copy = cage.clone();
    const own = borderVertices(cage, selection);
    const made = params.junctions ? splitAtJunctions(copy, own, distance) : [];
    const groups = groupsWithin(copy, [...own, ...made], distance);
    if (groups.length === 0)
      refuse(`No two border vertices lie within ${distance} mm of each other.`, selectVertices(own), 'Type a larger distance, or bridge the gap.');
    const merged = groups.map(({ vertices }) => ({ vertices, at: mean(vertices.map((v) => copy.position(v))) }));
    try {
      mergeVertices(copy, merged);
    } catch (error) {
      if (!(error instanceof CageError)) throw error;
      refuse(
        `Welded within ${distance} mm, faces of one side would come to lie on each other.`,
        selectVertices(groups.flatMap((g) => g.vertices).filter((v) => cage.hasVertex(v))),
        'Type a smaller distance, or pick the two borders alone.'
      );
    }
    const farthest = groups.reduce((most, g) => Math.max(most, g.far), 0);
    const notes = [
      `${counted(
        groups.reduce((sum, g) => sum + g.vertices.length, 0),
        'border vertex',
        'border vertices'
      )} welded in ${counted(groups.length, 'place')}; they lay up to ${farthest.toFixed(4)} mm apart.`
    ];
    if (made.length > 0) notes.push(`${counted(made.length, 'edge')} got a vertex where one lay on it.`);
    return { cage: copy, selection: selectVertices(groups.map((g) => g.vertices[0]).filter((v) => copy.hasVertex(v))), notes };
  }
};

/** Pairs of border vertices from a start on: from one vertex both ways along its border, or from two, one ahead and the other back. */
function zipped(cage: Cage, picked: readonly number[], most: number): [number, number][] {
  const out = (v: number) => cage.spokes(v).find((h) => cage.face[h] === NONE)!;
  const back = (h: number) => cage.loopOf(h).at(-1)!;
  let [ahead, behind] = picked.length === 1 ? [cage.next[out(picked[0])], back(out(picked[0]))] : [out(picked[0]), out(picked[1])];
  const pairs: [number, number][] = [];
  const seen = new Set<number>(picked.length === 1 ? picked : []);
  while (pairs.length < most) {
    const [v, w] = [cage.origin[ahead], cage.origin[behind]];
    if (v === w || seen.has(v) || seen.has(w) || (pairs.length > 0 && isBeside(cage, v, w))) break;
    pairs.push([v, w]);
    seen.add(v).add(w);
    [ahead, behind] = [cage.next[ahead], back(behind)];
  }
  return pairs;
}

/** Closes two borders, or the two sides of one, vertex by vertex from a start. */
export const zip: CageOperation = {
  kind: 'cage',
  id: 'zip',
  bench: 5,
  group: 'Holes',
  name: 'Zip',
  purpose: 'Weld two borders, or both sides of one, pair by pair from a picked start.',
  icon: 'Link',
  needs: 'One border vertex, or two that are to meet.',
  params: Joi.object({
    pairs: Joi.number().integer().min(0).max(100_000).default(0).label('Pairs').meta({ step: 1 }).description('0 continues to the end')
  }),
  check: (cage, selection) => {
    const picked = selection.vertices.filter((v) => cage.isBorderVertex(v));
    if (picked.length === 1 || picked.length === 2) return undefined;
    return {
      found: picked.length === 0 ? 'No border vertex is picked.' : `${picked.length} border vertices are picked.`,
      where: selectVertices(picked),
      instead: 'Pick the vertex to start from, or the two that are to meet first.'
    };
  },
  run: (cage, selection, params) => {
    const picked = selection.vertices.filter((v) => cage.isBorderVertex(v));
    const pairs = zipped(cage, picked, (params.pairs as number) || Infinity);
    if (pairs.length === 0) refuse('There is nothing to zip from there.', selectVertices(picked), 'Pick a vertex where two sides of a border meet.');
    const copy = cage.clone();
    const farthest = pairs.reduce((most, [v, w]) => Math.max(most, length(subtract(cage.position(v), cage.position(w)))), 0);
    mergeVertices(
      copy,
      pairs.map(([v, w]) => ({ vertices: [v, w], at: mean([cage.position(v), cage.position(w)]) }))
    );
    return {
      cage: copy,
      selection: selectVertices(pairs.map(([v]) => v).filter((v) => copy.hasVertex(v))),
      notes: [`${counted(pairs.length, 'pair')} welded; the farthest were ${farthest.toFixed(3)} mm apart.`]
    };
  }
};
