import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { faceNormal, vertexNormal } from '../../mesh/normals.ts';
import { add, cross, dot, length, scaled, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { facesOf, selectEdges, selectFaces, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { faceGroups, outlineOf, wallRound } from '../shared/extrude-walls.ts';

interface InsetParams {
  width: number;
  depth: number;
  faces: 'together' | 'each';
}

/** For every vertex on the outline of a group, the way inward that is one millimetre from both its outline edges. */
function inwardWays(cage: Cage, outline: number[]): Map<number, Triple> {
  const sides = new Map<number, Triple[]>();
  for (const h of outline) {
    const along = unit(subtract(cage.position(cage.target(h)), cage.position(cage.origin[h])));
    const inward = unit(cross(faceNormal(cage, cage.face[h]), along));
    for (const v of [cage.origin[h], cage.target(h)]) sides.set(v, [...(sides.get(v) ?? []), inward]);
  }
  const ways = new Map<number, Triple>();
  for (const [v, list] of sides) {
    const middle = unit(list.reduce<Triple>(add, [0, 0, 0]));
    ways.set(v, scaled(middle, 1 / Math.max(0.2, dot(middle, list[0]))));
  }
  return ways;
}

/** The width at which the first outline edge would be used up. */
function mostWidth(cage: Cage, outline: number[], ways: Map<number, Triple>): { width: number; edge: number } {
  let least = { width: Infinity, edge: outline[0] >> 1 };
  for (const h of outline) {
    const edge = subtract(cage.position(cage.target(h)), cage.position(cage.origin[h]));
    const shrinks = -dot(subtract(ways.get(cage.target(h))!, ways.get(cage.origin[h])!), unit(edge));
    if (shrinks > 1e-9 && length(edge) / shrinks < least.width) least = { width: length(edge) / shrinks, edge: h >> 1 };
  }
  return least;
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const { width, depth, faces } = params as unknown as InsetParams;
  const copy = cage.clone();
  const groups = faceGroups(cage, facesOf(cage, selection), faces === 'together');
  const inner = groups.flatMap((group) => {
    const outline = outlineOf(cage, group);
    if (outline.length === 0)
      refuse('These faces form a closed shell: there is no outline to inset from.', selectFaces(group), 'Leave some faces unpicked.');
    const ways = inwardWays(cage, outline);
    const most = mostWidth(cage, outline, ways);
    if (width >= most.width)
      refuse(
        `At ${width} mm the sides would run into each other here.`,
        selectEdges([most.edge]),
        `Up to ${(0.999 * most.width).toFixed(3)} mm fits.`
      );
    const inside = new Set(group);
    const normals = new Map([...new Set(group.flatMap((f) => cage.faceVertices(f)))].map((v) => [v, vertexNormal(cage, v, inside)]));
    return wallRound(copy, group, (v) => add(add(cage.position(v), scaled(ways.get(v) ?? [0, 0, 0], width)), scaled(normals.get(v)!, depth)));
  });
  return { cage: copy, selection: selectFaces(inner), notes: [`${copy.faceCount - cage.faceCount} new quads, ${width} mm wide.`] };
}

/** A band of quads inside the outline of picked faces, evenly wide whatever the angles. */
export const inset: CageOperation = {
  kind: 'cage',
  id: 'inset',
  bench: 3,
  name: 'Inset',
  purpose: 'Put a band of quads inside the outline of picked faces, evenly wide in mm whatever the angles.',
  icon: 'ShrinkScreen',
  needs: 'Pick faces.',
  params: Joi.object({
    width: Joi.number().greater(0).max(1e6).default(1).label('Width').unit('mm').meta({ step: 0.25 }),
    depth: Joi.number().min(-1e6).max(1e6).default(0).label('Raise by').unit('mm').meta({ step: 0.25 }),
    faces: Joi.string()
      .valid('together', 'each')
      .default('together')
      .label('Faces')
      .meta({ labels: { together: 'As one', each: 'One by one' } })
  }),
  check: (cage, selection) =>
    facesOf(cage, selection).length === 0 ? { found: 'No face is picked.', where: selection, instead: 'Pick the faces to inset.' } : undefined,
  run
};
