import Joi from 'joi';
import { changedSurface, largestMove } from '../../check/forecast.ts';
import { type Cage } from '../../mesh/cage.ts';
import { faceNormal } from '../../mesh/normals.ts';
import { dot } from '../../numeric/vectors.ts';
import { isEmpty, selectEdges, type Selection } from '../../select/selection.ts';
import { STAYS_SHARP } from '../../subdivide/level-topology.ts';
import { applyOperation } from '../apply.ts';
import { type CageOperation, type Params, type Surroundings } from '../operation.ts';
import { dissolve } from '../flow/dissolve.ts';
import { counted } from '../shared/words.ts';
import { edgesMeant, widthField } from '../loops/brace.ts';
import { sharpnessField } from './crease.ts';
import { bracedEdges, putSupportLoops, takeOutSupportLoops } from '../shared/support-loops.ts';

const mm = (x: number | undefined) => (x === undefined ? 'not measured: the part is too large for it' : `${x.toFixed(3)} mm`);

/** Faces that surfaces are compared with while values are tried. */
const MOST_TRIED = 8000;

/** How far two cages' limit surfaces are apart at most, in mm, without their level plan. */
const moved = (before: Cage, after: Cage, { surface: { scheme, borderCorners } }: Surroundings, mostFine?: number): number | undefined =>
  largestMove(changedSurface(before, after, { scheme, borderCorners }), mostFine);

/** The value between two bounds whose outcome is least, by golden sections of its logarithm (Kiefer 1953). */
function leastOf(low: number, high: number, outcome: (x: number) => number, steps = 8): number {
  const golden = (Math.sqrt(5) - 1) / 2;
  let [a, b] = [Math.log(low), Math.log(high)];
  const at = (t: number) => ({ x: Math.exp(t), off: outcome(Math.exp(t)), t });
  let [p, q] = [at(b - golden * (b - a)), at(a + golden * (b - a))];
  let best = p.off <= q.off ? p : q;
  for (let i = 0; i < steps; i++) {
    if (p.off <= q.off) [b, q, p] = [q.t, p, at(q.t - golden * (q.t - a))];
    else [a, p, q] = [p.t, q, at(p.t + golden * (b - p.t))];
    for (const c of [p, q]) if (c.off < best.off) best = c;
  }
  return best.x;
}

export const creasedMeant = (cage: Cage, selection: Selection): number[] => {
  const picked = edgesMeant(cage, selection);
  return (picked.length > 0 ? picked : [...cage.edges()]).filter((e) => cage.value('crease', e) > 0 && !cage.isBorderEdge(e));
};

/** Support loops in place of creases. */
export const creasesToLoops: CageOperation = {
  kind: 'cage',
  id: 'creases-to-loops',
  // widths are tried, each by the distance of two surfaces
  seconds: (cage, selection) => 0.05 * creasedMeant(cage, selection).length,
  bench: 4,
  group: 'Support loops',
  name: 'Creases to support loops',
  purpose: 'Replace creases by support loops, for receivers that ignore creases, at the width that comes closest to the surface, or at a typed one.',
  icon: 'Migrate',
  needs: 'Creased edges.',
  params: Joi.object({
    choose: Joi.string()
      .valid('closest', 'typed')
      .default('closest')
      .label('Width')
      .meta({ labels: { closest: 'The one that comes closest', typed: 'Typed' } }),
    width: widthField().meta({ when: { field: 'choose', is: 'typed' } })
  }),
  check: (cage, selection) => {
    const creased = creasedMeant(cage, selection);
    if (creased.length === 0) return { found: 'There is no creased edge between two faces.', where: selection, instead: 'Crease edges first.' };
    const braced = creased.filter((e) => cage.value('braced', e) > 0);
    return braced.length === 0
      ? undefined
      : { found: `${braced.length} creased edges have support loops already.`, where: selectEdges(braced), instead: 'Take those out first.' };
  },
  run: (cage, selection, params, around) => {
    const edges = creasedMeant(cage, selection);
    const { made, width, apart } = loopsForCreases(cage, edges, around, params.choose === 'typed' ? (params.width as number) : undefined);
    const notes = [`${counted(edges.length, 'crease')} became support loops at ${width} mm; the surfaces are ${mm(apart)} apart at most.`];
    if (made.squeezed > 0) notes.push(`At ${made.squeezed} places there is no room for the width: the loops lie closer there.`);
    return { cage: made.cage, selection: selectEdges(made.halves.map((h) => h >> 1)), notes };
  }
};

