import Joi from 'joi';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';

/** Kinds of arrays an entry may have. */
export const ARRAYS = { Float64Array, Int32Array } as const;
export type ArrayType = keyof typeof ARRAYS;

/** Where an array lies in a part of bytes; offsets are multiples of 8. */
export interface ArrayPlace {
  type: ArrayType;
  offset: number;
  length: number;
}

const ids = Joi.array().items(Joi.number().integer().min(0)).required();
export const arrayPlaceSchema = Joi.object({
  type: Joi.string().valid('Float64Array', 'Int32Array').required(),
  offset: Joi.number().integer().min(0).required(),
  length: Joi.number().integer().min(0).required()
});
const of = (type: ArrayType) => arrayPlaceSchema.keys({ type: Joi.string().valid(type).required() });
const reals = of('Float64Array');
const wholes = of('Int32Array');
const places = Joi.object({ vertices: reals.required(), edges: reals.required(), faces: reals.required() });

/** An entry as a job file has it, its arrays told by their places. */
export const entrySchema = Joi.object({
  id: Joi.number().integer().min(1).required(),
  operation: Joi.string().max(60).required(),
  part: Joi.string().max(100).required(),
  params: Joi.object().required(),
  selection: Joi.object({ vertices: ids, edges: ids, faces: ids }).required(),
  places,
  paramPlaces: places,
  topology: Joi.number().integer().min(0),
  makes: Joi.object({
    name: Joi.string().max(200).required(),
    kind: Joi.string().valid('reference', 'cage').required(),
    scheme: Joi.string().valid('catmull-clark', 'loop'),
    borderCorners: Joi.string().valid('sharp', 'rounded')
  }),
  cast: Joi.object({
    positions: reals.required(),
    faceStart: wholes.required(),
    faceVertices: wholes.required(),
    faceRegion: wholes,
    regionNames: Joi.array().items(Joi.string().allow('')),
    vertexColour: reals,
    cornerUv: reals,
    creaseEdges: wholes,
    creaseSharpness: reals,
    cornerVertices: wholes,
    cornerSharpness: reals,
    // numbers of a cage that were once kept with it
    vertexIds: wholes,
    faceIds: wholes
  }),
  seam: wholes,
  result: Joi.object({
    arrays: Joi.object()
      .pattern(/^(layer\.)?[a-zA-Z]{1,30}$/, Joi.alternatives(reals, wholes))
      .required(),
    regionNames: Joi.array().items(Joi.string().allow('')).required()
  }),
  name: Joi.string().max(200),
  note: Joi.string().max(4000),
  group: Joi.string().max(200),
  disabled: Joi.boolean().valid(true),
  notes: Joi.array().items(Joi.string().allow('')).required(),
  problem: Joi.string(),
  at: Joi.string().isoDate().required()
});

/**
 * What is wrong with a stored mesh, to stand after its name; nothing where all is well. Indices that point where nothing is,
 * or layers that are too short, would fail much later and far away.
 */
export function checkCast(mesh: PolygonMesh): string | undefined {
  const vertices = mesh.positions.length / 3;
  const { faceStart, faceVertices } = mesh;
  const faces = faceStart.length - 1;
  if (!Number.isInteger(vertices)) return 'has positions that are not in threes';
  if (faces < 0 || faceStart[0] !== 0 || faceStart[faces] !== faceVertices.length) return 'has faces that do not fit its corners';
  for (let f = 0; f < faces; f++) if (faceStart[f + 1] < faceStart[f] + 3) return `has a face ${f} of fewer than three corners`;
  for (const v of faceVertices) if (v < 0 || v >= vertices) return `uses vertex ${v} of ${vertices}`;
  for (const x of mesh.positions) if (!(Math.abs(x) <= 1e9)) return 'has a coordinate that is not finite, or beyond 1e9 mm';
  return checkLayers(mesh, vertices, faces);
}

function checkLayers(mesh: PolygonMesh, vertices: number, faces: number): string | undefined {
  const { faceRegion, regionNames = [], vertexColour, cornerUv, creaseEdges, creaseSharpness, cornerVertices, cornerSharpness } = mesh;
  if (faceRegion && faceRegion.length !== faces) return 'has regions for another number of faces';
  if (faceRegion?.some((r) => r < 0 || (regionNames.length > 0 && r >= regionNames.length))) return 'has a face in a region that does not exist';
  if (vertexColour && vertexColour.length !== 3 * vertices) return 'has colours for another number of vertices';
  if (cornerUv && cornerUv.length !== 2 * mesh.faceVertices.length) return 'has texture coordinates for another number of corners';
  if ((creaseEdges?.length ?? 0) !== 2 * (creaseSharpness?.length ?? 0)) return 'has creases without sharpness';
  if ((cornerVertices?.length ?? 0) !== (cornerSharpness?.length ?? 0)) return 'has corners without sharpness';
  for (const list of [creaseEdges, cornerVertices])
    if (list?.some((v) => v < 0 || v >= vertices)) return 'has a crease or corner at a vertex that does not exist';
  for (const list of [creaseSharpness, cornerSharpness]) if (list?.some((s) => !(s >= 0 && s <= 1e6))) return 'has a sharpness that is out of range';
  return undefined;
}

/** What is wrong with the pairs of a stored result that joins a cage; nothing where all is well. */
export function checkSeam(cast: PolygonMesh, seam: Int32Array | undefined): string | undefined {
  if (!seam) return undefined;
  if (seam.length % 2 !== 0) return 'joins at vertices that are not in pairs';
  for (let i = 0; i < seam.length; i += 2)
    if (seam[i] < 0 || 3 * seam[i] >= cast.positions.length || seam[i + 1] < 0) return 'joins at a vertex that does not exist';
  return undefined;
}
