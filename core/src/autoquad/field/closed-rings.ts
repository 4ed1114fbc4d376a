import { CrossWalker, type Crosses } from './cross-walker.ts';
import { type Frames } from './curvature.ts';
import { type CutMesh } from './cut-graph.ts';
import { mod4 } from './orientation-field.ts';
import { wayBetween } from '../base/way-between.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';

/** A way round the surface along the crosses that comes back to where it began: quads along it are to close as well. */
export interface Ring {
  /** half-edges it leaves triangles by, in order, back to the first triangle */
  crossed: number[];
  /** arm of the first triangle's cross that it follows */
  arm: number;
  /** quads along it, about; left out where that is not known */
  length?: number;
}

/** Triangles a way may pass, and steps from where it comes near its start to the start's own triangle. */
const [LONGEST, NEARBY] = [2000, 12];
/** Quads round a finger or limb at most. */
export const LIMB = 32;
/** Quads that a way round passes at least; ways that begin within the second of one that did not come back do not either. */
const [SHORTEST, ALIKE] = [4, 3];

/**
 * Follows the crosses from triangle to triangle and keeps ways that close; short ones, round fingers and limbs, come first.
 * Of ways side by side one is enough.
 * @param size of a quad by triangle, in the mesh's unit
 * @param beside a way counts as closed that comes back beside its start by less than this, in quads
 * @param longest quads along a way after which it is given up; ways are looked for with one bound after the other
 */
export function closedRings(
  mesh: WorkingMesh,
  frames: Frames,
  cut: CutMesh,
  size: (t: number) => number,
  beside: number,
  // a way from elsewhere may wind round a limb and not come back to where it began: limbs are looked at on their own
  longest: readonly number[] = [LIMB, Infinity]
): Ring[] {
  const walker = new RingWalker(mesh, frames, cut);
  const rings: Ring[] = [];
  for (const most of longest) {
    const passed = new Uint8Array(2 * mesh.triangles);
    for (let t = 0; t < mesh.triangles; t++)
      for (const arm of [0, 1]) {
        if (passed[2 * t + arm]) continue;
        passed[2 * t + arm] = 1;
        const ring = walker.ringFrom(t, arm, size(t), beside, most);
        if (ring) rings.push(ring);
        // ways through the same triangles would go the same
        const alike = ring || most === Infinity ? walker.passed : walker.passed.slice(0, walker.near);
        for (const own of alike) passed[own] = 1;
      }
  }
  return rings.sort((a, b) => a.crossed.length - b.crossed.length);
}

/**
 * Tells of ways along edges whether quads close in a loop between their ends: round a finger, say.
 * @param size of a quad, in the mesh's unit
 * @param longest quads along such a loop
 */
export function loopsBetween(
  mesh: WorkingMesh,
  frames: Frames,
  crosses: Crosses,
  size: number,
  longest: number
): (way: readonly number[]) => boolean {
  const walker = new RingWalker(mesh, frames, crosses);
  const edgeOf = (h: number) => Math.max(h, mesh.opposite[h]);
  return (way) => {
    const onWay = new Set(way.map(edgeOf));
    const parts = (ring: Ring) => ring.crossed.filter((h) => onWay.has(edgeOf(h))).length % 2 === 1;
    return way.some((h) =>
      [0, 1].some((arm) => {
        const ring = walker.ringFrom(Math.floor(h / 3), arm, size, 1, longest);
        return ring !== undefined && parts(ring);
      })
    );
  };
}

class RingWalker {
  /** triangles of the last way, twice each, and 1 more where it followed arm 1 or 3 there */
  readonly passed: number[] = [];
  /** how many of these lie near its beginning */
  near = 0;
  private readonly walker: CrossWalker;

  constructor(
    private readonly mesh: WorkingMesh,
    frames: Frames,
    private readonly crosses: Crosses
  ) {
    this.walker = new CrossWalker(mesh, frames, crosses);
  }

  /** @param longest quads after which it is given up */
  ringFrom(seed: number, arm: number, size: number, beside: number, longest: number): Ring | undefined {
    const { mesh, walker } = this;
    const start = walker.beginIn(seed);
    const crossed: number[] = [];
    this.passed.length = 0;
    walker.direction(seed, arm);
    const setOut = walker.way.slice();
    const { at, way } = walker;
    let [t, own, entered, walked, away] = [seed, arm, -1, 0, false];
    let [beforeX, beforeY, beforeZ] = start;
    this.near = 0;
    while (crossed.length < LONGEST && walked < longest * size) {
      const h = walker.leave(t, own, entered);
      if (h < 0 || mesh.opposite[h] < 0) return undefined;
      crossed.push(h);
      own = mod4(own - this.crosses.jump[h]);
      entered = mesh.opposite[h];
      t = Math.floor(entered / 3);
      this.passed.push(2 * t + (own & 1));
      walked += Math.sqrt((at[0] - beforeX) ** 2 + (at[1] - beforeY) ** 2 + (at[2] - beforeZ) ** 2);
      beforeX = at[0];
      beforeY = at[1];
      beforeZ = at[2];
      const x = start[0] - at[0];
      const y = start[1] - at[1];
      const z = start[2] - at[2];
      const far = Math.sqrt(x * x + y * y + z * z);
      if (walked < ALIKE * size) this.near = this.passed.length;
      // a way round a finger is never far from its start, but turns back
      if (far > 2 * size || way[0] * setOut[0] + way[1] * setOut[1] + way[2] * setOut[2] < 0) away = true;
      if (!away || far > (beside + 0.5) * size) continue;
      walker.direction(t, own);
      const along = x * way[0] + y * way[1] + z * way[2];
      if (Math.abs(along) > size || Math.sqrt(Math.max(0, far * far - along * along)) > beside * size) continue;
      const last = this.shortWay(t, own, seed, arm);
      // it would be no better twice round
      if (last && walked < SHORTEST * size) return undefined;
      if (last) return { crossed: [...crossed, ...last], arm, length: walked / size };
    }
    return undefined;
  }

  /** Crossings from a triangle to another nearby, on which an arm becomes a wanted one. */
  private shortWay(from: number, arm: number, to: number, wanted: number): number[] | undefined {
    const { mesh, crosses } = this;
    const way = wayBetween(mesh, from, to, NEARBY, (h) => !mesh.feature[h]);
    return way && way.reduce((own, h) => mod4(own - crosses.jump[h]), arm) === wanted ? way : undefined;
  }
}
