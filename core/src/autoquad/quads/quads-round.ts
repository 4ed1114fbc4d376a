import { quadsAtVertices, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { quadShape } from '../../numeric/quad-shape.ts';
import { type MirroredPlaces } from '../symmetry/mirrored-places.ts';

/** Cosine of the angle by which a quad must not turn when one of its vertices moves. */
const TURNED = 0.5;

/** Looks at the quads round one vertex before it moves, and at what becomes of them where it is put. */
export class QuadsRound {
  /** numbers of the quads at each vertex */
  readonly at: number[][];
  /** how many times vertices have moved */
  moves = 0;
  /** by quad of the vertex looked at its shape before */
  private readonly shapes: Float64Array;
  /** unit normals of these before, and of one now */
  private readonly before: Float64Array;
  private readonly own = new Float64Array(3);
  /** by quad, how many times vertices had moved when one of its own did last */
  private readonly changed: Int32Array;
  /** vertices that have moved, 1 by vertex for those among them */
  private moved: number[] = [];
  private readonly isMoved: Uint8Array;

  /**
   * @param mesh quads, whose positions may change
   * @param mirrored its vertices, where some are images of others
   */
  constructor(
    private readonly mesh: PolygonMesh,
    private readonly mirrored?: MirroredPlaces
  ) {
    this.at = quadsAtVertices(mesh.faceVertices, mesh.positions.length / 3);
    this.changed = new Int32Array(mesh.faceVertices.length / 4);
    this.isMoved = new Uint8Array(this.at.length);
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

  /** Puts a vertex somewhere, and its images to where they belong. */
  put(v: number, x: number, y: number, z: number): void {
    const { positions } = this.mesh;
    positions[3 * v] = x;
    positions[3 * v + 1] = y;
    positions[3 * v + 2] = z;
    this.mirrored?.settle(v);
  }

  /** Shape of quad i at the vertex that was looked at, where that is now; -Infinity where the quad has turned. */
  shapeNow(v: number, i: number): number {
    const { own, before } = this;
    const shape = quadShape(this.mesh.positions, this.mesh.faceVertices, 4 * this.at[v][i], own);
    return own[0] * before[3 * i] + own[1] * before[3 * i + 1] + own[2] * before[3 * i + 2] > TURNED ? shape : -Infinity;
  }

  /** Says that a vertex stays where it has been put. */
  keep(v: number): void {
    this.moves++;
    if (this.mirrored) for (const own of this.mirrored.settle(v)) this.tell(own);
    else this.tell(v);
  }

  private tell(v: number): void {
    if (this.isMoved[v] === 0) this.moved.push(v);
    this.isMoved[v] = 1;
    for (const q of this.at[v]) this.changed[q] = this.moves;
  }

  /** How many times vertices had moved when a quad at this one changed last. */
  lastChange(v: number): number {
    let last = 0;
    for (const q of this.at[v]) last = Math.max(last, this.changed[q]);
    return last;
  }

  /** Vertices that have been kept elsewhere since this was asked last. */
  takeMoved(): number[] {
    const { moved } = this;
    for (const v of moved) this.isMoved[v] = 0;
    this.moved = [];
    return moved;
  }
}
