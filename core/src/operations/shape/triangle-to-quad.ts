import Joi from 'joi';
import { NONE, type Cage } from '../../mesh/cage.ts';
import { mergeFaces, splitEdge, splitFace } from '../../mesh/euler-operators.ts';
import { cornersInOneFace, faceSizes, isPole } from '../../mesh/topology.ts';
import { ringThrough } from '../../select/loops.ts';
import { emptySelection, facesOf, selectEdges, selectFaces, type Selection } from '../../select/selection.ts';
import { applyOperation, refuse, unlessRefused, type CageOperation, type Proposal } from '../operation.ts';
import { collapse } from './collapse.ts';
import { divideOnce } from './divide-once.ts';
import { doubleLoop } from './double-loop.ts';

const ways = {
  run: 'Run a loop in',
  dissolve: 'Dissolve towards a triangle beside',
  cutDissolve: 'Cut and dissolve with a quad beside',
  double: 'Double the loop at a corner',
  collapse: 'Collapse its strip',
  divide: 'Divide everything once'
} as const;
type Way = keyof typeof ways;

/**
 * Runs a loop from the middle of a face's edge straight away from it, to a border or a face that is no quad; both faces at
 * its ends get a corner more.
 * @returns the vertex on the face's edge, or NONE with nothing promised where the loop crosses itself or comes back
 */
function runIn(cage: Cage, h: number): number {
  const f = cage.face[h];
  const { halves, closed, crossedTwice } = ringThrough(cage, h ^ 1);
  // without a quad to cross, the new vertex would have two edges only
  if (closed || halves.length < 2 || crossedTwice.length > 0 || cage.face[halves[halves.length - 1]] === f) return NONE;
  const middles = halves.map((k) => splitEdge(cage, k >> 1, 0.5));
  for (let i = 1; i < middles.length; i++) {
    const corners = cornersInOneFace(cage, middles[i - 1], middles[i]);
    if (!corners) return NONE;
    splitFace(cage, corners[0], corners[1]);
  }
  return middles[0];
}

/** Every outcome a way can have at a triangle. */
function outcomes(cage: Cage, triangle: number, way: Way): Cage[] {
  const sides = cage.loopOf(cage.faceEdge[triangle]);
  const results: Cage[] = [];
  const attempt = (work: (copy: Cage) => Cage | undefined) => {
    const result = unlessRefused(() => work(cage.clone()));
    if (result) results.push(result);
  };
  for (const h of sides) {
    const beside = cage.face[h ^ 1];
    if (way === 'run' && beside !== NONE) attempt((copy) => (runIn(copy, h) === NONE ? undefined : copy));
    if (way === 'dissolve' && beside !== NONE && cage.faceSize(beside) === 3)
      attempt((copy) => (mergeFaces(copy, [triangle, beside]) === NONE ? undefined : copy));
    if (way === 'collapse') {
      const { halves, closed } = ringThrough(cage, h ^ 1);
      if (!closed) attempt(() => applyOperation(collapse, cage, selectEdges(halves.map((k) => k >> 1)), {}).cage);
    }
    if (way === 'double') for (const out of cage.spokes(cage.origin[h])) attempt((copy) => (doubleLoop(copy, triangle, out) ? copy : undefined));
    if (way === 'cutDissolve' && beside !== NONE && cage.faceSize(beside) === 4)
      for (let i = 0; i < 5; i++)
        attempt((copy) => {
          const pentagon = mergeFaces(copy, [triangle, beside]);
          if (pentagon === NONE) return undefined;
          const side = copy.loopOf(copy.faceEdge[pentagon])[i];
          if (copy.face[side ^ 1] === NONE) return undefined;
          const middle = runIn(copy, side);
          if (middle === NONE) return undefined;
          const six = copy.loopOf(copy.faceEdge[pentagon]);
          const at = six.findIndex((k) => copy.origin[k] === middle);
          if (six.length !== 6 || copy.findHalfEdge(middle, copy.origin[six[(at + 3) % 6]]) !== NONE) return undefined;
          splitFace(copy, six[at], six[(at + 3) % 6]);
          return copy;
        });
  }
  if (way === 'divide') results.push(applyOperation(divideOnce, cage, emptySelection(), { places: 'flat', seam: 'quads' }).cage);
  return results;
}

