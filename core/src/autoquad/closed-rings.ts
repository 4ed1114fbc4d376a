import { CrossWalker } from './cross-walker.ts';
import { type Frames } from './curvature.ts';
import { type CutMesh } from './cut-graph.ts';
import { mod4 } from './orientation-field.ts';
import { wayBetween } from './way-between.ts';
import { type WorkingMesh } from './working-mesh.ts';

/** A way round the surface along the crosses that comes back to where it began: quads along it are to close as well. */
export interface Ring {
  /** half-edges it leaves triangles by, in order, back to the first triangle */
  crossed: number[];
  /** arm of the first triangle's cross that it follows */
  arm: number;
}

/** Triangles a way may pass, and steps from where it comes near its start to the start's own triangle. */
const [LONGEST, NEARBY] = [2000, 4];

/**
 * Follows the crosses from triangle to triangle and keeps ways that close; short ones, round fingers and limbs, come first.
 * Of ways side by side one is enough.
 * @param size of a quad by triangle, in the mesh's unit
 * @param beside a way counts as closed that comes back beside its start by less than this, in quads
 */
export function closedRings(mesh: WorkingMesh, frames: Frames, cut: CutMesh, size: (t: number) => number, beside: number): Ring[] {
  const walker = new RingWalker(mesh, frames, cut);
  const passed = new Uint8Array(2 * mesh.triangles);
  const rings: Ring[] = [];
  for (let t = 0; t < mesh.triangles; t++)
    for (const arm of [0, 1]) {
      if (passed[2 * t + arm]) continue;
      passed[2 * t + arm] = 1;
      const ring = walker.ringFrom(t, arm, size(t), beside);
      if (ring) rings.push(ring);
      // ways through the same triangles would go the same
      for (const own of walker.passed) passed[own] = 1;
    }
  return rings.sort((a, b) => a.crossed.length - b.crossed.length);
}

class RingWalker {
  /** triangles of the last way, twice each, and 1 more where it followed arm 1 or 3 there */
  readonly passed: number[] = [];
  private readonly walker: CrossWalker;

  constructor(
    private readonly mesh: WorkingMesh,
    frames: Frames,
    private readonly cut: CutMesh
  ) {
    this.walker = new CrossWalker(mesh, frames, cut);
  }

  ringFrom(seed: number, arm: number, size: number, beside: number): Ring | undefined {
    const { mesh, walker } = this;
    const start = walker.beginIn(seed);
    const crossed: number[] = [];
    this.passed.length = 0;
    let [t, own, entered, away] = [seed, arm, -1, false];
    while (crossed.length < LONGEST) {
      const h = walker.leave(t, own, entered);
      if (h < 0 || mesh.opposite[h] < 0) return undefined;
      crossed.push(h);
      own = mod4(own - this.cut.jump[h]);
      entered = mesh.opposite[h];
      t = Math.floor(entered / 3);
      this.passed.push(2 * t + (own & 1));
      const { at, way } = walker;
      const [x, y, z] = [start[0] - at[0], start[1] - at[1], start[2] - at[2]];
      const far = Math.sqrt(x * x + y * y + z * z);
      if (far > 2 * size) away = true;
      if (!away || far > 1.5 * size) continue;
      walker.direction(t, own);
      const along = x * way[0] + y * way[1] + z * way[2];
      if (Math.abs(along) > size || Math.sqrt(Math.max(0, far * far - along * along)) > beside * size) continue;
      const last = this.shortWay(t, own, seed, arm);
      if (last) return { crossed: [...crossed, ...last], arm };
    }
    return undefined;
  }

  /** Crossings from a triangle to another nearby, on which an arm becomes a wanted one. */
  private shortWay(from: number, arm: number, to: number, wanted: number): number[] | undefined {
    const { mesh, cut } = this;
    const way = wayBetween(mesh, from, to, NEARBY, (h) => !mesh.feature[h]);
    return way && way.reduce((own, h) => mod4(own - cut.jump[h]), arm) === wanted ? way : undefined;
  }
}
