import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { joinEdges, mergeFaces } from '../../mesh/euler-operators.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { emptySelection, isEmpty, selectEdges, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Refusal, pickedTimesFaces } from '../operation.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';

function check(cage: Cage, selection: Selection): Refusal | undefined {
  if (isEmpty(selection)) return { found: 'Nothing is picked.', instead: 'Pick edges, a loop, vertices or faces to merge.' };
  const border = selection.edges.filter((e) => cage.isBorderEdge(e));
  if (selection.edges.length > 0 && border.length === selection.edges.length && selection.vertices.length + selection.faces.length === 0)
    return {
      found: `${border.length === 1 ? 'This edge lies' : `All ${border.length} picked edges lie`} on a border: there is only one face, and nothing to join it with.`,
      where: selectEdges(border),
      instead: 'Delete the face, or pick an edge between two faces.'
    };
  return undefined;
}

/** Inner edges of picked faces, edges at picked vertices, and picked edges. */
function edgesToGo(cage: Cage, selection: Selection): Set<number> {
  const edges = new Set(selection.edges.filter((e) => !cage.isBorderEdge(e)));
  const faces = new Set(selection.faces);
  for (const f of faces) for (const h of cage.loopOf(cage.faceEdge[f])) if (faces.has(cage.face[h ^ 1])) edges.add(h >> 1);
  for (const v of selection.vertices) for (const h of cage.spokes(v)) if (!cage.isBorderEdge(h >> 1)) edges.add(h >> 1);
  return edges;
}

/** Takes edges out and joins their faces; vertices left with two edges go as well, unless they are kept. */
export const dissolve: CageOperation = {
  kind: 'cage',
  id: 'dissolve',
  seconds: (cage, selection) => 2.5e-8 * pickedTimesFaces(cage, selection),
  bench: 3,
  name: 'Dissolve',
  purpose: 'Take out edges, loops or vertices and join the faces beside them.',
  icon: 'EdgeCluster',
  key: 'D',
  needs: 'Pick edges, a loop, vertices or faces.',
  keepsSurface: 'there too',
  atOnce: true,
  params: Joi.object({ keepVertices: Joi.boolean().default(false).label('Keep vertices of two edges'), keepSurface: keepSurfaceField() }),
  check,
  run: (cage, selection, params) => dissolveEdges(cage, edgesToGo(cage, selection), selection.vertices, () => params.keepVertices === true)
};

/**
 * Takes edges out of a copy and joins their faces.
 * @param more vertices that may go besides the edges' ends
 * @param keep which vertices stay although they are left with two edges
 */
export function dissolveEdges(cage: Cage, edges: ReadonlySet<number>, more: Iterable<number>, keep: (v: number) => boolean): CageResult {
  const copy = cage.clone();
  const ends = new Set(more);
  for (const e of edges) ends.add(cage.origin[2 * e]).add(cage.origin[2 * e + 1]);
  for (const group of facesAcross(cage, edges)) {
    if (mergeFaces(copy, group.faces) !== NONE) continue;
    // all at once they would be a ring or touch themselves: as many as go, pair by pair
    for (const e of group.edges) if (copy.hasEdge(e)) mergeFaces(copy, [copy.face[2 * e], copy.face[2 * e + 1]]);
  }
  const stayed = [...edges].filter((e) => copy.hasEdge(e)).length;
  for (const v of ends) if (copy.hasVertex(v) && copy.valence(v) === 2 && !keep(v)) joinEdges(copy, v);
  const gone = edges.size - stayed;
  const notes = [`${gone} edge${gone === 1 ? '' : 's'} taken out.`];
  if (stayed > 0) notes.push(`${stayed} stayed: without ${stayed === 1 ? 'it' : 'them'} a face would touch itself.`);
  return { cage: copy, selection: emptySelection(), notes };
}

/** Faces that hang together across the given edges, group by group. */
function facesAcross(cage: Cage, edges: ReadonlySet<number>): { faces: number[]; edges: number[] }[] {
  const groupOf = new Map<number, { faces: number[]; edges: number[] }>();
  for (const e of edges) {
    const [a, b] = [cage.face[2 * e], cage.face[2 * e + 1]].map((f) => groupOf.get(f) ?? { faces: [f], edges: [] });
    a.edges.push(e);
    if (a !== b) {
      a.faces.push(...b.faces);
      a.edges.push(...b.edges);
    }
    for (const f of a.faces) groupOf.set(f, a);
  }
  return [...new Set(groupOf.values())];
}
