import { cross, dot, subtract, type Triple } from '../numeric/vectors.ts';

/**
 * Splits a polygon with an even number of corners into quads without further vertices, the way that leaves corners nearest to
 * right angles (dynamic programming over its diagonals, as Klincsek 1980 does for triangles).
 * @param corners places of its corners, counter-clockwise seen along `normal`
 * @param allowed whether a diagonal between two corners may be drawn
 * @returns quads as corner numbers; nothing where none is possible
 */
export function quadrangulate(
  corners: readonly Triple[],
  normal: Triple,
  allowed: (i: number, j: number) => boolean = () => true
): [number, number, number, number][] | undefined {
  const n = corners.length;
  if (n < 4 || n % 2 !== 0) return undefined;
  interface Best {
    cost: number;
    quads: [number, number, number, number][];
  }
  const known = new Map<number, Best | undefined>();
  const isSide = (i: number, j: number) => j - i === 1 || (i === 0 && j === n - 1);
  /** the piece between corner i and corner j and the line that joins them */
  const best = (i: number, j: number): Best | undefined => {
    if (j - i === 1) return { cost: 0, quads: [] };
    const key = i * n + j;
    if (known.has(key)) return known.get(key);
    let found: Best | undefined;
    for (let k = i + 1; k < j; k += 2)
      for (let l = k + 1; l < j; l += 2) {
        const lines = [
          [i, k],
          [k, l],
          [l, j]
        ];
        if (!lines.every(([a, b]) => isSide(a, b) || allowed(a, b))) continue;
        const parts = lines.map(([a, b]) => best(a, b));
        if (parts.some((p) => !p)) continue;
        const cost =
          awkwardness(
            [i, k, l, j].map((c) => corners[c]),
            normal
          ) + parts.reduce((sum, p) => sum + p!.cost, 0);
        if (!found || cost < found.cost) found = { cost, quads: [[i, k, l, j], ...parts.flatMap((p) => p!.quads)] };
      }
    known.set(key, found);
    return found;
  };
  return best(0, n - 1)?.quads;
}

/** How far a quad is from a square: squares of its corners' angles off a right angle, and much for corners that turn the wrong way. */
export function awkwardness(corners: readonly Triple[], normal: Triple): number {
  let sum = 0;
  for (let k = 0; k < 4; k++) {
    const [a, b] = [subtract(corners[(k + 1) % 4], corners[k]), subtract(corners[(k + 3) % 4], corners[k])];
    const angle = Math.atan2(dot(cross(a, b), normal), dot(a, b));
    sum += (angle - Math.PI / 2) ** 2;
    if (angle < -1e-9) sum += 100;
  }
  return sum;
}
