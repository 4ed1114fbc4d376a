import { NONE, type Cage } from '../mesh/cage.ts';
import { type Selection } from './selection.ts';

/**
 * Edges of the shortest way along edges from one vertex to another (Dijkstra 1959, by length). Of ways of nearly the same
 * length the one with fewer turns is not sought. @returns nothing where no way leads there
 */
export function shortestPath(cage: Cage, from: number, to: number): number[] | undefined {
  const distance = new Map<number, number>([[from, 0]]);
  const cameBy = new Map<number, number>();
  const queue = new Heap();
  queue.push(from, 0);
  for (let v = queue.pop(); v !== undefined; v = queue.pop()) {
    if (v.id === to) break;
    if (v.key > distance.get(v.id)!) continue;
    for (const h of cage.spokes(v.id)) {
      const w = cage.target(h);
      const way = v.key + cage.edgeLength(h >> 1);
      if (way >= (distance.get(w) ?? Infinity)) continue;
      distance.set(w, way);
      cameBy.set(w, h);
      queue.push(w, way);
    }
  }
  if (!cameBy.has(to)) return from === to ? [] : undefined;
  const path: number[] = [];
  for (let v = to; v !== from; v = cage.origin[cameBy.get(v)!]) path.push(cameBy.get(v)! >> 1);
  return path.reverse();
}

/** Faces of the shortest way from face to face, by the distance of their middles. @returns nothing where no way leads there */
export function shortestFacePath(cage: Cage, from: number, to: number): number[] | undefined {
  const middle = (f: number) => {
    const corners = cage.faceVertices(f);
    return [0, 1, 2].map((k) => corners.reduce((sum, v) => sum + cage.positions[3 * v + k], 0) / corners.length);
  };
  const distance = new Map<number, number>([[from, 0]]);
  const cameFrom = new Map<number, number>();
  const queue = new Heap();
  queue.push(from, 0);
  for (let f = queue.pop(); f !== undefined; f = queue.pop()) {
    if (f.id === to) break;
    if (f.key > distance.get(f.id)!) continue;
    const here = middle(f.id);
    for (const h of cage.loopOf(cage.faceEdge[f.id])) {
      const g = cage.face[h ^ 1];
      if (g === NONE) continue;
      const there = middle(g);
      const way = f.key + Math.hypot(there[0] - here[0], there[1] - here[1], there[2] - here[2]);
      if (way >= (distance.get(g) ?? Infinity)) continue;
      distance.set(g, way);
      cameFrom.set(g, f.id);
      queue.push(g, way);
    }
  }
  if (from !== to && !cameFrom.has(to)) return undefined;
  const path = [to];
  while (path[path.length - 1] !== from) path.push(cameFrom.get(path[path.length - 1])!);
  return path.reverse();
}

/** The shortest way between two elements of the same kind, as a selection of edges, or of faces between faces. */
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

/** A binary heap, least key first. */
class Heap {
  private readonly items: { id: number; key: number }[] = [];

  push(id: number, key: number): void {
    const { items } = this;
    let at = items.push({ id, key }) - 1;
    for (let up = (at - 1) >> 1; at > 0 && items[up].key > key; up = (at - 1) >> 1) {
      items[at] = items[up];
      items[up] = { id, key };
      at = up;
    }
  }
  pop(): { id: number; key: number } | undefined {
    const { items } = this;
    const least = items[0];
    const last = items.pop();
    if (!last || items.length === 0) return least;
    let at = 0;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= items.length) break;
      if (child + 1 < items.length && items[child + 1].key < items[child].key) child++;
      if (items[child].key >= last.key) break;
      items[at] = items[child];
      at = child;
    }
    items[at] = last;
    return least;
  }
}
