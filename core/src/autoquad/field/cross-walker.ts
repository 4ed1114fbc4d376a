import { type Frames } from './curvature.ts';
import { type OrientationField } from './orientation-field.ts';
import { after, type WorkingMesh } from '../base/working-mesh.ts';

/** Crosses by triangle, and how they go on across edges. */
export type Crosses = Pick<OrientationField, 'theta' | 'jump'>;

/** Follows arms of the crosses straight through triangles. */
export class CrossWalker {
  /** the point reached, and the direction it is left in */
  readonly at = new Float64Array(3);
  readonly way = new Float64Array(3);
  /** directions of arms by triangle and arm, and where these are known: ways pass by the same triangles many times */
  private readonly ways: Float64Array;
  private readonly known: Uint8Array;
  /** by half-edge its outward normal in the triangle's plane, as long as the edge, and by triangle where these are known */
  private readonly outward: Float64Array;
  private readonly bounded: Uint8Array;

  constructor(
    private readonly mesh: WorkingMesh,
    private readonly frames: Frames,
    private readonly crosses: Crosses
  ) {
    this.ways = new Float64Array(12 * mesh.triangles);
    this.known = new Uint8Array(4 * mesh.triangles);
    this.outward = new Float64Array(9 * mesh.triangles);
    this.bounded = new Uint8Array(mesh.triangles);
  }

  /** Starts in the middle of a triangle. @returns that point */
  beginIn(t: number): number[] {
    const start = this.mesh.centre(t);
    this.at.set(start);
    return start;
  }

  /** Direction of an arm in space. */
  direction(t: number, arm: number): void {
    const { way, ways, known } = this;
    const own = 4 * t + arm;
    if (known[own] === 0) this.turnTo(t, arm);
    way[0] = ways[3 * own];
    way[1] = ways[3 * own + 1];
    way[2] = ways[3 * own + 2];
  }

  private turnTo(t: number, arm: number): void {
    const { axes } = this.frames;
    const own = 4 * t + arm;
    const angle = this.crosses.theta[t] + (arm * Math.PI) / 2;
    const c = Math.cos(angle);
    const s = Math.sin(angle);
    for (let k = 0; k < 3; k++) this.ways[3 * own + k] = c * axes[9 * t + k] + s * axes[9 * t + 3 + k];
    this.known[own] = 1;
  }

  private bound(t: number): void {
    const { mesh, frames, outward } = this;
    const { positions: p, corner } = mesh;
    const { axes } = frames;
    const nx = axes[9 * t + 6];
    const ny = axes[9 * t + 7];
    const nz = axes[9 * t + 8];
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const a = 3 * corner[h];
      const b = 3 * corner[after(h)];
      // edge x normal
      const x = p[b] - p[a];
      const y = p[b + 1] - p[a + 1];
      const z = p[b + 2] - p[a + 2];
      outward[3 * h] = y * nz - z * ny;
      outward[3 * h + 1] = z * nx - x * nz;
      outward[3 * h + 2] = x * ny - y * nx;
    }
    this.bounded[t] = 1;
  }

  /** Goes on straight to the border of a triangle. @returns the half-edge there; -1 where none is met squarely */
  leave(t: number, arm: number, entered: number): number {
    const { mesh, at, way, outward } = this;
    const { positions: p, corner } = mesh;
    this.direction(t, arm);
    if (this.bounded[t] === 0) this.bound(t);
    let best = -1;
    let nearest = Infinity;
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      if (h === entered) continue;
      const a = 3 * corner[h];
      const outX = outward[3 * h];
      const outY = outward[3 * h + 1];
      const outZ = outward[3 * h + 2];
      const speed = way[0] * outX + way[1] * outY + way[2] * outZ;
      if (speed <= 1e-12) continue;
      const time = ((p[a] - at[0]) * outX + (p[a + 1] - at[1]) * outY + (p[a + 2] - at[2]) * outZ) / speed;
      if (time < nearest) {
        nearest = time;
        best = h;
      }
    }
    if (best < 0) return -1;
    for (let k = 0; k < 3; k++) at[k] += Math.max(0, nearest) * way[k];
    return best;
  }
}
