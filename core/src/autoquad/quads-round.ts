import { quadsAtVertices, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { quadShape } from '../numeric/quad-shape.ts';

/** Cosine of the angle by which a quad must not turn when one of its vertices moves. */
const TURNED = 0.5;

/** Looks at the quads round one vertex before it moves, and at what becomes of them where it is put. */
export class QuadsRound {
  /** numbers of the quads at each vertex */
  readonly at: number[][];
  /** by quad of the vertex looked at its shape before */
  private readonly shapes: Float64Array;
  /** unit normals of these before, and of one now */
  private readonly before: Float64Array;
  private readonly own = new Float64Array(3);

  /** @param mesh quads, whose positions may change */
  constructor(private readonly mesh: PolygonMesh) {
    this.at = quadsAtVertices(mesh.faceVertices, mesh.positions.length / 3);
    const most = this.at.reduce((count, quads) => Math.max(count, quads.length), 0);
    this.shapes = new Float64Array(most);
    this.before = new Float64Array(3 * most);
  }

  /** @returns shapes of the quads at a vertex, and their unit normals, as they are: they hold until another vertex is looked at */
  lookAt(v: number): { shapes: Float64Array; normals: Float64Array } {
    const { positions, faceVertices } = this.mesh;
    const count = this.at[v].length;
    for (let i = 0; i < count; i++) {
      this.shapes[i] = quadShape(positions, faceVertices, 4 * this.at[v][i], this.own);
      this.before.set(this.own, 3 * i);
    }
    return { shapes: this.shapes.subarray(0, count), normals: this.before.subarray(0, 3 * count) };
  }

  /** Shape of quad i at the vertex that was looked at, where that is now; -Infinity where the quad has turned. */
  shapeNow(v: number, i: number): number {
    const { own, before } = this;
    const shape = quadShape(this.mesh.positions, this.mesh.faceVertices, 4 * this.at[v][i], own);
    return own[0] * before[3 * i] + own[1] * before[3 * i + 1] + own[2] * before[3 * i + 2] > TURNED ? shape : -Infinity;
  }
}
