import { type Cage } from '../src/mesh/cage.ts';
import { add, cross, dot, length, scaled, subtract, unit, type Triple } from '../src/numeric/vectors.ts';
import { ringThrough } from '../src/select/loops.ts';

/**
 * Closed strips of quads that go once round the axis of a limb: how many quads each has.
 * @param from,to ends of the axis; strips may lie beyond them by the radius
 * @param radius that strips stay within
 */
export function loopsRound(cage: Cage, from: Triple, to: Triple, radius: number): number[] {
  const axis = unit(subtract(to, from));
  const reach = length(subtract(to, from));
  const aside = unit(cross(axis, Math.abs(axis[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0]));
  const across = cross(axis, aside);
  const seen = new Set<number>();
  const found: number[] = [];
  for (const e of cage.edges()) {
    if (seen.has(e)) continue;
    const { halves, closed } = ringThrough(cage, 2 * e);
    for (const h of halves) seen.add(h >> 1);
    if (!closed) continue;
    const middles = halves.map((h) => subtract(scaled(add(cage.position(cage.origin[h]), cage.position(cage.target(h))), 0.5), from));
    const isNear = (p: Triple) => {
      const along = dot(p, axis);
      return along > -radius && along < reach + radius && length(subtract(p, scaled(axis, along))) < radius;
    };
    if (!middles.every(isNear)) continue;
    const angles = middles.map((p) => Math.atan2(dot(p, across), dot(p, aside)));
    const turned = angles.reduce((sum, angle, i) => {
      const step = angle - angles[i === 0 ? angles.length - 1 : i - 1];
      return sum + step - 2 * Math.PI * Math.round(step / (2 * Math.PI));
    }, 0);
    if (Math.round(Math.abs(turned) / (2 * Math.PI)) === 1) found.push(halves.length);
  }
  return found;
}
