import { type Frames } from './curvature.ts';
import { type OrientationField } from './orientation-field.ts';
import { after, type WorkingMesh } from './working-mesh.ts';

/** Crosses by triangle, and how they go on across edges. */
export type Crosses = Pick<OrientationField, 'theta' | 'jump'>;

/** Follows arms of the crosses straight through triangles. */
export class CrossWalker {
  /** the point reached, and the direction it is left in */
  readonly at = new Float64Array(3);
  readonly way = new Float64Array(3);

  constructor(
    private readonly mesh: WorkingMesh,
    private readonly frames: Frames,
    private readonly crosses: Crosses
  ) {}

  /** Starts in the middle of a triangle. @returns that point */
  beginIn(t: number): number[] {
    const start = this.mesh.centre(t);
    this.at.set(start);
    return start;
  }

  /** Direction of an arm in space. */
  direction(t: number, arm: number): void {
    const { axes } = this.frames;
    const angle = this.crosses.theta[t] + (arm * Math.PI) / 2;
    const c = Math.cos(angle);
    const s = Math.sin(angle);
    for (let k = 0; k < 3; k++) this.way[k] = c * axes[9 * t + k] + s * axes[9 * t + 3 + k];
  }

  /** Goes on straight to the border of a triangle. @returns the half-edge there; -1 where none is met squarely */
  leave(t: number, arm: number, entered: number): number {
    const { mesh, frames, at, way } = this;
    const p = mesh.positions;
    this.direction(t, arm);
    const { axes } = frames;
    const nx = axes[9 * t + 6];
    const ny = axes[9 * t + 7];
    const nz = axes[9 * t + 8];
    let best = -1;
    let nearest = Infinity;
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      if (h === entered) continue;
      const a = 3 * mesh.corner[h];
      const b = 3 * mesh.corner[after(h)];
      // outward normal of the edge in the triangle's plane: edge x normal
      const x = p[b] - p[a];
      const y = p[b + 1] - p[a + 1];
      const z = p[b + 2] - p[a + 2];
      const outX = y * nz - z * ny;
      const outY = z * nx - x * nz;
      const outZ = x * ny - y * nx;
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
