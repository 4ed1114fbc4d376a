import { length, subtract } from '../numeric/vectors.ts';
import { type Hole } from './hole.ts';
import { Patch } from './patch.ts';

/** Where a grid's corners lie: at `start`, `start + a`, `start + a + b` and `start + 2 a + b` of the hole's vertices. */
export interface GridPlace {
  start: number;
  a: number;
  b: number;
}

/**
 * The best corners for a grid in a hole of an even number of edges: where the hole has right angles and is straight elsewhere,
 * where vertices get four edges, where opposite sides are equally long, and as far apart as
 * the edges between them are long.
 */
export function bestGridPlace(hole: Hole, rows?: number): GridPlace {
  const n = hole.vertices.length;
  const reached = [0];
  hole.lengths.forEach((l, i) => reached.push(reached[i] + l));
  const between = (i: number, count: number) => {
    const end = i + count;
    return (end <= n ? reached[end] : reached[n] + reached[end - n]) - reached[i];
  };
  // what a corner costs more than a vertex of a side does
  const corner = hole.angles.map((angle, i) => {
    const asCorner = (angle - Math.PI / 2) ** 2 + 0.5 * (hole.valences[i] - 4) ** 2;
    const asSide = 0.5 * (angle - Math.PI) ** 2 + 0.5 * (hole.valences[i] + 1 - 4) ** 2;
    return asCorner - asSide;
  });
  const spacing = hole.length / n;
  let best: GridPlace = { start: 0, a: rows ?? 1, b: n / 2 - (rows ?? 1) };
  let least = Infinity;
  for (let a = rows ?? 1; a <= (rows ?? n / 2 - 1); a++)
    // half a turn on, the corners are the same
    for (let start = 0; start < n / 2; start++) {
      const b = n / 2 - a;
      const at = [start, (start + a) % n, (start + a + b) % n, (start + 2 * a + b) % n];
      const corners = corner[at[0]] + corner[at[1]] + corner[at[2]] + corner[at[3]];
      if (corners >= least) continue;
      const unequal = Math.log(between(at[0], a) / between(at[2], a) || 1) ** 2 + Math.log(between(at[1], b) / between(at[3], b) || 1) ** 2;
      const across = (first: number, second: number, edges: number) => {
        const [p, q] = [hole.places[Math.floor(first) % n], hole.places[Math.floor(second) % n]];
        return Math.log(length(subtract(p, q)) / edges / spacing || 1) ** 2;
      };
      const squat = across(start + a / 2, start + a + b + a / 2, b) + across(start + a + b / 2, start + 2 * a + b + b / 2, a);
      const cost = corners + 2 * unequal + 0.5 * squat;
      if (cost < least - 1e-12) [least, best] = [cost, { start, a, b }];
    }
  return best;
}

/** A patch that is one grid between the corners of a place. */
export function gridPatch(hole: Hole, { start, a, b }: GridPlace): Patch {
  const n = hole.vertices.length;
  const patch = new Patch(hole.places, [0, 0, 0]);
  const side = (from: number, count: number) => Array.from({ length: count + 1 }, (_, k) => (start + from + k) % n);
  patch.grid([side(0, a), side(a, b), side(a + b, a), side(2 * a + b, b)]);
  return patch;
}
