import {
  autoQuads,
  bringIn,
  Reference,
  type AutoQuadsOptions,
  type AutoQuadsResult,
  type BringInOptions,
  type BroughtIn,
  type PolygonMesh
} from '@ulvrin/core';
import { expose, transfer } from 'comlink';
import { gunzipSync } from 'fflate';

type Tell = (phase: string, fraction: number) => void;

/** The arrays of a mesh, to hand them over instead of copying. */
function arraysOf(mesh: PolygonMesh): ArrayBuffer[] {
  return Object.values(mesh)
    .filter((v): v is Float64Array<ArrayBuffer> => ArrayBuffer.isView(v))
    .map((v) => v.buffer);
}

let reference: Reference | undefined;

/** What runs off the page's own thread; each is a function of the core. */
const tasks = {
  bringIn(bytes: Uint8Array, fileName: string, options: BringInOptions, tell: Tell): BroughtIn {
    tell('Reading', 0);
    const packed = /\.gz$/i.test(fileName);
    const result = bringIn(packed ? gunzipSync(bytes) : bytes, fileName.replace(/\.gz$/i, ''), options, (fraction) =>
      tell(fraction < 0.6 ? 'Reading' : fraction < 0.8 ? 'Repairing' : 'Checking', fraction)
    );
    return transfer(result, arraysOf(result.mesh));
  },
  autoQuads(mesh: PolygonMesh, options: AutoQuadsOptions, tell: Tell): AutoQuadsResult {
    const result = autoQuads(mesh, options, { phase: tell });
    return transfer(result, arraysOf(result.mesh));
  },
  /** Keeps a reference for `distances`. */
  setReference(mesh: PolygonMesh): void {
    reference = new Reference(mesh);
  },
  distances(points: Float64Array): Float64Array {
    return reference ? reference.distances(points) : new Float64Array(0);
  }
};

export type Tasks = typeof tasks;
expose(tasks);
