import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { weldMap } from '../../mesh/repair.ts';
import { mean } from '../../numeric/vectors.ts';
import { selectVertices, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type Params, type Refusal } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { counted } from '../shared/words.ts';
import { mergeVertices } from '../shared/merge-vertices.ts';

interface WeldParams {
  to: 'last' | 'first' | 'middle' | 'distance';
  distance: number;
}

type Group = { vertices: number[]; at: readonly [number, number, number] };

/** Groups of picked vertices that become one; never any that is not picked. */
function groupsOf(cage: Cage, selection: Selection, { to, distance }: WeldParams): Group[] {
  const picked = verticesOf(cage, selection);
  if (to !== 'distance') {
    if (picked.length < 2) return [];
    const kept = to === 'last' ? picked[picked.length - 1] : picked[0];
    const at = to === 'middle' ? mean(picked.map((v) => cage.position(v))) : cage.position(kept);
    return [{ vertices: [kept, ...picked.filter((v) => v !== kept)], at }];
  }
  const map = weldMap(Float64Array.from(picked.flatMap((v) => cage.position(v))), distance);
  const groups = new Map<number, number[]>();
  map.forEach((first, i) => groups.set(first, [...(groups.get(first) ?? []), picked[i]]));
  return [...groups.values()].filter((g) => g.length > 1).map((vertices) => ({ vertices, at: mean(vertices.map((v) => cage.position(v))) }));
}

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  const p = params as unknown as WeldParams;
  const picked = verticesOf(cage, selection);
  if (picked.length < 2)
    return { found: `${picked.length === 0 ? 'No vertex is' : 'Only one vertex is'} picked.`, instead: 'Pick the vertices to weld.' };
  if (groupsOf(cage, selection, p).length > 0) return undefined;
  let least = Infinity;
  for (let i = 0; i < picked.length; i++)
    for (let j = i + 1; j < Math.min(picked.length, i + 400); j++) {
      const [a, b] = [cage.position(picked[i]), cage.position(picked[j])];
      least = Math.min(least, Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]));
    }
  return {
    numbers: true,
    found: `No two of the ${picked.length} picked vertices are within ${p.distance} mm.`,
    where: selectVertices(picked),
    instead: `The nearest two are ${least.toFixed(3)} mm apart: raise the distance to that.`
  };
}

/** Makes one vertex of several. */
export const weld: CageOperation = {
  kind: 'cage',
  id: 'weld',
  bench: 3,
  name: 'Weld',
  purpose: 'Make one vertex of several picked ones: at the last, the first, their middle, or all pairs within a distance.',
  icon: 'JoinInner',
  needs: 'Pick two or more vertices.',
  params: Joi.object({
    to: Joi.string()
      .valid('last', 'first', 'middle', 'distance')
      .default('middle')
      .label('Weld')
      .meta({ labels: { last: 'Last pick', first: 'First pick', middle: 'Mean place', distance: 'Only within a distance' } }),
    distance: Joi.number()
      .min(0)
      .max(1e6)
      .default(0.1)
      .label('Distance')
      .unit('mm')
      .meta({ step: 0.05, when: { field: 'to', is: 'distance' } })
  }),
  check,
  run: (cage, selection, params) => {
    const copy = cage.clone();
    const groups = groupsOf(cage, selection, params as unknown as WeldParams);
    mergeVertices(copy, groups);
    const welded = groups.reduce((sum, g) => sum + g.vertices.length, 0);
    const left = groups.map((g) => g.vertices[0]).filter((v) => copy.hasVertex(v));
    const notes = [`${counted(welded, 'vertex', 'vertices')} became ${groups.length}.`];
    const apart = copy.vertexCount - (cage.vertexCount - welded + groups.length);
    if (apart > 0 && copy.vertexCount === cage.vertexCount)
      refuse(
        'The faces at the picked vertices would touch in a corner only, which cannot be held.',
        selection,
        'Pick both ends of the edges to join.'
      );
    if (apart > 0) notes.push(`${apart} stayed apart: the faces there would touch in a corner only.`);
    return { cage: copy, selection: selectVertices(left), notes };
  }
};
