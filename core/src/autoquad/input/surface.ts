import { type TriangleBvh } from '../../reference/triangle-bvh.ts';
import { bordersOf } from '../base/mesh-pieces.ts';
import { type AutoQuadsOptions, countOff, wantedSize, type SizeDab, type Guide } from '../base/options.ts';
import { type Topology, type FeatureLines } from '../base/quad-list.ts';
import { type StepStore } from '../base/step-store.ts';
import { guideOnThisSide, onThisSide, sizeShare } from '../base/strokes.ts';
import { WorkingMesh } from '../base/working-mesh.ts';

/** A surface that is laid, whole or on one side of its mirrors. */
export interface LaidPart {
  dense: WorkingMesh;
  bvh: TriangleBvh;
  normals: Float64Array;
  lines: FeatureLines;
  topology: Topology;
  /** mm2 */
  area: number;
}

/** What all attempts share: the surface, and what is asked of it. */
export class Surface implements LaidPart {
  readonly dense: WorkingMesh;
  readonly bvh: TriangleBvh;
  readonly normals: Float64Array;
  readonly lines: FeatureLines;
  readonly topology: Topology;
  readonly area: number;
  /** quad edge length where no dab says otherwise */
  readonly size: number;
  readonly dabs: readonly SizeDab[];
  readonly guides: readonly Guide[];
  /** how large quads are to be at a place, against `size`; nothing where all are to be equal */
  readonly shareAt?: (x: number, y: number, z: number) => number;

  /**
   * @param target quads, in the middle of a range
   * @param from what the surface was made from, for what is kept of its steps
   */
  constructor(
    part: LaidPart,
    readonly options: AutoQuadsOptions,
    readonly target: number,
    readonly kept: StepStore,
    readonly from: readonly unknown[]
  ) {
    const { dense, area } = part;
    this.dense = dense;
    this.bvh = part.bvh;
    this.normals = part.normals;
    this.lines = part.lines;
    this.topology = part.topology;
    this.area = area;
    const { mirrors } = dense;
    this.dabs = (options.sizes ?? []).map((dab) => ({ ...dab, at: onThisSide(dab.at, mirrors) }));
    if (this.dabs.length > 0) this.shareAt = (x, y, z) => sizeShare(this.dabs, x, y, z);
    const inSizes = this.shareAt ? sumOver(dense, (t) => dense.area(t) / this.shareOf(dense, t) ** 2) : area;
    this.size = options.edgeSizes ? wantedSize(options, 1).size : Math.sqrt(inSizes / target);
    const { size } = this;
    this.guides = (options.guides ?? []).map((guide) => guideOnThisSide(guide, mirrors, size));
  }

  /** By what share a count of quads on it is beyond those asked for. */
  countOff(count: number): number {
    return countOff(this.options, this.target, count);
  }

  /** How large quads are to be in the middle of a triangle, against `size`. */
  shareOf = (mesh: WorkingMesh, t: number): number => this.shareAt?.(...mesh.centre(t)) ?? 1;
}

/** Sum of something over all triangles. */
export function sumOver(mesh: WorkingMesh, of: (t: number) => number): number {
  let sum = 0;
  for (let t = 0; t < mesh.triangles; t++) sum += of(t);
  return sum;
}

export function topologyOf(mesh: WorkingMesh): Topology {
  let edges = 0;
  for (let h = 0; h < 3 * mesh.triangles; h++) if (mesh.opposite[h] < h) edges++;
  let used = 0;
  for (let v = 0; v < mesh.vertices; v++) if (mesh.outgoing[v] >= 0) used++;
  return { euler: used - edges + mesh.triangles, borders: bordersOf(mesh).length };
}