interface Counts {
  triangles: number;
  ngons: number;
  poles: number;
  faces: number;
}

function countsOf(cage: Cage): Counts {
  const { triangles, ngons } = faceSizes(cage);
  let poles = 0;
  for (const v of cage.vertices()) if (isPole(cage, v)) poles++;
  return { triangles, ngons, poles, faces: cage.faceCount };
}

/** The outcome with the fewest triangles and n-gons, then poles, then faces; only such that leave fewer triangles. */
function bestOutcome(cage: Cage, triangle: number, way: Way): { cage: Cage; counts: Counts } | undefined {
  const before = countsOf(cage);
  const weight = (c: Counts) => 1e6 * (c.triangles + c.ngons) + 1e2 * c.poles + Math.abs(c.faces - before.faces);
  const found = outcomes(cage, triangle, way)
    .filter((result) => result.faceCount > 0)
    .map((result) => ({ cage: result, counts: countsOf(result) }))
    .filter(({ counts }) => counts.triangles < before.triangles);
  return found.sort((a, b) => weight(a.counts) - weight(b.counts))[0];
}

function costOf(before: Counts, after: Counts): string {
  const change = (what: string, n: number) => (n === 0 ? '' : `${what}: ${Math.abs(n)} ${n > 0 ? 'more' : 'fewer'}`);
  return [
    change('triangles', after.triangles - before.triangles),
    change('n-gons', after.ngons - before.ngons),
    change('poles', after.poles - before.poles),
    change('faces', after.faces - before.faces)
  ]
    .filter(Boolean)
    .join(', ');
}

const triangleOf = (cage: Cage, selection: Selection): number | undefined => facesOf(cage, selection).find((f) => cage.faceSize(f) === 3);

function proposals(cage: Cage, selection: Selection): Proposal[] {
  const triangle = triangleOf(cage, selection);
  if (triangle === undefined) return [];
  const before = countsOf(cage);
  return (Object.keys(ways) as Way[]).map((way) => {
    const best = bestOutcome(cage, triangle, way);
    return best
      ? { label: ways[way], params: { way }, cost: costOf(before, best.counts) }
      : { label: ways[way], cost: 'not possible at this triangle' };
  });
}

/** Makes a quad of a triangle, or takes it away, in one of the practised ways. */
export const triangleToQuad: CageOperation = {
  kind: 'cage',
  id: 'triangle-to-quad',
  bench: 3,
  name: 'Triangle to quad',
  purpose:
    'Get rid of a picked triangle: run a loop in, dissolve, cut and dissolve, double a loop, collapse its strip, or divide; each way with its cost.',
  icon: 'ShapeJoin',
  needs: 'Pick a triangle.',
  params: Joi.object({
    way: Joi.string()
      .valid(...Object.keys(ways))
      .default('run')
      .label('Way')
      .meta({ labels: ways })
  }),
  proposals,
  check: (cage, selection) => {
    const picked = facesOf(cage, selection);
    if (triangleOf(cage, selection) !== undefined) return undefined;
    return {
      found: picked.length === 0 ? 'No face is picked.' : 'None of the picked faces is a triangle.',
      where: selectFaces(picked),
      instead: 'Pick a triangle; the readings pick all of them.'
    };
  },
  run: (cage, selection, params) => {
    const triangle = triangleOf(cage, selection)!;
    const best = bestOutcome(cage, triangle, params.way as Way);
    if (!best) return refuse(`"${ways[params.way as Way]}" is not possible at this triangle.`, selectFaces([triangle]), 'Choose another way.');
    return { cage: best.cage, selection: emptySelection(), notes: [`${ways[params.way as Way]}: ${costOf(countsOf(cage), best.counts)}.`] };
  }
};
