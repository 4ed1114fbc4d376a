import { type Triple } from '../numeric/vectors.ts';

/** A block with rounded edges and ball corners, as quads; three corners where two lie in one place. */
export interface RoundedBlock {
  points: Triple[];
  /** corners of each quad, and which side of the block it lies on: -1, 0 or 1 by axis; two that are not 0 make an edge, three a corner */
  quads: { corners: number[]; side: Triple }[];
}

/**
 * @param half half the size by axis, mm
 * @param radius of its edges, mm
 * @param steps quads across each round
 */
export function roundedBlock(half: readonly number[], radius: number, steps: number): RoundedBlock {
  const points: Triple[] = [];
  const quads: RoundedBlock['quads'] = [];
  const index = new Map<string, number>();
  // places from -2 to 2 along an axis: between -1 and 1 it is flat, beyond that it turns
  const turn = Array.from({ length: steps + 1 }, (_, i) => Math.tan(((i / steps - 1) * Math.PI) / 4));
  const stops = [...turn.map((t) => -1 - -t), ...turn.map((t) => 1 + (t + 1))];
  const vertex = (cube: Triple): number => {
    const core = cube.map((c, k) => Math.sign(c) * (Math.abs(c) >= 1 ? half[k] - radius : 0));
    const way = cube.map((c) => (Math.abs(c) > 1 ? Math.sign(c) * (Math.abs(c) - 1) : 0));
    const long = Math.hypot(...way) || 1;
    const p = core.map((c, k) => c + (radius * way[k]) / long) as Triple;
    const key = p.map((x) => x.toFixed(6)).join();
    if (!index.has(key)) index.set(key, points.push(p) - 1);
    return index.get(key)!;
  };
  for (let axis = 0; axis < 3; axis++)
    for (const face of [-1, 1])
      for (let i = 0; i + 1 < stops.length; i++)
        for (let k = 0; k + 1 < stops.length; k++) {
          const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
          const place = (a: number, b: number): Triple => {
            const cube: Triple = [0, 0, 0];
            cube[axis] = 2 * face;
            cube[u] = a;
            cube[v] = b;
            return cube;
          };
          const middle = [(stops[i] + stops[i + 1]) / 2, (stops[k] + stops[k + 1]) / 2].map((c) => (Math.abs(c) > 1 ? Math.sign(c) : 0));
          const side = place(middle[0], middle[1]);
          side[axis] = face;
          const corners = [
            place(stops[i], stops[k]),
            place(stops[i + 1], stops[k]),
            place(stops[i + 1], stops[k + 1]),
            place(stops[i], stops[k + 1])
          ].map(vertex);
          quads.push({ corners: face > 0 ? corners : corners.reverse(), side });
        }
  return { points, quads };
}
