import { type Cage } from '../mesh/cage.ts';
import { PlaceFit } from '../numeric/place-fit.ts';
import { length, mean, scaled, subtract } from '../numeric/vectors.ts';

const ROUNDS = 5;

/**
 * Moves the inner vertices of a fill to where it bends least and runs on from the edges that come in from outside (umbrellas
 * of umbrellas, Kobbelt and others 1998), or, the less swell, to where it is stretched least. Changes the cage.
 * @param swell 0 to 1
 */
export function settlePatch(cage: Cage, inside: readonly number[], swell: number): void {
  for (let round = 0; round < (swell > 0 ? ROUNDS : 1); round++) solve(cage, inside, swell);
}

function solve(cage: Cage, inside: readonly number[], swell: number): void {
  const fit = new PlaceFit(inside, (v) => cage.position(v));
  const rim = new Set<number>();
  for (const v of inside) for (const h of cage.spokes(v)) if (!fit.has(cage.target(h))) rim.add(cage.target(h));
  // differences of places and umbrellas are both lengths: their weights need no scale
  const skin = 1 - swell + 1e-3;
  const plate = swell;
  for (const v of inside) {
    const around = cage.spokes(v).map((h) => cage.target(h));
    for (const w of around)
      if (!fit.has(w) || w > v)
        fit.wish(skin, [
          [v, 1],
          [w, -1]
        ]);
    fit.wish(plate, [[v, -1], ...around.map((w): [number, number] => [w, 1 / around.length])]);
  }
  for (const v of rim) {
    const ends = cage.spokes(v).map((h) => cage.target(h));
    const inner = ends.filter((w) => fit.has(w));
    const outside = ends.filter((w) => !fit.has(w) && !rim.has(w));
    if (outside.length === 0) continue;
    const way = subtract(cage.position(v), mean(outside.map((w) => cage.position(w))));
    for (const w of inner) {
      const far = length(subtract(cage.position(w), cage.position(v)));
      fit.wish(
        plate,
        [
          [w, 1],
          [v, -1]
        ],
        scaled(way, far / (length(way) || 1))
      );
    }
  }
  for (const [v, place] of fit.places()) cage.positions.set(place, 3 * v);
}
