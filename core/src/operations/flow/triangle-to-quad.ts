import Joi from 'joi';
import { scaledJacobian } from '../../check/quad-quality.ts';
import { type Cage } from '../../mesh/cage.ts';
import { changedHalves } from '../../mesh/difference.ts';
import { mergeFaces, splitEdge, splitFace, splitFacesAlong } from '../../mesh/euler-operators.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { faceSizes, isPole } from '../../mesh/topology.ts';
import { ringThrough } from '../../select/loops.ts';
import { emptySelection, facesOf, selectEdges, selectFaces, type Selection } from '../../select/selection.ts';
import { applyOperation } from '../apply.ts';
import { type CageOperation, type Proposal } from '../operation.ts';
import { refuse, unlessRefused } from '../refusal.ts';
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
  return splitFacesAlong(cage, middles) ? middles[0] : NONE;
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

/** What a way comes to at a triangle. */
interface Outcome {
  cage: Cage;
  counts: Counts;
  /** least scaled Jacobian of the faces it makes or changes */
  worst: number;
}

function countsOf(cage: Cage): Counts {
  const { triangles, ngons } = faceSizes(cage);
  let poles = 0;
  for (const v of cage.vertices()) if (isPole(cage, v)) poles++;
  return { triangles, ngons, poles, faces: cage.faceCount };
}

/** The outcome that costs least; only such that leave fewer triangles. */
function bestOutcome(cage: Cage, triangle: number, way: Way): Outcome | undefined {
  const before = countsOf(cage);
  const found = outcomes(cage, triangle, way)
    .filter((result) => result.faceCount > 0)
    .map((result) => ({ cage: result, counts: countsOf(result), worst: worstChanged(cage, result) }))
    .filter(({ counts }) => counts.triangles < before.triangles);
  return found.sort((a, b) => price(before, a) - price(before, b))[0];
}

/** Fewest triangles and n-gons first, then no corner that is flat or folded, then poles and shape, then faces. */
const price = (before: Counts, { counts, worst }: Outcome): number =>
  1e6 * (counts.triangles + counts.ngons) + (worst < FLAT ? 1e5 : 0) + 1e2 * (counts.poles + 4 * (1 - worst)) + Math.abs(counts.faces - before.faces);

/** A scaled Jacobian below this is a corner of nearly 180 degrees or more. */
const FLAT = 0.1;

function worstChanged(before: Cage, now: Cage): number {
  const faces = new Set(changedHalves(before, now).flatMap((h) => (now.hasEdge(h >> 1) ? [now.face[h]] : [])));
  return [...faces].filter((f) => f !== NONE).reduce((least, f) => Math.min(least, scaledJacobian(now, f)), 1);
}

/** The ways that are possible at a triangle, the best one first. */
function possibleWays(cage: Cage, triangle: number): { way: Way; best: Outcome }[] {
  const before = countsOf(cage);
  return (Object.keys(ways) as Way[])
    .flatMap((way) => {
      const best = bestOutcome(cage, triangle, way);
      return best ? [{ way, best }] : [];
    })
    .sort((a, b) => price(before, a.best) - price(before, b.best));
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
  const possible = possibleWays(cage, triangle);
  const others = (Object.keys(ways) as Way[]).filter((way) => possible.every((p) => p.way !== way));
  return [
    ...possible.map(({ way, best }) => ({ label: ways[way], params: { way }, cost: withShape(costOf(before, best.counts), best.worst) })),
    ...others.map((way) => ({ label: ways[way], cost: 'not possible at this triangle' }))
  ];
}

const withShape = (cost: string, worst: number): string =>
  [cost, worst < FLAT ? 'leaves a corner of nearly 180° or a folded face' : ''].filter(Boolean).join(', ');

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
      .valid('best', ...Object.keys(ways))
      .default('best')
      .label('Way')
      .meta({ labels: { best: 'The best that is possible', ...ways } })
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
    const asked = params.way as Way | 'best';
    const first = asked === 'best' ? possibleWays(cage, triangle)[0] : undefined;
    const way = first?.way ?? asked;
    const best = first?.best ?? (way === 'best' ? undefined : bestOutcome(cage, triangle, way));
    if (!best || way === 'best')
      return way === 'best'
        ? refuse('No way is possible at this triangle.', selectFaces([triangle]), 'Divide it, or change the faces beside first.')
        : refuse(`"${ways[way]}" is not possible at this triangle.`, selectFaces([triangle]), 'Choose another way.');
    return {
      cage: best.cage,
      selection: emptySelection(),
      notes: [`${ways[way]}: ${withShape(costOf(countsOf(cage), best.counts), best.worst)}.`]
    };
  }
};