/**
 * Support loops in place of creases, at a width in mm, or at the one that comes closest to the creased surface.
 * @returns what was made, the width, and how far the two limit surfaces are apart at most, in mm
 */
export function loopsForCreases(cage: Cage, edges: number[], around: Surroundings, typed?: number) {
  const smooth = cage.clone();
  for (const e of edges) smooth.setValue('crease', e, 0);
  const halves = edges.flatMap((e) => [2 * e, 2 * e + 1]);
  const at = (width: number) => putSupportLoops(smooth, halves, width);
  const shortest = Math.min(...edges.flatMap((e) => [0, 1].flatMap((k) => cage.spokes(cage.origin[2 * e + k]))).map((h) => cage.edgeLength(h >> 1)));
  const width = typed ?? Number(leastOf(0.02 * shortest, 0.45 * shortest, (w) => moved(cage, at(w).cage, around, MOST_TRIED) ?? 0).toPrecision(3));
  const made = at(width);
  return { made, width, apart: moved(cage, made.cage, around) };
}

/** An edge with narrow strips beside it: the edges on their other sides. */
interface FoundLoops {
  edge: number;
  sides: number[];
}

/** Edges that bend and have quads beside them much narrower than those beyond: somebody's support loops. */
function loopsFound(cage: Cage, among: readonly number[], narrow: number, angle: number): FoundLoops[] {
  const limit = Math.cos((angle * Math.PI) / 180);
  const found: FoundLoops[] = [];
  for (const e of among) {
    if (cage.isBorderEdge(e) || dot(faceNormal(cage, cage.face[2 * e]), faceNormal(cage, cage.face[2 * e + 1])) > limit) continue;
    const sides = [2 * e, 2 * e + 1].map((h) => {
      if (cage.faceSize(cage.face[h]) !== 4) return undefined;
      const across = cage.next[cage.next[h]];
      const width = (cage.edgeLength(cage.next[h] >> 1) + cage.edgeLength(cage.previous(h) >> 1)) / 2;
      if (cage.isBorderEdge(across >> 1) || cage.faceSize(cage.face[across ^ 1]) !== 4) return undefined;
      const beyond = (cage.edgeLength(cage.next[across ^ 1] >> 1) + cage.edgeLength(cage.previous(across ^ 1) >> 1)) / 2;
      return width < narrow * beyond ? across >> 1 : undefined;
    });
    if (sides.every((s) => s !== undefined)) found.push({ edge: e, sides: sides as number[] });
  }
  return found;
}

const edgesLookedAt = (cage: Cage, selection: Selection): number[] => (isEmpty(selection) ? [...cage.edges()] : edgesMeant(cage, selection));

function sourcesOf(cage: Cage, selection: Selection, params: Params): { tagged: number[]; found: FoundLoops[] } {
  const among = edgesLookedAt(cage, selection);
  const braced = bracedEdges(cage);
  const tagged = among.filter((e) => braced.has(e));
  return {
    tagged,
    found: loopsFound(
      cage,
      among.filter((e) => !braced.has(e)),
      (params.narrow as number) / 100,
      params.angle as number
    )
  };
}

