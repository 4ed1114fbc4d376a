import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { bestFitPlane, planeAcross, type Plane } from '../../numeric/best-fit.ts';
import { dot, mean, scaled, subtract, type Triple } from '../../numeric/vectors.ts';
import { isEmpty, selectVertices, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { linesOf } from '../shared/chains.ts';
import { faceGroups } from '../shared/extrude-walls.ts';

interface FlattenParams {
  onto: 'fit' | 'X' | 'Y' | 'Z';
  groups: 'together' | 'each';
  amount: number;
}

/** Vertices that get a plane of their own: picked faces that hang together, else picked lines, else all. */
function groupsOf(cage: Cage, selection: Selection, groups: FlattenParams['groups']): number[][] {
  if (groups === 'together') return [verticesOf(cage, selection)];
  if (selection.faces.length > 0)
    return faceGroups(cage, selection.faces, true).map((faces) => verticesOf(cage, { ...selection, edges: [], vertices: [], faces }));
  if (selection.edges.length > 0) return linesOf(cage, selection).map((line) => line.vertices);
  return [selection.vertices];
}

function check(cage: Cage, selection: Selection): Refusal | undefined {
  if (isEmpty(selection)) return { found: 'Nothing is picked.', instead: 'Pick what to flatten.' };
  const vertices = verticesOf(cage, selection);
  if (vertices.length < 3)
    return { found: 'Fewer than three vertices lie in a plane anyway.', where: selectVertices(vertices), instead: 'Pick more.' };
  return undefined;
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const { onto, groups, amount } = params as unknown as FlattenParams;
  const copy = cage.clone();
  const moved = new Map<number, Triple[]>();
  let most = 0;
  for (const vertices of groupsOf(cage, selection, groups)) {
    const points = vertices.map((v) => cage.position(v));
    const axis: Triple = [Number(onto === 'X'), Number(onto === 'Y'), Number(onto === 'Z')];
    const plane: Plane = onto === 'fit' ? bestFitPlane(points) : planeAcross(mean(points), axis);
    vertices.forEach((v, i) => {
      const off = dot(subtract(points[i], plane.centre), plane.normal);
      most = Math.max(most, Math.abs(off));
      moved.set(v, [...(moved.get(v) ?? []), scaled(plane.normal, (-off * amount) / 100)]);
    });
  }
  // a vertex of two groups takes the mean of both
  for (const [v, ways] of moved)
    copy.positions.set(
      mean(ways).map((d, k) => cage.positions[3 * v + k] + d),
      3 * v
    );
  return { cage: copy, selection, notes: [`The largest distance to the plane was ${most.toFixed(3)} mm.`] };
}

/** Puts what is picked into its best-fit plane, or across an axis. */
export const flatten: CageOperation = {
  kind: 'cage',
  id: 'flatten',
  bench: 3,
  group: 'Form',
  name: 'Flatten',
  purpose: 'Put picked faces, loops or vertices into their best-fit plane, or into one across an axis.',
  icon: 'AlignVerticalCenter',
  needs: 'Pick what to flatten.',
  params: Joi.object({
    onto: Joi.string()
      .valid('fit', 'X', 'Y', 'Z')
      .default('fit')
      .label('Plane')
      .meta({ labels: { fit: 'Best fit', X: 'Across X', Y: 'Across Y', Z: 'Across Z' } }),
    groups: Joi.string()
      .valid('together', 'each')
      .default('together')
      .label('Picks')
      .meta({ labels: { together: 'All in one plane', each: 'Each group in its own' } }),
    amount: Joi.number().min(0).max(100).default(100).label('Amount').unit('%').meta({ step: 5 })
  }),
  check,
  run
};
