import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { faceNormal } from '../../mesh/normals.ts';
import { add, between, dot, length, mean, scaled, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { isEmpty, selectEdges, type Selection } from '../../select/selection.ts';
import { STAYS_SHARP } from '../../subdivide/level-topology.ts';
import { edgesMeant } from '../loops/brace.ts';
import { isBetweenRegions } from '../../regions/edit-regions.ts';
import { type CageOperation, type Grip, type Params, type Refusal } from '../operation.ts';

export const sharpnessField = () =>
  Joi.number()
    .min(0)
    .max(STAYS_SHARP)
    .default(STAYS_SHARP)
    .label('Sharpness')
    .meta({ step: 0.1, slider: true })
    .description('10 stays sharp on every level');

type How = 'set' | 'add' | 'scale';

const clamped = (s: number) => Math.min(STAYS_SHARP, Math.max(0, s));

/** Edges whose sharpness may be meant: borders are sharp by themselves. */
const inner = (cage: Cage, edges: readonly number[]): number[] => edges.filter((e) => !cage.isBorderEdge(e));

function marked(cage: Cage, edges: readonly number[], vertices: readonly number[], change: (now: number) => number): Cage {
  const copy = cage.clone();
  for (const e of edges) copy.setValue('crease', e, clamped(change(copy.value('crease', e))));
  for (const v of vertices) copy.setValue('corner', v, clamped(change(copy.value('corner', v))));
  return copy;
}

const some = (n: number, one: string, more = `${one}s`) => `${n} ${n === 1 ? one : more}`;

function checkCrease(cage: Cage, selection: Selection): Refusal | undefined {
  if (selection.vertices.length > 0 || inner(cage, edgesMeant(cage, selection)).length > 0) return undefined;
  const picked = selection.edges.length > 0;
  return {
    found: picked ? 'All picked edges are borders, which are sharp by themselves.' : 'Nothing is picked.',
    where: selection,
    instead: 'Pick edges inside, vertices, or faces whose outline is to be creased.'
  };
}

/** Sharpness by step of the grip. */
const GRIP_STEP = 0.5;

/** A point over the middle of what is picked that stands the higher the sharper it is, up to half the length of its edges. */
function grips(cage: Cage, selection: Selection, params: Params): Grip[] {
  if (params.how !== 'set' || checkCrease(cage, selection)) return [];
  const edges = inner(cage, edgesMeant(cage, selection));
  const places = [
    ...edges.map((e) => between(cage.position(cage.origin[2 * e]), cage.position(cage.origin[2 * e + 1]), 0.5)),
    ...selection.vertices.map((v) => cage.position(v))
  ];
  const middle = mean(places);
  const from = places.reduce((a, b) => (length(subtract(b, middle)) < length(subtract(a, middle)) ? b : a));
  const faces = [
    ...edges.flatMap((e) => [cage.face[2 * e], cage.face[2 * e + 1]]),
    ...selection.vertices.flatMap((v) => cage.spokes(v).map((h) => cage.face[h]))
  ].filter((f) => f !== NONE);
  // over a shell all round there is no way out: straight up then
  const out = unit(faces.reduce<Triple>((sum, f) => add(sum, faceNormal(cage, f)), [0, 0, 0]));
  const way: Triple = length(out) > 0.5 ? out : [0, 1, 0];
  const spokes = edges.length > 0 ? edges : selection.vertices.flatMap((v) => cage.spokes(v).map((h) => h >> 1));
  const high = spokes.reduce((sum, e) => sum + cage.edgeLength(e), 0) / (spokes.length || 1);
  const stops = Array.from({ length: STAYS_SHARP / GRIP_STEP + 1 }, (_, i) => {
    const sharpness = i * GRIP_STEP;
    return { at: add(from, scaled(way, (high * (1 + sharpness)) / (2 * (1 + STAYS_SHARP)))), params: { sharpness } };
  });
  const nearest = stops[Math.round((params.sharpness as number) / GRIP_STEP)];
  return [{ label: 'Sharpness', from, at: nearest.at, stops, shows: String(Number((params.sharpness as number).toFixed(2))) }];
}

/** Sets how sharp edges and vertices stay. */
export const crease: CageOperation = {
  kind: 'cage',
  id: 'crease',
  bench: 4,
  key: 'Z',
  group: 'Creases',
  name: 'Crease',
  purpose: 'Set, add to or scale the sharpness of picked edges (creases) and vertices (corners); 10 stays sharp, 0 is smooth.',
  icon: 'EdgeCluster',
  needs: 'Pick edges, vertices, or faces whose outline is meant.',
  params: Joi.object({
    how: Joi.string()
      .valid('set', 'add', 'scale')
      .default('set')
      .label('How')
      .meta({ labels: { set: 'Set', add: 'Add', scale: 'Scale' } }),
    sharpness: sharpnessField().meta({ when: { field: 'how', is: 'set' } }),
    by: Joi.number()
      .min(-10)
      .max(10)
      .default(1)
      .label('By')
      .meta({ step: 0.5, when: { field: 'how', is: 'add' } }),
    percent: Joi.number()
      .min(0)
      .max(1000)
      .default(50)
      .label('To')
      .unit('%')
      .meta({ step: 10, when: { field: 'how', is: 'scale' } })
  }),
  check: checkCrease,
  grips,
  run: (cage, selection, params) => {
    const { how, sharpness, by, percent } = params as { how: How; sharpness: number; by: number; percent: number };
    const edges = inner(cage, edgesMeant(cage, selection));
    const change = { set: () => sharpness, add: (s: number) => s + by, scale: (s: number) => (s * percent) / 100 }[how];
    const result = marked(cage, edges, selection.vertices, change);
    const range = (values: number[]) => {
      const [low, high] = [Math.min(...values), Math.max(...values)];
      return low === high ? low.toFixed(2) : `${low.toFixed(2)} to ${high.toFixed(2)}`;
    };
    const notes: string[] = [];
    if (edges.length > 0) notes.push(`${some(edges.length, 'edge')} at sharpness ${range(edges.map((e) => result.value('crease', e)))}.`);
    if (selection.vertices.length > 0)
      notes.push(`${some(selection.vertices.length, 'corner')} at sharpness ${range(selection.vertices.map((v) => result.value('corner', v)))}.`);
    return { cage: result, selection, notes };
  }
};

/** Edges meant by an operation on what is picked, or on the whole part. */
const candidates = (cage: Cage, selection: Selection): number[] => inner(cage, isEmpty(selection) ? [...cage.edges()] : edgesInside(cage, selection));

function edgesInside(cage: Cage, { edges, faces }: Selection): number[] {
  return [...new Set([...edges, ...faces.flatMap((f) => cage.loopOf(cage.faceEdge[f]).map((h) => h >> 1))])];
}

/** Creases every edge that bends by more than an angle. */
export const creaseByAngle: CageOperation = {
  kind: 'cage',
  id: 'crease-by-angle',
  bench: 4,
  group: 'Creases',
  name: 'Crease by angle',
  purpose: 'Crease all edges, or those picked, that bend by more than an angle.',
  icon: 'Corner',
  needs: 'A cage with faces.',
  params: Joi.object({
    angle: Joi.number().min(0).max(180).default(40).label('Sharper than').unit('°').meta({ step: 5 }),
    sharpness: sharpnessField()
  }),
  check: (cage, selection) =>
    candidates(cage, selection).length > 0
      ? undefined
      : { found: 'There is no edge between two faces.', where: selection, instead: 'Pick edges inside the surface, or vertices for corners.' },
  run: (cage, selection, params) => {
    const { angle, sharpness } = params as { angle: number; sharpness: number };
    const limit = Math.cos((angle * Math.PI) / 180);
    const edges = candidates(cage, selection).filter(
      (e) => dot(faceNormal(cage, cage.face[2 * e]), faceNormal(cage, cage.face[2 * e + 1])) < limit - 1e-12
    );
    return { cage: marked(cage, edges, [], () => sharpness), selection: selectEdges(edges), notes: [`${some(edges.length, 'edge')} creased.`] };
  }
};

/** Creases the lines where regions meet. */
export const creaseRegions: CageOperation = {
  kind: 'cage',
  id: 'crease-regions',
  bench: 4,
  group: 'Creases',
  name: 'Crease region borders',
  purpose: 'Crease the edges where two regions meet.',
  icon: 'DataShare',
  needs: 'A cage with regions.',
  params: Joi.object({ sharpness: sharpnessField() }),
  check: (cage) =>
    cage.regionNames.length > 1 || new Set(cage.layers.get('region')?.data).size > 1
      ? undefined
      : { found: 'The part has one region only.', instead: 'Regions come with files that name groups of faces.' },
  run: (cage, selection, params) => {
    const edges = candidates(cage, selection).filter((e) => isBetweenRegions(cage, e));
    return {
      cage: marked(cage, edges, [], () => params.sharpness as number),
      selection: selectEdges(edges),
      notes: [`${some(edges.length, 'edge')} between regions creased.`]
    };
  }
};

/** Makes edges and vertices smooth again. */
export const clearCreases: CageOperation = {
  kind: 'cage',
  id: 'clear-creases',
  bench: 4,
  group: 'Creases',
  name: 'Clear creases',
  purpose: 'Make picked edges and vertices smooth again, or all of them.',
  icon: 'CircleDash',
  needs: 'Creases or corners.',
  atOnce: true,
  params: Joi.object({}),
  check: (cage, selection) => {
    const { edges, vertices } = sharpOnes(cage, selection);
    return edges.length + vertices.length > 0
      ? undefined
      : { found: 'There is no crease and no corner to clear.', where: selection, instead: 'Pick creased edges, or nothing for all of them.' };
  },
  run: (cage, selection) => {
    const { edges, vertices } = sharpOnes(cage, selection);
    return {
      cage: marked(cage, edges, vertices, () => 0),
      selection,
      notes: [`${some(edges.length, 'crease')} and ${some(vertices.length, 'corner')} cleared.`]
    };
  }
};

function sharpOnes(cage: Cage, selection: Selection): { edges: number[]; vertices: number[] } {
  const all = isEmpty(selection);
  return {
    edges: (all ? [...cage.edges()] : edgesInside(cage, selection)).filter((e) => cage.value('crease', e) > 0),
    vertices: (all ? [...cage.vertices()] : selection.vertices).filter((v) => cage.value('corner', v) > 0)
  };
}
