import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import Joi from 'joi';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { type Entry } from './logbook.ts';

/** Version written; newer files are refused. */
export const JOB_FILE_VERSION = 1;

/** A job as it goes into one file; see docs/job-file.md. */
export interface JobFile {
  name: string;
  cursor: number;
  entries: Entry[];
  /** view settings, kept as they are */
  view?: Record<string, unknown>;
  brief?: string;
}

/** A job file that is damaged, too new, or none at all; the message is a sentence. */
export class JobFileError extends Error {}

const ARRAYS = { Float64Array, Int32Array } as const;
type ArrayType = keyof typeof ARRAYS;
interface ArrayPlace {
  type: ArrayType;
  offset: number;
  length: number;
}

const numbers = Joi.array().items(Joi.number().integer().min(0)).required();
const arrayPlace = Joi.object({
  type: Joi.string().valid('Float64Array', 'Int32Array').required(),
  offset: Joi.number().integer().min(0).required(),
  length: Joi.number().integer().min(0).required()
});
const placed = Joi.object().pattern(Joi.string(), Joi.alternatives(arrayPlace, Joi.array().items(Joi.string())));

const entrySchema = Joi.object({
  id: Joi.number().integer().min(1).required(),
  operation: Joi.string().max(60).required(),
  part: Joi.string().max(100).required(),
  params: Joi.object().required(),
  selection: Joi.object({ vertices: numbers, edges: numbers, faces: numbers }).required(),
  places: placed,
  makes: Joi.object({
    name: Joi.string().max(200).required(),
    kind: Joi.string().valid('reference', 'cage').required(),
    scheme: Joi.string().valid('catmull-clark', 'loop'),
    borderCorners: Joi.string().valid('sharp', 'rounded')
  }),
  cast: placed.keys({ positions: arrayPlace.required(), faceStart: arrayPlace.required(), faceVertices: arrayPlace.required() }),
  notes: Joi.array().items(Joi.string()).required(),
  problem: Joi.string(),
  at: Joi.string().isoDate().required()
});

const manifestSchema = Joi.object({
  format: Joi.string().valid('ulvrin-job').required(),
  version: Joi.number().integer().min(1).required(),
  name: Joi.string().max(200).required(),
  cursor: Joi.number().integer().min(0).max(Joi.ref('entries.length')).required(),
  entries: Joi.array().items(entrySchema).required(),
  view: Joi.object(),
  brief: Joi.string().max(4000)
});

/** One file: a zip of `manifest.json` and `arrays.bin`, into which the manifest's arrays point. */
export function writeJobFile(job: JobFile): Uint8Array {
  const chunks: Uint8Array[] = [];
  let offset = 0;
  const place = (value: unknown): unknown => {
    if (!(value instanceof Float64Array) && !(value instanceof Int32Array)) return value;
    const type: ArrayType = value instanceof Float64Array ? 'Float64Array' : 'Int32Array';
    const bytes = new Uint8Array(value.buffer, value.byteOffset, value.byteLength);
    const at: ArrayPlace = { type, offset, length: value.length };
    chunks.push(bytes, new Uint8Array((8 - (bytes.length % 8)) % 8));
    offset += Math.ceil(bytes.length / 8) * 8;
    return at;
  };
  const placeAll = (record: object | undefined) =>
    record &&
    Object.fromEntries(
      Object.entries(record)
        .map(([k, v]) => [k, place(v)])
        .filter(([, v]) => v !== undefined)
    );
  const entries = job.entries.map((entry) => ({ ...entry, places: placeAll(entry.places), cast: placeAll(entry.cast) }));
  const manifest = { format: 'ulvrin-job', version: JOB_FILE_VERSION, name: job.name, cursor: job.cursor, entries, view: job.view, brief: job.brief };
  const arrays = new Uint8Array(offset);
  let at = 0;
  for (const chunk of chunks) {
    arrays.set(chunk, at);
    at += chunk.length;
  }
  return zipSync({ 'manifest.json': strToU8(JSON.stringify(manifest)), 'arrays.bin': arrays }, { level: 6 });
}

