import Joi from 'joi';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';

/** Thrown where bytes hold no mesh; the message says what is wrong with them. */
export class MeshBodyError extends Error {}

const ARRAYS = {
  positions: Float64Array,
  creaseSharpness: Float64Array,
  cornerSharpness: Float64Array,
  faceStart: Int32Array,
  faceVertices: Int32Array,
  faceRegion: Int32Array,
  creaseEdges: Int32Array,
  cornerVertices: Int32Array
} as const;
type ArrayName = keyof typeof ARRAYS;
const names = Object.keys(ARRAYS) as ArrayName[];

/** Bytes that the JSON in front may have: quads that stay are in it as text. */
const MOST_HEADER = 2 ** 27;

const count = Joi.number()
  .integer()
  .min(0)
  .max(2 ** 31);
const headerSchema = Joi.object({
  extra: Joi.object().unknown(true).required(),
  counts: Joi.object({ positions: count.required(), faceStart: count.min(1).required(), faceVertices: count.required() })
    .pattern(Joi.string().valid(...names), count)
    .required()
});

/**
 * A mesh and some settings as bytes: the length of a JSON header (four bytes, little-endian), the header with the settings and
 * the number of values of each array, and the arrays, each from a multiple of eight bytes on.
 */
export function encodeMesh(mesh: PolygonMesh, extra: object): Uint8Array {
  const present = names.filter((name) => mesh[name] !== undefined);
  const header = new TextEncoder().encode(JSON.stringify({ extra, counts: Object.fromEntries(present.map((name) => [name, mesh[name]!.length])) }));
  const start = rounded(4 + header.length);
  const bytes = new Uint8Array(present.reduce((sum, name) => sum + rounded(mesh[name]!.byteLength), start));
  new DataView(bytes.buffer).setUint32(0, header.length, true);
  bytes.set(header, 4);
  let at = start;
  for (const name of present) {
    const array = mesh[name]!;
    bytes.set(new Uint8Array(array.buffer, array.byteOffset, array.byteLength), at);
    at += rounded(array.byteLength);
  }
  return bytes;
}

/** @throws MeshBodyError where the bytes are cut short, name arrays that do not fit together, or faces with vertices there are none of */
export function decodeMesh(bytes: Uint8Array): { mesh: PolygonMesh; extra: Record<string, unknown> } {
  const { header, start } = headerOf(bytes);
  const whole = bytes.slice().buffer;
  const mesh: Partial<Record<ArrayName, Float64Array | Int32Array>> = {};
  let at = start;
  for (const name of names) {
    const length = header.counts[name];
    if (length === undefined) continue;
    const Kind = ARRAYS[name];
    if (at + length * Kind.BYTES_PER_ELEMENT > whole.byteLength) throw new MeshBodyError(`The body ends within ${name}.`);
    mesh[name] = new Kind(whole, at, length);
    at += rounded(length * Kind.BYTES_PER_ELEMENT);
  }
  const decoded = mesh as unknown as PolygonMesh;
  refuseUnfit(decoded);
  return { mesh: decoded, extra: header.extra };
}

const rounded = (bytes: number): number => 8 * Math.ceil(bytes / 8);

function headerOf(bytes: Uint8Array): { header: { extra: Record<string, unknown>; counts: Partial<Record<ArrayName, number>> }; start: number } {
  if (bytes.length < 4) throw new MeshBodyError('The body holds no mesh.');
  const long = new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true);
  if (long > MOST_HEADER) throw new MeshBodyError('The header is too long.');
  if (4 + long > bytes.length) throw new MeshBodyError('The body ends within its header.');
  let json: unknown;
  try {
    json = JSON.parse(new TextDecoder().decode(bytes.subarray(4, 4 + long)));
  } catch {
    throw new MeshBodyError('The header is no JSON.');
  }
  const { error, value } = headerSchema.validate(json);
  if (error) throw new MeshBodyError(`The header does not describe a mesh: ${error.message}.`);
  return { header: value as ReturnType<typeof headerOf>['header'], start: rounded(4 + long) };
}

function refuseUnfit({ positions, faceStart, faceVertices, creaseEdges, creaseSharpness, faceRegion }: PolygonMesh): void {
  const vertices = positions.length / 3;
  if (!Number.isInteger(vertices)) throw new MeshBodyError('Positions are three numbers a vertex.');
  if (faceStart[0] !== 0 || faceStart[faceStart.length - 1] !== faceVertices.length || faceStart.some((s, f) => f > 0 && s - faceStart[f - 1] < 3))
    throw new MeshBodyError('Faces have at least three corners each, and all corners belong to one.');
  if (positions.some((x) => !(Math.abs(x) <= 1e9))) throw new MeshBodyError('A coordinate is no number, or beyond 1e9 mm.');
  for (const list of [faceVertices, creaseEdges])
    if (list?.some((v) => v < 0 || v >= vertices)) throw new MeshBodyError('A face or crease names a vertex that does not exist.');
  if ((creaseEdges?.length ?? 0) !== 2 * (creaseSharpness?.length ?? 0)) throw new MeshBodyError('Each crease has two vertices and one sharpness.');
  if (faceRegion && faceRegion.length !== faceStart.length - 1) throw new MeshBodyError('Each face has one region.');
}
