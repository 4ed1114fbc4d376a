import { strFromU8, strToU8 } from 'fflate';
import Joi from 'joi';
import { autoQuads, type AutoQuadsResult } from '../../autoquad/auto-quads.ts';
import { type AutoQuadsOptions } from '../../autoquad/base/options.ts';
import { StepStore } from '../../autoquad/base/step-store.ts';
import { layBeside } from '../../autoquad/beside/lay-beside.ts';
import { Cage } from '../../mesh/cage.ts';
import { numberEdges } from '../../mesh/number-edges.ts';
import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { decodeMesh, encodeMesh, MeshBodyError } from '../../task/mesh-body.ts';
import { type Shown, silent, type TaskReport } from '../../task/steps.ts';
import { validParams } from '../apply.ts';
import { type Params } from '../operation.ts';
import { autoQuadsOperation, autoQuadsOptions } from './lay-quads.ts';

/** Quads that stay while others are laid beside them. */
export interface KeptQuads {
  kept: PolygonMesh;
  /** places near which bare surface is covered; left out: all of it */
  middles?: Triple[];
}

/** What is laid: quads over a surface, or over what other quads leave bare of it. */
export interface LayTask {
  surface: PolygonMesh;
  options: AutoQuadsOptions;
  beside?: KeptQuads;
}

/** Quads that were laid, and how they lie beside those that stay. */
export interface Laid extends Pick<AutoQuadsResult, 'mesh' | 'notes'>, Partial<Pick<AutoQuadsResult, 'way'>> {
  /** beside quads that stay, the new faces by number */
  faces?: number[];
  /** beside quads that stay, by vertex which of theirs it is, or -1 */
  keptVertices?: number[];
  /** quads that were to stay, but went with the others, by their number */
  goneFaces?: number[];
}

/**
 * The one function that lays quads, in a worker of the page or a thread of the server.
 * @throws AutoQuadsError
 */
export function lay({ surface, options, beside }: LayTask, report: TaskReport = silent, store = new StepStore()): Laid {
  if (!beside) return autoQuads(surface, options, report, store);
  const { cage, notes } = layBeside(surface, Cage.fromPolygons(beside.kept), options, beside.middles, report);
  const { faceIds, vertexIds, ...mesh } = cage.toPolygons();
  return { mesh, ...againstKept(beside.kept, cage, vertexIds, faceIds), notes };
}

/** Which vertices and faces of a cage that grew out of others are those still, and which are new. */
function againstKept(
  kept: PolygonMesh,
  cage: Cage,
  vertexIds: Int32Array,
  faceIds: Int32Array
): Required<Pick<Laid, 'faces' | 'keptVertices' | 'goneFaces'>> {
  // ids of the kept ones are their numbers; a slot that was freed and used again lies elsewhere
  const stays = (v: number) => 3 * v < kept.positions.length && [0, 1, 2].every((k) => kept.positions[3 * v + k] === cage.positions[3 * v + k]);
  const isKept = (f: number) => {
    if (f + 1 >= kept.faceStart.length) return false;
    const before = kept.faceVertices.subarray(kept.faceStart[f], kept.faceStart[f + 1]);
    const now = cage.faceVertices(f);
    const turn = now.indexOf(before[0]);
    return now.length === before.length && now.every((v, i) => stays(v) && now[(i + turn) % now.length] === before[i]);
  };
  const keptFaces = new Set(faceIds.filter(isKept));
  return {
    faces: Array.from(faceIds.keys()).filter((i) => !keptFaces.has(faceIds[i])),
    keptVertices: Array.from(vertexIds, (v) => (stays(v) ? v : -1)),
    goneFaces: Array.from({ length: kept.faceStart.length - 1 }, (_, f) => f).filter((f) => !keptFaces.has(f))
  };
}

const number = Joi.number().required();
/** Places that a task may name; one a face that is laid again. */
const MOST_MIDDLES = 500_000;
const besideSchema = Joi.object({
  kept: Joi.string().base64().required(),
  middles: Joi.array()
    .max(MOST_MIDDLES)
    .items(Joi.array().ordered(number, number, number).length(3))
});

/** A task as bytes: the surface as `encodeMesh` writes it, with the operation's parameters, and what stays as base64, as settings. */
export function encodeLayTask(surface: PolygonMesh, params: Params, beside?: KeptQuads): Uint8Array {
  return encodeMesh(surface, beside ? { ...params, beside: { kept: base64Of(encodeMesh(beside.kept, {})), middles: beside.middles } } : params);
}

/** @throws MeshBodyError, InvalidParams; meshes with an edge of three faces are refused before anything is made of them */
export function decodeLayTask(bytes: Uint8Array): LayTask {
  const { mesh: surface, extra } = decodeMesh(bytes);
  refuseNonManifold(surface);
  const { beside, ...params } = extra;
  const options = autoQuadsOptions(validParams(autoQuadsOperation, params as Params));
  if (beside === undefined) return { surface, options };
  const { error, value } = besideSchema.validate(beside);
  if (error) throw new MeshBodyError(`The quads that stay are not described: ${error.message}.`);
  const { kept, middles } = value as { kept: string; middles?: Triple[] };
  const { mesh } = decodeMesh(bytesOf(kept));
  refuseNonManifold(mesh);
  return { surface, options, beside: { kept: mesh, middles } };
}

/** Quads are laid over surfaces whose edges have at most two faces; bringing a file in makes them so. */
function refuseNonManifold(mesh: PolygonMesh): void {
  const { cornerEdge, edges } = numberEdges(mesh);
  const faces = new Uint8Array(edges);
  for (const e of cornerEdge)
    if (++faces[e] > 2) throw new MeshBodyError('An edge of the mesh has more than two faces: bring the file in first, which repairs it.');
}

/** What was laid, as a line of JSON. */
export interface LaidLine {
  /** the mesh as `encodeMesh` writes it, in base64 */
  result: string;
  notes: string[];
  faces?: number[];
}

/** Quads as a line of JSON, bit for bit. */
export const encodeLaid = ({ mesh, ...told }: Laid): LaidLine => ({ result: base64Of(encodeMesh(mesh, {})), ...told });
/** @throws MeshBodyError */
export const decodeLaid = ({ result, ...told }: LaidLine): Laid => ({ mesh: decodeMesh(bytesOf(result)).mesh, ...told });

/** What is told on the way, as a line of JSON: edges in base64. */
export interface ToldLine extends Omit<Shown, 'edges'> {
  phase: string;
  fraction: number;
  edges?: string;
}

/** A phase, how far all is (0 to 1), and what can be shown by then, as a line. */
export const encodeTold = (phase: string, fraction: number, { edges, ...shown }: Shown = {}): ToldLine => ({
  phase,
  fraction,
  ...shown,
  edges: edges && base64Of(new Uint8Array(edges.buffer, edges.byteOffset, edges.byteLength))
});

/** What a line tells. */
export const decodeTold = ({ phase: _phase, fraction: _fraction, edges, ...shown }: ToldLine): Shown => ({
  ...shown,
  edges: edges === undefined ? undefined : new Float32Array(bytesOf(edges).slice().buffer)
});

const base64Of = (bytes: Uint8Array): string => btoa(strFromU8(bytes, true));
const bytesOf = (text: string): Uint8Array => strToU8(atob(text), true);
