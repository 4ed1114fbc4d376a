import { add, cross, dot, scaled, subtract, type Triple, unit } from '../numeric/vectors.ts';
import { type Anchor, type SurfaceWalk } from './surface-walk.ts';

/** A direction along one surface as it is along another at an angle: turned with the normals, by the shortest way. @param d at right angles to `from` */
export function turnedWith(d: Triple, from: Triple, to: Triple): Triple {
  const cosine = from[0] * to[0] + from[1] * to[1] + from[2] * to[2];
  // a surface that turns right round says nothing of the way
  if (cosine < -0.999) return d;
  const share = (d[0] * to[0] + d[1] * to[1] + d[2] * to[2]) / (1 + cosine);
  return [d[0] - share * (from[0] + to[0]), d[1] - share * (from[1] + to[1]), d[2] - share * (from[2] + to[2])];
}

/**
 * Pulls a row of places over a reference as one of them is pulled: each goes its own way as far, in the direction that comes of turning the pulled
 * one's with the surface from place to place. So a closed ring goes along a limb as a whole, its far half on its own side.
 * @param pulled number of the place that is pulled
 * @param step mm, of that place
 */
export function pulledRow(walk: SurfaceWalk, row: readonly Anchor[], closed: boolean, pulled: number, step: Triple): Anchor[] {
  const normals = row.map((anchor) => walk.normalAt(anchor));
  const steps = new Array<Triple>(row.length);
  const off = step[0] * normals[pulled][0] + step[1] * normals[pulled][1] + step[2] * normals[pulled][2];
  const along: Triple = [step[0] - off * normals[pulled][0], step[1] - off * normals[pulled][1], step[2] - off * normals[pulled][2]];
  steps[pulled] = along;
  const many = row.length;
  const reach = closed ? Math.floor(many / 2) : many;
  for (const way of [1, -1])
    for (let i = 1; i <= reach; i++) {
      const [before, own] = [pulled + way * (i - 1), pulled + way * i];
      if (!closed && (own < 0 || own >= many)) break;
      const [b, o] = [(before + many) % many, (own + many) % many];
      steps[o] ??= turnedWith(steps[b], normals[b], normals[o]);
    }
  return row.map((anchor, i) => {
    const { triangle, at } = walk.step(anchor, steps[i]);
    return { triangle, at };
  });
}

/** What a step is along a row and out of it to its left, mm. @param along direction of the row there */
export function partsOf(step: Triple, normal: Triple, along: Triple): { out: number; on: number } {
  const across = unit(cross(normal, along));
  return { out: dot(step, across), on: dot(step, cross(across, normal)) };
}

/**
 * Pulls a row of places out of itself over a reference: each goes as far along the row and to the left of it as the others, by its own directions. So a
 * ring goes along a limb as a whole, one round an eye grows and shrinks, and one that is pulled along itself turns.
 * @param parts mm
 */
export function spreadRow(walk: SurfaceWalk, row: readonly Anchor[], closed: boolean, { out, on }: { out: number; on: number }): Anchor[] {
  return row.map((anchor, i) => {
    const normal = walk.normalAt(anchor);
    const across = unit(cross(normal, directionAt(row, closed, i)));
    const { triangle, at } = walk.step(anchor, add(scaled(across, out), scaled(cross(across, normal), on)));
    return { triangle, at };
  });
}

/** The direction of a row at one of its places: from the one before to the next. */
export function directionAt(row: readonly Anchor[], closed: boolean, i: number): Triple {
  const many = row.length;
  const [before, after] = closed ? [(i + many - 1) % many, (i + 1) % many] : [Math.max(0, i - 1), Math.min(many - 1, i + 1)];
  return subtract(row[after].at, row[before].at);
}
