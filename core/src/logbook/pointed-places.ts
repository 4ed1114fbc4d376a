import { type Cage } from '../mesh/cage.ts';
import { type Operation, type Params } from '../operations/operation.ts';
import { elementAt, isInFace, isOnEdge, isVertex, type PointedPlace } from '../operations/shared/places.ts';
import { emptySelection, isEmpty, united, type Selection } from '../select/selection.ts';
import { describeLost, elementPlaces, foundAgain, type ElementPlaces, type FoundAgain } from './element-places.ts';

/** Places pointed at that stand in the parameters of an operation; none for operations that take none. */
const pointsOf = (operation: Operation, params: Params): readonly PointedPlace[] =>
  operation.pointed && operation.pointed !== 'space' ? ((params.points as PointedPlace[] | undefined) ?? []) : [];

/** All elements that the places in an entry's parameters lie on. */
const elementsOf = (points: readonly PointedPlace[]): Selection => points.map(elementAt).reduce(united, emptySelection());

/** Where the elements lie that the parameters of an operation name; nothing where they name none. */
export function placesInParams(operation: Operation, cage: Cage, params: Params): ElementPlaces | undefined {
  const elements = elementsOf(pointsOf(operation, params));
  return isEmpty(elements) ? undefined : elementPlaces(cage, elements);
}

/** Parameters whose places lie on the elements that are now where theirs were, or what of them is missing. */
export function paramsFoundAgain(
  operation: Operation,
  cage: Cage,
  params: Params,
  places: ElementPlaces | undefined,
  sameTopology: boolean
): { params: Params; found?: FoundAgain; problem?: string } {
  const points = pointsOf(operation, params);
  if (points.length === 0 || sameTopology || !places) return { params };
  const before = elementsOf(points);
  const found = foundAgain(cage, before, places, sameTopology);
  if (found.lost.length > 0) return { params, found, problem: describeLost(found.lost) };
  const now = (name: keyof Selection, id: number) => found.selection[name][before[name].indexOf(id)];
  const moved = points.map((p): PointedPlace => {
    if (isVertex(p)) return { vertex: now('vertices', p.vertex) };
    if (isInFace(p)) return { face: now('faces', p.face), at: p.at };
    if (!isOnEdge(p)) return p;
    const edge = now('edges', p.edge);
    // fractions run from the start of half-edge 2e, which may be the other end now
    const start = places.edges.subarray(6 * before.edges.indexOf(p.edge));
    const near = (v: number) => Math.hypot(...cage.position(v).map((x, k) => x - start[k]));
    const turned = near(cage.origin[2 * edge]) > near(cage.origin[2 * edge + 1]);
    return { edge, fraction: turned ? 1 - p.fraction : p.fraction };
  });
  return { params: { ...params, points: moved }, found };
}
