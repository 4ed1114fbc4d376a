import { length, subtract, type Triple } from '../numeric/vectors.ts';
import { cheapestLinks, type Link } from './loop-links.ts';
import { awkwardness } from './quadrangulate.ts';

/** A face of a band: the corners of the outer and the inner loop it takes, by their number in it. */
export interface BandFace {
  outer: number[];
  inner: number[];
}

/**
 * Joins two loops, the inner one inside the outer, by one band of quads without further vertices, as square as can be.
 * @param outer corners of the outer loop, counter-clockwise seen along `normal`; `inner` likewise
 * @param triangle allow one where the counts together are odd
 * @returns nothing where they are odd and no triangle is allowed
 */
export function quadBand(outer: readonly Triple[], inner: readonly Triple[], normal: Triple, triangle = false): BandFace[] | undefined {
  const [m, n] = [outer.length, inner.length];
  if ((m + n) % 2 !== 0 && !triangle) return undefined;
  let best: { cost: number; faces: BandFace[] } | undefined;
  // of two outer corners side by side one has a link at least; it leads to one of the nearest inner corners
  for (const from of [0, 1]) {
    const near = inner.map((_, j) => j).sort((a, b) => length(subtract(inner[a], outer[from])) - length(subtract(inner[b], outer[from])));
    for (const to of near.slice(0, 3)) {
      const faceAt = ([i, j]: Link, [a, b]: Link): BandFace => ({
        outer: Array.from({ length: a + 1 }, (_, k) => (from + i + k) % m),
        inner: Array.from({ length: b + 1 }, (_, k) => (to + j + b - k) % n)
      });
      const { cost, links } = cheapestLinks(m, n, (link, step) => {
        const face = faceAt(link, step);
        // the one triangle is taken wherever quads come out best
        return step[0] + step[1] === 1 ? 0 : awkwardness([...face.outer.map((k) => outer[k]), ...face.inner.map((k) => inner[k])], normal);
      });
      if (best && !(cost < best.cost)) continue;
      best = { cost, faces: links.slice(1).map(([i, j], k) => faceAt(links[k], [i - links[k][0], j - links[k][1]])) };
    }
  }
  return best?.faces;
}
