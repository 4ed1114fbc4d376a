import { leastCut } from '../numeric/least-cut.ts';
import { cross, dot, subtract, type Triple } from '../numeric/vectors.ts';

/**
 * Splits a polygon with an even number of corners into quads without further vertices, the way that leaves corners nearest to
 * right angles.
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
  const cut = leastCut(
    n,
    (quad) =>
      quad.length < 4
        ? Infinity
        : awkwardness(
            quad.map((c) => corners[c]),
            normal
          ),
    (i, j) => (allowed(i, j) ? 0 : Infinity)
  );
  return cut as [number, number, number, number][] | undefined;
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