/** Creases in place of support loops. */
export const loopsToCreases: CageOperation = {
  kind: 'cage',
  id: 'loops-to-creases',
  seconds: (cage) => 0.04 * bracedEdges(cage).size,
  bench: 4,
  group: 'Support loops',
  name: 'Support loops to creases',
  purpose: 'Crease edges that have support loops, those of Brace and those found beside bent edges, and take the loops out.',
  icon: 'Collaborate',
  needs: 'Edges with support loops.',
  params: Joi.object({
    choose: Joi.string()
      .valid('closest', 'typed')
      .default('closest')
      .label('Sharpness')
      .meta({ labels: { closest: 'The one that comes closest', typed: 'Typed' } }),
    sharpness: sharpnessField().meta({ when: { field: 'choose', is: 'typed' } }),
    takeOut: Joi.boolean().default(true).label('Take the loops out'),
    narrow: Joi.number().min(1).max(90).default(35).label('Strips narrower than').unit('% of what lies beyond').meta({ step: 5, more: true }),
    angle: Joi.number().min(0).max(180).default(20).label('Edges sharper than').unit('°').meta({ step: 5, more: true })
  }),
  check: (cage, selection, params) => {
    const { tagged, found } = sourcesOf(cage, selection, params);
    return tagged.length + found.length > 0
      ? undefined
      : {
          found: 'No bent edge with narrow strips of quads on both sides was found.',
          where: selection,
          instead: 'Pick edges that have support loops, or change how narrow and how bent.',
          numbers: true
        };
  },
  run: (cage, selection, params, around) => {
    const { tagged, found } = sourcesOf(cage, selection, params);
    const edges = [...tagged, ...found.map((f) => f.edge)];
    const ends = edges.map((e): [number, number] => [cage.origin[2 * e], cage.origin[2 * e + 1]]);
    let plain = cage;
    const notes: string[] = [];
    if (params.takeOut) {
      if (tagged.length > 0) plain = takeOutSupportLoops(plain, tagged).cage;
      const parallel = found.flatMap((f) => f.sides).filter((e) => plain.hasEdge(e));
      if (parallel.length > 0) plain = applyOperation(dissolve, plain, selectEdges(parallel), { keepVertices: false }).cage;
    }
    // squares at junctions had cut braced edges: what is left of a row of pieces is one edge again
    const left = ends.flatMap(([a, b]) => {
      const h = plain.hasVertex(a) && plain.hasVertex(b) ? plain.findHalfEdge(a, b) : -1;
      return h < 0 ? [] : [h >> 1];
    });
    const rejoined = rejoinedEdges(cage, plain, edges);
    const creased = [...new Set([...left, ...rejoined])];
    const at = (s: number) => {
      const copy = plain.clone();
      for (const e of creased) copy.setValue('crease', e, s);
      return copy;
    };
    const choices = params.choose === 'typed' ? [params.sharpness as number] : [1, 1.5, 2, 2.5, 3, 3.5, 4, 5, STAYS_SHARP];
    const outcomes = choices.map((s) => ({ s, off: moved(cage, at(s), around, MOST_TRIED) }));
    const best = outcomes.reduce((a, b) => ((b.off ?? Infinity) < (a.off ?? Infinity) ? b : a));
    notes.unshift(`${counted(creased.length, 'edge')} creased at sharpness ${best.s}; the surfaces are ${mm(best.off)} apart at most.`);
    return { cage: at(best.s), selection: selectEdges(creased), notes };
  }
};

/** Edges that became one again from pieces: between ends that are still there, along a row of braced pieces. */
function rejoinedEdges(before: Cage, now: Cage, pieces: readonly number[]): number[] {
  const set = new Set(pieces);
  const found: number[] = [];
  for (const e of pieces)
    for (const start of [2 * e, 2 * e + 1]) {
      const from = before.origin[start];
      if (!now.hasVertex(from) || before.value('braceAnchor', from) >= 0) continue;
      let h = start;
      while (before.value('braceAnchor', before.target(h)) >= 0) {
        const next = before.next[before.next[h] ^ 1];
        if (!set.has(next >> 1)) break;
        h = next;
      }
      const to = before.target(h);
      const whole = now.hasVertex(to) ? now.findHalfEdge(from, to) : -1;
      if (whole >= 0) found.push(whole >> 1);
    }
  return found;
}
