import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { mean } from '../../numeric/vectors.ts';
import { isEmpty, selectVertices, type Selection } from '../../select/selection.ts';
import { type CageOperation, pickedTimesFaces } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { mergeVertices } from '../../mesh/merge-vertices.ts';

/** Vertices that become one: those joined by picked edges or round picked faces. */
function groupsOf(cage: Cage, selection: Selection): number[][] {
  const parent = new Map<number, number>();
  const root = (v: number): number => {
    const p = parent.get(v) ?? v;
    return p === v ? v : root(p);
  };
  const join = (a: number, b: number) => parent.set(root(a), root(b));
  for (const e of selection.edges) join(cage.origin[2 * e], cage.origin[2 * e + 1]);
  for (const f of selection.faces) cage.faceVertices(f).forEach((v, _, all) => join(v, all[0]));
  const groups = new Map<number, number[]>();
  const all = new Set([
    ...selection.edges.flatMap((e) => [cage.origin[2 * e], cage.origin[2 * e + 1]]),
    ...selection.faces.flatMap((f) => cage.faceVertices(f))
  ]);
  for (const v of all) groups.set(root(v), [...(groups.get(root(v)) ?? []), v]);
  return [...groups.values()];
}

/** Pulls picked edges or faces together to a vertex each. */
export const collapse: CageOperation = {
  kind: 'cage',
  id: 'collapse',
  seconds: (cage, selection) => 1.5e-8 * pickedTimesFaces(cage, selection),
  bench: 3,
  name: 'Collapse',
  purpose: 'Pull picked edges or faces together to one vertex each.',
  icon: 'CollapseAll',
  needs: 'Pick edges or faces.',
  params: Joi.object({}),
  check: (_cage, selection) =>
    isEmpty({ ...selection, vertices: [] })
      ? { found: 'Neither edges nor faces are picked.', instead: 'Pick edges or faces; vertices are joined by Weld.' }
      : undefined,
  run: (cage, selection) => {
    const copy = cage.clone();
    const groups = groupsOf(cage, selection).map((vertices) => ({ vertices, at: mean(vertices.map((v) => cage.position(v))) }));
    const { facesGone } = mergeVertices(copy, groups);
    if (copy.faceCount === 0) refuse('Nothing of the part would be left.', selection, 'Pick fewer edges or faces.');
    const left = groups.map((g) => g.vertices[0]).filter((v) => copy.hasVertex(v) && copy.vertexEdge[v] !== NONE);
    return {
      cage: copy,
      selection: selectVertices(left),
      notes: [`${groups.length} ${groups.length === 1 ? 'place' : 'places'} pulled together, ${facesGone} face${facesGone === 1 ? '' : 's'} gone.`]
    };
  }
};
