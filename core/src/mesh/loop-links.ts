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
 * With quads alone there is one whenever both counts together are even; where they are odd, exactly one triangle is taken as well.
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
  const odd = (m + n) % 2;
  const steps = [...TRIANGLES, ...QUADS, ...wider];
  const isTriangle = (s: number) => s < TRIANGLES.length;
  // with a triangle each link twice: before it, and after it
  const at = (i: number, j: number, triangles: number) => (triangles * (m + 1) + i) * (n + 1) + j;
  const costs = new Float64Array(at(m, n, odd) + 1).fill(Infinity);
  const came = new Int8Array(costs.length).fill(-1);
  costs[0] = 0;
  for (let triangles = 0; triangles <= odd; triangles++)
    for (let i = 0; i <= m; i++)
      for (let j = 0; j <= n; j++) {
        const here = costs[at(i, j, triangles)];
        if (here === Infinity) continue;
        steps.forEach((step, s) => {
          const [a, b, more] = [i + step[0], j + step[1], isTriangle(s) ? 1 : 0];
          if (a > m || b > n || triangles + more > odd) return;
          const [to, reached] = [at(a, b, triangles + more), here + cost([i, j], step)];
          if (reached < costs[to]) [costs[to], came[to]] = [reached, s];
        });
      }
  const links: Link[] = [[m, n]];
  const taken: Link[] = [];
  for (let [i, j, triangles] = [m, n, odd]; i + j > 0;) {
    const s = came[at(i, j, triangles)];
    const step = steps[s];
    [i, j, triangles] = [i - step[0], j - step[1], isTriangle(s) ? 0 : triangles];
    links.push([i, j]);
    taken.push(step);
  }
  return { cost: costs[at(m, n, odd)], links: links.reverse(), taken: taken.reverse() };
}
