import {
  autoQuads,
  bringIn,
  Cage,
  deviation,
  layBeside,
  planPoles,
  Reference,
  deepestLevel,
  Subdivision,
  type AutoQuadsOptions,
  type AutoQuadsResult,
  type BringInOptions,
  type BroughtIn,
  type Deviation,
  type PlannedPole,
  type PolygonMesh,
  type SubdivisionOptions,
  type Triple
} from '@ulvrin/core';
import { expose, transfer } from 'comlink';
import { gunzipSync } from 'fflate';
import { readySolids } from '$lib/solids.ts';

type Tell = (phase: string, fraction: number) => void;

/** The arrays of a mesh, to hand them over instead of copying. */
function arraysOf(mesh: PolygonMesh): ArrayBuffer[] {
  return Object.values(mesh)
    .filter((v): v is Float64Array<ArrayBuffer> => ArrayBuffer.isView(v))
    .map((v) => v.buffer);
}

export interface LaidBesideMesh extends AutoQuadsResult {
  /** new faces by number */
  faces: number[];
}

export interface Deviations {
  vertices: Deviation;
  smooth: Deviation;
}

/** Points of a smooth surface that can be measured after every change. */
const MOST_MEASURED = 100_000;

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
  async autoQuads(mesh: PolygonMesh, options: AutoQuadsOptions, tell: Tell): Promise<AutoQuadsResult> {
    if (options.oneSkin) await readySolids();
    const result = autoQuads(mesh, options, { phase: tell });
    return transfer(result, arraysOf(result.mesh));
  },
  /** Quads over what a cage leaves bare; told are the numbers of the new faces too. */
  layBeside(surface: PolygonMesh, kept: PolygonMesh, options: AutoQuadsOptions, beside: Triple[] | undefined, tell: Tell): LaidBesideMesh {
    const { cage, faces, notes } = layBeside(surface, Cage.fromPolygons(kept), options, beside, { phase: tell });
    const { faceIds, vertexIds: _vertexIds, ...mesh } = cage.toPolygons();
    const numberOf = new Map(Array.from(faceIds, (f, i) => [f, i] as const));
    return transfer({ mesh, faces: faces.map((f) => numberOf.get(f)!), notes }, arraysOf(mesh));
  },
  /** Where poles will be, before quads are laid. */
  async planPoles(mesh: PolygonMesh, options: AutoQuadsOptions, tell: Tell): Promise<PlannedPole[]> {
    if (options.oneSkin) await readySolids();
    return planPoles(mesh, options, { phase: tell });
  },
  /** Keeps a reference for `deviations`. */
  setReference(mesh: PolygonMesh): void {
    reference = new Reference(mesh);
  },
  /** Distances of a cage's vertices and of its limit surface to the kept reference. */
  deviations(cage: PolygonMesh, options: Pick<SubdivisionOptions, 'scheme' | 'borderCorners' | 'plan'>): Deviations | undefined {
    if (!reference || cage.faceVertices.length === 0) return undefined;
    const levels = deepestLevel(cage.faceVertices.length / 4, MOST_MEASURED, Math.max(3, options.plan?.steps.length ?? 0), 1);
    const scheme = options.scheme === 'loop' && cage.faceVertices.length === 3 * (cage.faceStart.length - 1) ? 'loop' : 'catmull-clark';
    const surface = new Subdivision(cage, { ...options, scheme, levels, limit: true });
    return { vertices: deviation(reference, cage.positions), smooth: deviation(reference, surface.evaluate(cage.positions)) };
  }
};

export type Tasks = typeof tasks;
expose(tasks);
