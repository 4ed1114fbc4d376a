import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { splitEdge } from '../../mesh/euler-operators.ts';
import { CageError, NONE } from '../../mesh/half-edges.ts';
import { replaceFaces } from '../../mesh/replace-faces.ts';
import { selectFaces, selectVertices, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { elementAt, isInFace, isOnEdge, isVertex, placeExists, pointedPlaces, positionOf, type PointedPlace } from '../shared/places.ts';

const pointsOf = (params: Params): PointedPlace[] => params.points as PointedPlace[];

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  const points = pointsOf(params);
  const lost = points.findIndex((p) => !placeExists(cage, p));
  if (lost >= 0)
    return { found: `Point ${lost + 1} of the face lies on an element that is not there any more.`, instead: 'Point at its corners again.' };
  const count = verticesOf(cage, selection).length + points.length;
  if (count < 3)
    return {
      found: `${count === 0 ? 'No' : `Only ${count}`} corner${count === 1 ? ' is' : 's are'} there.`,
      instead: 'Click points, vertices and edges, or pick vertices before, in order round the new face.'
    };
  const corners = [...verticesOf(cage, selection), ...points.flatMap((p) => (isVertex(p) ? [p.vertex] : []))];
  const inner = corners.filter((v) => cage.vertexEdge[v] !== NONE && !cage.isBorderVertex(v));
  if (inner.length > 0)
    return {
      found: `${inner.length} of the corners ${inner.length === 1 ? 'has' : 'have'} faces all round.`,
      where: selectVertices(inner),
      instead: 'Pick vertices on borders; to divide a face use Connect.'
    };
  const closed = points.find((p) => isOnEdge(p) && !cage.isBorderEdge(p.edge));
  if (closed) return { found: 'A point lies on an edge that has faces on both sides.', where: elementAt(closed), instead: 'Use edges on borders.' };
  return undefined;
}

/** Vertices at the corners, made where they are new; a point on an edge divides it. */
function cornersIn(copy: Cage, cage: Cage, selection: Selection, points: PointedPlace[]): number[] {
  const fractions = new Map<number, number>();
  const made = points.map((p) => {
    if (isVertex(p)) return p.vertex;
    if (!isOnEdge(p)) return copy.addVertex(...positionOf(cage, p));
    if (fractions.has(p.edge)) refuse('Two points lie on one edge.', elementAt(p), 'Divide the edge first (Point on edge).');
    fractions.set(p.edge, p.fraction);
    if (p.fraction <= 0) return cage.origin[2 * p.edge];
    return p.fraction >= 1 ? cage.origin[2 * p.edge + 1] : splitEdge(copy, p.edge, p.fraction);
  });
  return [...verticesOf(cage, selection), ...made];
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const points = pointsOf(params);
  let reason = '';
  for (const backwards of [false, true]) {
    const copy = cage.clone();
    const corners = cornersIn(copy, cage, selection, points);
    try {
      const [face] = replaceFaces(copy, { gone: [], added: [{ corners: backwards ? corners.reverse() : corners }] });
      const fresh = points.filter((p) => !isVertex(p) && !isOnEdge(p)).length;
      const notes = [`A face of ${corners.length} corners${fresh > 0 ? `, ${fresh} of them new` : ''}.`];
      const divided = points.filter(isOnEdge).length;
      if (divided > 0) notes.push(`${divided} edge${divided === 1 ? '' : 's'} got a vertex: the face beside has a corner more.`);
      if (points.some(isInFace)) notes.push('A point inside a face became a vertex of its own there, not joined to that face.');
      return { cage: copy, selection: selectFaces([face]), notes };
    } catch (error) {
      if (!(error instanceof CageError)) throw error;
      reason = error.message;
    }
  }
  return refuse(
    `This face cannot be held: ${reason}`,
    selection,
    'Give the corners in order round the hole, with every edge between them free on one side.'
  );
}

/** A face over picked vertices and pointed places, in that order, turned to agree with its neighbours. */
export const drawFace: CageOperation = {
  kind: 'cage',
  id: 'draw-face',
  bench: 3,
  name: 'Draw face',
  purpose: 'Make a face of picked border vertices and of new points, in order: on the view plane, the plane of the last three, or the reference.',
  icon: 'Draw',
  pointed: 'corners',
  needs: 'A cage; corners are picked before or clicked.',
  once: ['points'],
  params: Joi.object({
    points: pointedPlaces(true),
    newOn: Joi.string()
      .valid('view', 'plane', 'reference')
      .default('view')
      .label('New points on')
      .meta({ labels: { view: 'The view plane', plane: 'The plane of three corners', reference: 'The reference' } })
  }),
  check,
  run
};
