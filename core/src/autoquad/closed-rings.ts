import { type Frames } from './curvature.ts';
import { type CutMesh } from './cut-graph.ts';
import { mod4 } from './orientation-field.ts';
import { after, type WorkingMesh } from './working-mesh.ts';

/** A way round the surface along the crosses that comes back to where it began: quads along it are to close as well. */
export interface Ring {
  /** half-edges it leaves triangles by, in order, back to the first triangle */
  crossed: number[];
  /** arm of the first triangle's cross that it follows */
  arm: number;
}

/** Triangles a way may pass, and steps from where it comes near its start to the start's own triangle. */
const [LONGEST, NEARBY] = [600, 4];

/**
 * Follows the crosses from triangle to triangle and keeps ways that close; short ones, round fingers and limbs, come first.
 * Of ways side by side one is enough.
 * @param size of a quad by triangle, in the mesh's unit
 * @param beside a way counts as closed that comes back beside its start by less than this, in quads
 */
export function closedRings(mesh: WorkingMesh, frames: Frames, cut: CutMesh, size: (t: number) => number, beside: number): Ring[] {
  const walker = new Walker(mesh, frames, cut);
  const passed = new Uint8Array(2 * mesh.triangles);
  const rings: Ring[] = [];
  for (let t = 0; t < mesh.triangles; t++)
    for (const arm of [0, 1]) {
      if (passed[2 * t + arm]) continue;
      passed[2 * t + arm] = 1;
      const ring = walker.ringFrom(t, arm, size(t), beside);
      if (ring) rings.push(ring);
      // ways through the same triangles would go the same
      for (const [s, a] of walker.passed) passed[2 * s + (a & 1)] = 1;
    }
  return rings.sort((a, b) => a.crossed.length - b.crossed.length);
}

class Walker {
  /** triangles of the last way, with the arm it followed there */
  passed: [number, number][] = [];
  /** the point reached, and the direction it is left in */
  private readonly at = new Float64Array(3);
  private readonly way = new Float64Array(3);

  constructor(
    private readonly mesh: WorkingMesh,
    private readonly frames: Frames,
    private readonly cut: CutMesh
  ) {}

  ringFrom(seed: number, arm: number, size: number, beside: number): Ring | undefined {
    const { mesh } = this;
    const start = [0, 1, 2].map((k) => [0, 1, 2].reduce((sum, c) => sum + mesh.positions[3 * mesh.corner[3 * seed + c] + k] / 3, 0));
    this.at.set(start);
    const crossed: number[] = [];
    this.passed = [];
    let [t, own, entered, away] = [seed, arm, -1, false];
    while (crossed.length < LONGEST) {
      const h = this.leave(t, own, entered);
      if (h < 0 || mesh.opposite[h] < 0) return undefined;
      crossed.push(h);
      own = mod4(own - this.cut.jump[h]);
      entered = mesh.opposite[h];
      t = Math.floor(entered / 3);
      this.passed.push([t, own]);
      const back = start.map((s, k) => s - this.at[k]);
      const far = Math.hypot(...back);
      if (far > 2 * size) away = true;
      if (!away || far > 1.5 * size) continue;
      this.direction(t, own);
      const along = back.reduce((sum, b, k) => sum + b * this.way[k], 0);
      if (Math.abs(along) > size || Math.sqrt(Math.max(0, far * far - along * along)) > beside * size) continue;
      const last = this.shortWay(t, own, seed, arm);
      if (last) return { crossed: [...crossed, ...last], arm };
    }
    return undefined;
  }

  /** Direction of an arm in space. */
  private direction(t: number, arm: number): void {
    const { axes } = this.frames;
    const angle = this.cut.theta[t] + (arm * Math.PI) / 2;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    for (let k = 0; k < 3; k++) this.way[k] = c * axes[9 * t + k] + s * axes[9 * t + 3 + k];
  }

  /** Goes on straight to the border of a triangle. @returns the half-edge there; -1 where none is met squarely */
  private leave(t: number, arm: number, entered: number): number {
    const { mesh, frames, at, way } = this;
    const p = mesh.positions;
    this.direction(t, arm);
    let [best, nearest] = [-1, Infinity];
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      if (h === entered) continue;
      const a = 3 * mesh.corner[h];
      const b = 3 * mesh.corner[after(h)];
      // outward normal of the edge in the triangle's plane: edge x normal
      let [gap, speed] = [0, 0];
      const e = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
      const n = 9 * t + 6;
      const { axes } = frames;
      const out = [e[1] * axes[n + 2] - e[2] * axes[n + 1], e[2] * axes[n] - e[0] * axes[n + 2], e[0] * axes[n + 1] - e[1] * axes[n]];
      for (let k = 0; k < 3; k++) {
        gap += (p[a + k] - at[k]) * out[k];
        speed += way[k] * out[k];
      }
      if (speed <= 1e-12) continue;
      const time = gap / speed;
      if (time < nearest) [nearest, best] = [time, h];
    }
    if (best < 0) return -1;
    for (let k = 0; k < 3; k++) at[k] += Math.max(0, nearest) * way[k];
    return best;
  }

  /** Crossings from a triangle to another nearby, on which an arm becomes a wanted one. */
  private shortWay(from: number, arm: number, to: number, wanted: number): number[] | undefined {
    const { mesh, cut } = this;
    let front = [{ t: from, arm, way: [] as number[] }];
    const seen = new Set([from]);
    for (let depth = 0; depth <= NEARBY; depth++) {
      const next: typeof front = [];
      for (const { t, arm: own, way } of front) {
        if (t === to) return own === wanted ? way : undefined;
        for (let h = 3 * t; h < 3 * t + 3; h++) {
          const g = mesh.opposite[h];
          if (g < 0 || mesh.feature[h] || seen.has(Math.floor(g / 3))) continue;
          seen.add(Math.floor(g / 3));
          next.push({ t: Math.floor(g / 3), arm: mod4(own - cut.jump[h]), way: [...way, h] });
        }
      }
      front = next;
    }
    return undefined;
  }
}
