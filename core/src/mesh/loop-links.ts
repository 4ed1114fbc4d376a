/** A link between two loops: corner i of the first and corner j of the second. */
export type Link = [i: number, j: number];

/** Edges of either loop from one link to the next: one of each, or two of one alone, a quad with three corners on one loop. */
const QUADS: readonly Link[] = [
  [1, 1],
  [2, 0],
  [0, 2]
];
/** one edge of one loop: a triangle */
const TRIANGLES: readonly Link[] = [
  [1, 0],
  [0, 1]
];

/**
 * The cheapest row of links round two closed loops, by dynamic programming over their edges (after Fuchs, Kedem, Uselton 1977).
 * With quads alone there is one whenever both counts together are even; where they are odd, triangles may be taken as well.
 * @param m, n corners of the loops
 * @param cost of what lies between a link and the one a step on
 * @param wider steps that are allowed besides single quads and triangles
 * @returns links from (0, 0) to (m, n), the first once more a whole turn on, and the step from each to the next
 */
export function cheapestLinks(
  m: number,
  n: number,
  cost: (from: Link, step: Link) => number,
  wider: readonly Link[] = []
): { cost: number; links: Link[]; taken: Link[] } {
  const steps = [...QUADS, ...wider, ...((m + n) % 2 === 0 ? [] : TRIANGLES)];
  const width = n + 1;
  const costs = new Float64Array((m + 1) * width).fill(Infinity);
  const came = new Int8Array((m + 1) * width).fill(-1);
  costs[0] = 0;
  for (let i = 0; i <= m; i++)
    for (let j = 0; j <= n; j++) {
      if (costs[i * width + j] === Infinity) continue;
      steps.forEach((step, s) => {
        const [a, b] = [i + step[0], j + step[1]];
        if (a > m || b > n) return;
        const reached = costs[i * width + j] + cost([i, j], step);
        if (reached < costs[a * width + b]) [costs[a * width + b], came[a * width + b]] = [reached, s];
      });
    }
  const links: Link[] = [[m, n]];
  const taken: Link[] = [];
  for (let [i, j] = [m, n]; i + j > 0;) {
    const step = steps[came[i * width + j]];
    [i, j] = [i - step[0], j - step[1]];
    links.push([i, j]);
    taken.push(step);
  }
  return { cost: costs[m * width + n], links: links.reverse(), taken: taken.reverse() };
}
