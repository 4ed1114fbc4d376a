import { type Cage } from '../mesh/cage.ts';
import { type Selection } from '../select/selection.ts';

/** Middles of selected elements, three numbers each, in the order of the selection. */
export interface ElementPlaces {
  vertices: Float64Array;
  edges: Float64Array;
  faces: Float64Array;
}

function middle(cage: Cage, vertices: number[]): number[] {
  const sum = [0, 0, 0];
  for (const v of vertices) for (let k = 0; k < 3; k++) sum[k] += cage.positions[3 * v + k] / vertices.length;
  return sum;
}

const edgeEnds = (cage: Cage, e: number) => [cage.origin[2 * e], cage.origin[2 * e + 1]];

export function elementPlaces(cage: Cage, s: Selection): ElementPlaces {
  return {
    vertices: Float64Array.from(s.vertices.flatMap((v) => middle(cage, [v]))),
    edges: Float64Array.from(s.edges.flatMap((e) => middle(cage, edgeEnds(cage, e)))),
    faces: Float64Array.from(s.faces.flatMap((f) => middle(cage, cage.faceVertices(f))))
  };
}

/**
 * The selection in a cage that may have changed: by id where the id is there still, else the element nearest to where it
 * lay, within a twentieth of the cage's size. @returns nothing where one cannot be found
 */
export function foundAgain(cage: Cage, s: Selection, places: ElementPlaces): Selection | undefined {
  const reach = 0.05 * cageSize(cage);
  const find = (ids: number[], at: Float64Array, has: (id: number) => boolean, all: () => Iterable<number>, place: (id: number) => number[]) => {
    if (ids.every(has)) return ids;
    const candidates = Array.from(all(), (id) => ({ id, place: place(id) }));
    return ids.map((id, i) => (has(id) ? id : nearest(candidates, at.subarray(3 * i, 3 * i + 3), reach)));
  };
  const found: Selection = {
    vertices: find(
      s.vertices,
      places.vertices,
      (v) => cage.hasVertex(v),
      () => cage.vertices(),
      (v) => middle(cage, [v])
    ),
    edges: find(
      s.edges,
      places.edges,
      (e) => cage.hasEdge(e),
      () => cage.edges(),
      (e) => middle(cage, edgeEnds(cage, e))
    ),
    faces: find(
      s.faces,
      places.faces,
      (f) => cage.hasFace(f),
      () => cage.faces(),
      (f) => middle(cage, cage.faceVertices(f))
    )
  };
  return [...found.vertices, ...found.edges, ...found.faces].includes(-1) ? undefined : found;
}

function nearest(candidates: { id: number; place: number[] }[], at: Float64Array, reach: number): number {
  let best = -1;
  let least = reach;
  for (const { id, place } of candidates) {
    const d = Math.hypot(place[0] - at[0], place[1] - at[1], place[2] - at[2]);
    if (d <= least) {
      least = d;
      best = id;
    }
  }
  return best;
}

function cageSize(cage: Cage): number {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const v of cage.vertices())
    for (let k = 0; k < 3; k++) {
      low[k] = Math.min(low[k], cage.positions[3 * v + k]);
      high[k] = Math.max(high[k], cage.positions[3 * v + k]);
    }
  return Math.hypot(high[0] - low[0], high[1] - low[1], high[2] - low[2]) || 1;
}
