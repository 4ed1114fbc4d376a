import { add, between, dot, scaled, subtract, unit, type Triple } from '../../numeric/vectors.ts';

export type ProfileKind = 'round' | 'flat' | 'hollow' | 'stepped' | 'drawn';

/**
 * Points of a cross-section from a to b, both included.
 * @param corner where the sides would meet without the bevel
 * @param heights for a drawn one: how far each point between the ends rises towards the corner, from -100 to 100 %
 */
export function profilePoints(a: Triple, b: Triple, corner: Triple, kind: ProfileKind, segments: number, heights: readonly number[] = []): Triple[] {
  const at = (i: number): Triple => {
    const t = i / segments;
    if (kind === 'round') return conic(a, corner, b, t);
    if (kind === 'hollow') return conic(a, subtract(add(a, b), corner), b, t);
    if (kind === 'stepped') return stepped(a, corner, b, i, segments);
    const straight = between(a, b, t);
    if (kind === 'flat' || i === 0 || i === segments) return straight;
    return add(straight, scaled(subtract(corner, between(a, b, 0.5)), heightAt(heights, t) / 100));
  };
  return Array.from({ length: segments + 1 }, (_, i) => at(i));
}

/** Height of a drawn profile at t; its points lie evenly between the ends, which are at 0. */
function heightAt(heights: readonly number[], t: number): number {
  const all = [0, ...heights, 0];
  const x = t * (all.length - 1);
  const i = Math.min(all.length - 2, Math.floor(x));
  return all[i] + (x - i) * (all[i + 1] - all[i]);
}

/** A conic arc that leaves a towards m and reaches b from m: a circle where both are equally far (Farin 2002, chapter 13). */
function conic(a: Triple, m: Triple, b: Triple, t: number): Triple {
  const cosine = dot(unit(subtract(a, m)), unit(subtract(b, m)));
  const weight = Math.sqrt(Math.max(0, (1 - cosine) / 2));
  const [p, q, r] = [(1 - t) * (1 - t), 2 * t * (1 - t) * weight, t * t];
  return scaled(add(scaled(a, p), add(scaled(m, q), scaled(b, r))), 1 / (p + q + r));
}

/** Steps inward and across in turn, inward first. */
function stepped(a: Triple, corner: Triple, b: Triple, i: number, segments: number): Triple {
  const inward = Math.ceil(segments / 2);
  const across = Math.max(1, Math.floor(segments / 2));
  const done = segments === 1 ? [i, i] : [Math.ceil(i / 2) / inward, Math.floor(i / 2) / across];
  return add(a, add(scaled(subtract(b, corner), done[0]), scaled(subtract(corner, a), done[1])));
}
