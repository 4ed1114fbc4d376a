import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { faceMiddle } from '../mesh/normals.ts';
import { cheapestWay } from '../numeric/cheapest-way.ts';
import { length, subtract } from '../numeric/vectors.ts';
import { type Selection } from './selection.ts';

/** Edges of the shortest way along edges from one vertex to another. @returns nothing where no way leads there */
export function shortestPath(cage: Cage, from: number, to: number): number[] | undefined {
  const way = cheapestWay(from, to, (v) => cage.spokes(v).map((h) => ({ to: cage.target(h), cost: cage.edgeLength(h >> 1), by: h })));
  return way?.map((h) => h >> 1);
}

/** Faces of the shortest way from face to face, by the distance of their middles. @returns nothing where no way leads there */
export function shortestFacePath(cage: Cage, from: number, to: number): number[] | undefined {
  const middle = (f: number) => faceMiddle(cage, f);
  const way = cheapestWay(from, to, (f) => {
    const here = middle(f);
    return cage
      .loopOf(cage.faceEdge[f])
      .filter((h) => cage.face[h ^ 1] !== NONE)
      .map((h) => ({ to: cage.face[h ^ 1], cost: length(subtract(middle(cage.face[h ^ 1]), here)), by: h }));
  });
  return way && [from, ...way.map((h) => cage.face[h ^ 1])];
}

/**
 * The shortest way between two elements of the same kind, as a selection of edges, or of faces between faces.
 * @returns nothing where they are of two kinds, or no way leads between them
 */
export function pathBetween(cage: Cage, from: Selection, to: Selection): Selection | undefined {
  if (from.faces.length > 0 && to.faces.length > 0) {
    const faces = shortestFacePath(cage, from.faces[from.faces.length - 1], to.faces[0]);
    return faces && { vertices: [], edges: [], faces };
  }
  const start = anyVertex(cage, from);
  const end = anyVertex(cage, to);
  if (start === undefined || end === undefined) return undefined;
  const edges = shortestPath(cage, start, end);
  return edges && { vertices: [], edges, faces: [] };
}

function anyVertex(cage: Cage, s: Selection): number | undefined {
  if (s.vertices.length > 0) return s.vertices[s.vertices.length - 1];
  if (s.edges.length > 0) return cage.origin[2 * s.edges[s.edges.length - 1]];
  return s.faces.length > 0 ? cage.faceVertices(s.faces[s.faces.length - 1])[0] : undefined;
}
