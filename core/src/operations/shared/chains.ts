import { type Cage } from '../../mesh/cage.ts';
import { type Selection } from '../../select/selection.ts';
import { faceGroups, outlineOf } from './extrude-walls.ts';

/**
 * Picked edges as chains of half-edges that run on into each other where exactly one picked edge follows, so that left
 * and right mean something along them.
 */
export function orientedChains(cage: Cage, edges: number[]): number[][] {
  const open = new Set(edges);
  const chains: number[][] = [];
  const followers = (h: number) => cage.spokes(cage.target(h)).filter((k) => open.has(k >> 1));
  for (const e of edges) {
    if (!open.has(e)) continue;
    open.delete(e);
    const walk = (start: number): number[] => {
      const found: number[] = [];
      for (let next = followers(start); next.length === 1; next = followers(next[0])) {
        found.push(next[0]);
        open.delete(next[0] >> 1);
      }
      return found;
    };
    const ahead = walk(2 * e);
    const behind = walk(2 * e + 1);
    chains.push([...behind.map((h) => h ^ 1).reverse(), 2 * e, ...ahead]);
  }
  return chains;
}

/** A row of vertices along edges; a closed one does not repeat its first. */
export interface VertexLine {
  vertices: number[];
  closed: boolean;
}

/** How many edges a line runs along. */
export const edgesIn = ({ vertices, closed }: VertexLine): number => (closed ? vertices.length : vertices.length - 1);

/** The lines a selection draws: chains of picked edges, else the outlines of picked faces. */
export function linesOf(cage: Cage, selection: Selection): VertexLine[] {
  const chains =
    selection.edges.length > 0
      ? orientedChains(cage, selection.edges)
      : faceGroups(cage, selection.faces, true).flatMap((group) => orientedChains(cage, [...new Set(outlineOf(cage, group).map((h) => h >> 1))]));
  return chains.map((chain) => {
    const vertices = chain.map((h) => cage.origin[h]);
    const end = cage.target(chain[chain.length - 1]);
    const closed = end === vertices[0];
    return { vertices: closed ? vertices : [...vertices, end], closed };
  });
}
