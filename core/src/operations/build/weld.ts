import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { weldMap } from '../../mesh/repair.ts';
import { length, mean, subtract } from '../../numeric/vectors.ts';
import { isEmpty, selectVertices, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { counted } from '../shared/words.ts';
import { mergeVertices } from '../../mesh/merge-vertices.ts';

interface WeldParams {
  /** 'distance' is what weld near pairs does now: jobs of before have it */
  to: 'last' | 'first' | 'middle' | 'distance';
  /** mm from the meeting place; 0: however far */
  within: number;
  distance: number;
}

type Group = { vertices: number[]; at: readonly [number, number, number] };

/** Groups of picked vertices that lie within mm of each other, each at its mean place. */
function nearGroups(cage: Cage, picked: readonly number[], distance: number): Group[] {
  const map = weldMap(Float64Array.from(picked.flatMap((v) => cage.position(v))), distance);
  const groups = new Map<number, number[]>();
  map.forEach((first, i) => groups.set(first, [...(groups.get(first) ?? []), picked[i]]));
  return [...groups.values()].filter((g) => g.length > 1).map((vertices) => ({ vertices, at: mean(vertices.map((v) => cage.position(v))) }));
}

/** The one group of picked vertices that meets at a place; none where too few lie near enough. */
function meeting(cage: Cage, picked: readonly number[], { to, within }: Pick<WeldParams, 'to' | 'within'>): Group[] {
  if (picked.length < 2) return [];
  const kept = to === 'last' ? picked[picked.length - 1] : picked[0];
  const at = to === 'middle' ? mean(picked.map((v) => cage.position(v))) : cage.position(kept);
  const isNear = (v: number) => within === 0 || length(subtract(cage.position(v), at)) <= within;
  const vertices = [kept, ...picked.filter((v) => v !== kept)].filter(isNear);
  return vertices.length > 1 ? [{ vertices, at }] : [];
}

/** Groups of picked vertices that become one; never any that is not picked. */
const groupsOf = (cage: Cage, selection: Selection, params: WeldParams): Group[] =>
  params.to === 'distance' ? nearGroups(cage, verticesOf(cage, selection), params.distance) : meeting(cage, verticesOf(cage, selection), params);

/** Why picked vertices have no partner near enough, with the distance that would do. */
function tooFar(cage: Cage, picked: readonly number[], distance: number): Refusal {
  let least = Infinity;
  for (let i = 0; i < picked.length; i++)
    for (let j = i + 1; j < Math.min(picked.length, i + 400); j++)
      least = Math.min(least, length(subtract(cage.position(picked[i]), cage.position(picked[j]))));
  return {
    numbers: true,
    found: `No two of the ${picked.length} picked vertices are within ${distance} mm.`,
    where: selectVertices([...picked]),
    instead: `The nearest two are ${least.toFixed(3)} mm apart: raise the distance to that.`
  };
}

const tooFew = (picked: readonly number[]): Refusal => ({
  found: `${picked.length === 0 ? 'No vertex is' : 'Only one vertex is'} picked.`,
  instead: 'Pick the vertices to weld.'
});

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  const p = params as unknown as WeldParams;
  const picked = verticesOf(cage, selection);
  if (picked.length < 2) return tooFew(picked);
  if (groupsOf(cage, selection, p).length > 0) return undefined;
  if (p.to === 'distance') return tooFar(cage, picked, p.distance);
  return {
    numbers: true,
    found: `No two of the ${picked.length} picked vertices are within ${p.within} mm of where they would meet.`,
    where: selectVertices(picked),
    instead: 'Raise that distance, or type 0 to weld them all.'
  };
}

/** Makes one vertex of each group. */
function welded(cage: Cage, selection: Selection, groups: Group[]): CageResult {
  const copy = cage.clone();
  mergeVertices(copy, groups);
  const many = groups.reduce((sum, g) => sum + g.vertices.length, 0);
  const left = groups.map((g) => g.vertices[0]).filter((v) => copy.hasVertex(v));
  const notes = [`${counted(many, 'vertex', 'vertices')} became ${groups.length}.`];
  const apart = copy.vertexCount - (cage.vertexCount - many + groups.length);
  if (apart > 0 && copy.vertexCount === cage.vertexCount)
    refuse('The faces at the picked vertices would touch in a corner only, which cannot be held.', selection, 'Pick both ends of the edges to join.');
  if (apart > 0) notes.push(`${apart} stayed apart: the faces there would touch in a corner only.`);
  return { cage: copy, selection: selectVertices(left), notes };
}

/** Makes one vertex of several. */
export const weld: CageOperation = {
  kind: 'cage',
  id: 'weld',
  bench: 3,
  name: 'Weld',
  purpose: 'Make one vertex of several picked ones, at the last pick, the first or their mean place.',
  icon: 'JoinInner',
  needs: 'Pick two or more vertices.',
  params: Joi.object({
    to: Joi.string()
      .valid('last', 'first', 'middle', 'distance')
      .default('middle')
      .label('Meet at')
      .meta({ labels: { last: 'Last pick', first: 'First pick', middle: 'Mean place' }, unlisted: ['distance'] }),
    within: Joi.number().min(0).max(1e6).default(0).label('Only within (0: all)').unit('mm').meta({ step: 0.05 }),
    distance: Joi.number().min(0).max(1e6).default(0.1).label('Distance').unit('mm').meta({ hidden: true })
  }),
  check,
  run: (cage, selection, params) => welded(cage, selection, groupsOf(cage, selection, params as unknown as WeldParams))
};

/** Makes one vertex of those that lie near each other. */
export const weldNearPairs: CageOperation = {
  kind: 'cage',
  id: 'weld-near-pairs',
  bench: 3,
  name: 'Weld near pairs',
  purpose: 'Weld picked vertices, or all of the part, that lie within a distance of each other.',
  icon: 'JoinFull',
  needs: 'A part with two vertices or more.',
  params: Joi.object({
    distance: Joi.number().min(0).max(1e6).default(0.1).label('Within').unit('mm').meta({ step: 0.05 })
  }),
  check(cage, selection, params) {
    const [picked, { distance }] = [pickedOrAll(cage, selection), params as unknown as WeldParams];
    if (picked.length < 2) return tooFew(picked);
    return nearGroups(cage, picked, distance).length > 0 ? undefined : tooFar(cage, picked, distance);
  },
  run: (cage, selection, params) =>
    welded(cage, selection, nearGroups(cage, pickedOrAll(cage, selection), (params as unknown as WeldParams).distance))
};

const pickedOrAll = (cage: Cage, selection: Selection): number[] => (isEmpty(selection) ? [...cage.vertices()] : verticesOf(cage, selection));
