import { after, type WorkingMesh } from '../base/working-mesh.ts';

/** Edges from one end or branch of lines to the next, and back to its start of one without. */
export interface Stretch {
  edges: number[];
  /** ends or branches; none of a closed stretch */
  ends: number[];
  /** mm */
  long: number;
}

/** Edges that hang together. */
export const piecesOfLines = (mesh: WorkingMesh, edges: readonly number[]): number[][] => connectedEdges(edges, (h) => verticesOfEdge(mesh, h));

/** Edges that hang together at the vertices they end at. */
export function connectedEdges(edges: readonly number[], endsOf: (edge: number) => readonly [number, number]): number[][] {
  const at = edgesAt(edges, endsOf);
  const seen = new Set<number>();
  return edges.flatMap((seed) => {
    if (seen.has(seed)) return [];
    seen.add(seed);
    const piece = [seed];
    for (const h of piece)
      for (const v of endsOf(h))
        for (const other of at.get(v)!) {
          if (seen.has(other)) continue;
          seen.add(other);
          piece.push(other);
        }
    return [piece];
  });
}

/** Edges parted at ends and branches. */
export function stretchesOf(mesh: WorkingMesh, edges: readonly number[]): Stretch[] {
  const at = edgesAt(edges, (h) => verticesOfEdge(mesh, h));
  const seen = new Set<number>();
  const walk = (start: number, first: number): Stretch => {
    const own: number[] = [];
    let [v, h] = [start, first];
    while (!seen.has(h)) {
      seen.add(h);
      own.push(h);
      const [a, b] = verticesOfEdge(mesh, h);
      v = a === v ? b : a;
      const around = at.get(v)!;
      if (around.length !== 2) return { edges: own, ends: [start, v], long: lengthOf(mesh, own) };
      h = around[0] === h ? around[1] : around[0];
    }
    return { edges: own, ends: [], long: lengthOf(mesh, own) };
  };
  const fromEnds = [...at].flatMap(([v, around]) => (around.length === 2 ? [] : around.flatMap((h) => (seen.has(h) ? [] : [walk(v, h)]))));
  const closed = edges.flatMap((h) => (seen.has(h) ? [] : [walk(mesh.corner[h], h)]));
  return [...fromEnds, ...closed];
}

/** By vertex the edges at it. */
function edgesAt(edges: readonly number[], endsOf: (edge: number) => readonly [number, number]): Map<number, number[]> {
  const at = new Map<number, number[]>();
  for (const h of edges) for (const v of endsOf(h)) (at.get(v) ?? at.set(v, []).get(v)!).push(h);
  return at;
}

/** The two vertices of an edge, by one of its half-edges. */
export const verticesOfEdge = (mesh: WorkingMesh, h: number): [number, number] => [mesh.corner[h], mesh.corner[after(h)]];

/** mm */
export const lengthOf = (mesh: WorkingMesh, edges: readonly number[]): number => edges.reduce((sum, h) => sum + Math.sqrt(mesh.edgeLength2(h)), 0);