/** @throws JobFileError with a sentence; nothing is returned by halves */
export function readJobFile(bytes: Uint8Array): JobFile {
  const files = unpack(bytes);
  const manifest = parseManifest(files['manifest.json']);
  const arrays = files['arrays.bin'];
  const fetch = (where: string, { type, offset, length }: ArrayPlace) => {
    const Kind = ARRAYS[type];
    if (offset % 8 !== 0 || offset + length * Kind.BYTES_PER_ELEMENT > arrays.length)
      throw new JobFileError(`This job file is damaged: ${where} points outside arrays.bin.`);
    return new Kind(arrays.slice(offset, offset + length * Kind.BYTES_PER_ELEMENT).buffer);
  };
  const fetchAll = (where: string, record: Record<string, ArrayPlace | string[]> | undefined) =>
    record && Object.fromEntries(Object.entries(record).map(([k, v]) => [k, Array.isArray(v) ? v : fetch(`${where}.${k}`, v)]));
  const entries = manifest.entries.map((raw) => {
    const entry = { ...raw, places: fetchAll(`entry ${raw.id}`, raw.places), cast: fetchAll(`entry ${raw.id}`, raw.cast) } as unknown as Entry;
    if (entry.cast) checkCast(entry.id, entry.cast);
    if (!entry.cast) delete entry.cast;
    if (!entry.places) delete entry.places;
    return entry;
  });
  return { name: manifest.name, cursor: manifest.cursor, entries, view: manifest.view, brief: manifest.brief };
}

function unpack(bytes: Uint8Array): Record<string, Uint8Array> {
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes);
  } catch {
    throw new JobFileError('This is no job file, or it was cut off: it cannot be unpacked as a zip.');
  }
  for (const name of ['manifest.json', 'arrays.bin']) if (!files[name]) throw new JobFileError(`This zip is no job file: ${name} is missing in it.`);
  return files;
}

interface Manifest {
  version: number;
  name: string;
  cursor: number;
  entries: (Omit<Entry, 'cast' | 'places'> & { cast?: Record<string, ArrayPlace | string[]>; places?: Record<string, ArrayPlace> })[];
  view?: Record<string, unknown>;
  brief?: string;
}

function parseManifest(bytes: Uint8Array): Manifest {
  let raw: unknown;
  try {
    raw = JSON.parse(strFromU8(bytes));
  } catch {
    throw new JobFileError('This job file is damaged: manifest.json is not JSON.');
  }
  const version = (raw as { version?: unknown })?.version;
  if (typeof version === 'number' && version > JOB_FILE_VERSION)
    throw new JobFileError(
      `This job file was written by a newer Ulvrin (file version ${version}; this one reads up to ${JOB_FILE_VERSION}). Update, then open it.`
    );
  const { error, value } = manifestSchema.validate(raw);
  if (error) throw new JobFileError(`This job file is damaged: ${error.details[0].message} in manifest.json.`);
  return value as Manifest;
}

/** A mesh whose indices point where nothing is would fail much later and far away. */
function checkCast(id: number, mesh: PolygonMesh): void {
  const vertices = mesh.positions.length / 3;
  const bad = (what: string) => {
    throw new JobFileError(`This job file is damaged: the mesh of entry ${id} ${what}.`);
  };
  if (!Number.isInteger(vertices)) bad('has positions that are not in threes');
  if (mesh.faceStart[0] !== 0 || mesh.faceStart[mesh.faceStart.length - 1] !== mesh.faceVertices.length) bad('has faces that do not fit its corners');
  for (let f = 1; f < mesh.faceStart.length; f++)
    if (mesh.faceStart[f] < mesh.faceStart[f - 1] + 3) bad(`has a face ${f - 1} of fewer than three corners`);
  for (const v of mesh.faceVertices) if (v < 0 || v >= vertices) bad(`uses vertex ${v} of ${vertices}`);
  for (const x of mesh.positions) if (!Number.isFinite(x)) bad('has a coordinate that is not finite');
}
