import { type Cage } from '../../mesh/cage.ts';

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
