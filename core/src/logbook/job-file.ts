import { conditionsSchema } from '../brief/conditions.ts';
import { strFromU8, strToU8, zipSync } from 'fflate';
import Joi from 'joi';
import { checkArrays } from '../mesh/cage-arrays.ts';
import { joinedBytes } from '../formats/join-bytes.ts';
import { NO_DATE } from '../formats/zip-files.ts';
import { type Entry, type NamedSet } from './entry.ts';
import { type DocumentSettings } from './journal.ts';
import { ARRAYS, type ArrayPlace, arrayPlaceSchema, type ArrayType, checkCast, checkSeam, entrySchema } from './job-file-entry.ts';
import { checksum, unpackPart, ZipPartError, type ZipPart, zipParts } from '../formats/zip-parts.ts';

/** Version written; newer files are refused. */
export const JOB_FILE_VERSION = 2;

/** A job as it goes into one file; see docs/job-file.md. */
export interface JobFile extends Partial<DocumentSettings> {
  name: string;
  cursor: number;
  entries: readonly Entry[];
  /** view settings, kept as they are */
  view?: Record<string, unknown>;
  brief?: string;
}

/** A job file that is damaged, too new, or none at all; the message is a sentence that says where. */
export class JobFileError extends Error {
  constructor(
    message: string,
    /** what of a damaged file is whole, and how many entries it had; nothing where none is */
    readonly whole?: { job: JobFile; of: number }
  ) {
    super(message);
  }
}

const MANIFEST = 'manifest.json';
const ARRAYS_V1 = 'arrays.bin';
/** Parts unpack to no more than so many bytes, nor to more than so many times the file's size beyond the first 16 MB. */
const MOST_UNPACKED = 2 ** 30;
const MOST_RATIO = 200;
const MOST_ENTRIES = 100_000;

const ids = Joi.array().items(Joi.number().integer().min(0)).required();
const selectionSchema = Joi.object({ vertices: ids, edges: ids, faces: ids });
const partSchema = Joi.object({ bytes: Joi.number().integer().min(0).required(), crc32: Joi.number().integer().min(0).required() });
/** The manifest of a job file: what it is, and its parts. */
export const manifestSchema = Joi.object({
  format: Joi.string().valid('ulvrin-job').required(),
  version: Joi.number().integer().min(1).required(),
  name: Joi.string().max(200).required(),
  cursor: Joi.number().integer().min(0).max(Joi.ref('entries.length')).required(),
  entries: Joi.array().max(MOST_ENTRIES).required(),
  sets: Joi.array()
    .max(10_000)
    .items(Joi.object({ name: Joi.string().max(200).required(), part: Joi.string().max(100).required(), selection: selectionSchema.required() })),
  hidden: Joi.array().max(10_000).items(Joi.string().max(100)),
  locked: Joi.array().max(10_000).items(Joi.string().max(100)),
  layers: Joi.array()
    .max(1000)
    .items(
      Joi.object({
        name: Joi.string().max(200).required(),
        colour: Joi.string().pattern(/^#[0-9a-fA-F]{6}$/),
        parts: Joi.array().items(Joi.string().max(100)).required()
      })
    ),
  branch: Joi.string().max(200),
  branches: Joi.array()
    .max(100)
    .items(Joi.object({ name: Joi.string().max(200).required(), after: ids, entries: Joi.array().max(MOST_ENTRIES).items(Joi.string()).required() })),
  parts: Joi.object().pattern(/^.{1,60}$/, partSchema),
  view: Joi.object(),
  brief: Joi.string().max(4000),
  doneWhen: conditionsSchema
});

interface Manifest extends Partial<Omit<DocumentSettings, 'branches'>> {
  version: number;
  name: string;
  cursor: number;
  /** version 2: names of parts; version 1: the entries themselves */
  entries: unknown[];
  parts?: Record<string, { bytes: number; crc32: number }>;
  branches?: { name: string; after: number[]; entries: string[] }[];
  view?: Record<string, unknown>;
  brief?: string;
}

const jsonPart = (id: number) => `entries/${id}.json`;
const arraysPart = (id: number) => `entries/${id}.bin`;

/** An entry as JSON, and its arrays as bytes that the JSON points into. */
function encodeEntry(entry: Entry): { json: Uint8Array; arrays: Uint8Array } {
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
  const { places, paramPlaces, cast, seam, result, ...rest } = entry;
  const text = JSON.stringify({
    ...rest,
    places: placeAll(places),
    paramPlaces: placeAll(paramPlaces),
    cast: placeAll(cast),
    seam: place(seam),
    result: result && { ...result, arrays: placeAll(result.arrays) }
  });
  return { json: strToU8(text), arrays: joinedBytes(chunks) };
}

/** One zip: a manifest with a checksum for each part, and for each entry its JSON and its arrays. The same job gives the same bytes. */
export function writeJobFile({
  name,
  brief,
  doneWhen,
  cursor,
  entries,
  sets,
  hidden,
  locked,
  layers,
  branches,
  branch,
  view
}: JobFile): Uint8Array<ArrayBuffer> {
  const files: Record<string, Uint8Array> = {};
  for (const entry of [...entries, ...(branches ?? []).flatMap((b) => b.entries)]) {
    const { json, arrays } = encodeEntry(entry);
    files[jsonPart(entry.id)] = json;
    if (arrays.length > 0) files[arraysPart(entry.id)] = arrays;
  }
  const parts = Object.fromEntries(Object.entries(files).map(([part, bytes]) => [part, { bytes: bytes.length, crc32: checksum(bytes) }]));
  const manifest = {
    format: 'ulvrin-job',
    version: JOB_FILE_VERSION,
    name,
    brief,
    doneWhen,
    cursor,
    entries: entries.map(({ id }) => jsonPart(id)),
    parts,
    sets,
    hidden,
    locked,
    layers,
    branch,
    branches: branches?.map((b) => ({ ...b, entries: b.entries.map(({ id }) => jsonPart(id)) })),
    view
  };
  // a fixed date: what is the same is the same to the byte
  return zipSync({ [MANIFEST]: strToU8(JSON.stringify(manifest)), ...files }, { level: 6, mtime: NO_DATE });
}

/**
 * @throws JobFileError with a sentence; it carries the entries that are whole, where some are. Nothing else is returned by halves.
 */
export function readJobFile(bytes: Uint8Array): JobFile {
  const { parts, whole } = zipParts(bytes);
  const box = new Box(bytes, parts);
  if (parts.length === 0) throw new JobFileError('This is no job file, or it was cut off: it cannot be unpacked as a zip.');
  if (!box.has(MANIFEST) && whole) throw new JobFileError(`This zip is no job file: ${MANIFEST} is missing in it.`);
  const manifest = manifestIn(box);
  if (manifest.version === 1) return readVersion1(box, manifest);
  const read = manifest.entries.map((name, i) => entryIn(box, manifest, String(name), i));
  const problems = read.flatMap((r) => ('problem' in r ? [r.problem] : []));
  const entries = read.flatMap((r) => ('entry' in r ? [r.entry] : []));
  const branches = manifest.branches?.map((b) => {
    const own = b.entries.map((part, i) => entryIn(box, manifest, part, i));
    problems.push(...own.flatMap((r) => ('problem' in r ? [`${r.problem}, of the way ${b.name}`] : [])));
    return { ...b, entries: own.flatMap((r) => ('entry' in r ? [r.entry] : [])) };
  });
  const { name, brief, doneWhen, cursor, sets, hidden, locked, layers, branch, view } = manifest;
  const seen = new Set<number>();
  const repeated = entries.find(({ id }) => seen.size === seen.add(id).size);
  const job: JobFile = { name, cursor, entries, ...dropUndefined({ sets, hidden, locked, layers, branches, branch, view, brief, doneWhen }) };
  if (repeated) throw new JobFileError(`This job file is damaged: two entries have the number ${repeated.id}.`);
  if (!whole || problems.length > 0) {
    const where = problems[0] ?? 'its table of contents is missing: it was cut off';
    throw salvaged(`This job file is damaged: ${where}.`, job, read, manifest.cursor);
  }
  return job;
}

const dropUndefined = <T extends object>(record: T): Partial<T> =>
  Object.fromEntries(Object.entries(record).filter(([, value]) => value !== undefined)) as Partial<T>;

type ReadEntry = { entry: Entry } | { problem: string };

/** The error for a damaged file, with what of it is whole. */
function salvaged(message: string, job: JobFile, read: ReadEntry[], cursor: number): JobFileError {
  if (job.entries.length === 0) return new JobFileError(message);
  const inForce = read.slice(0, cursor).filter((r) => 'entry' in r).length;
  return new JobFileError(message, { job: { ...job, cursor: inForce }, of: read.length });
}

/** The parts of a job file, unpacked one by one within bounds that hold for all together. */
class Box {
  private left: number;
  private readonly byName: Map<string, ZipPart>;
  constructor(
    private readonly bytes: Uint8Array,
    parts: readonly ZipPart[]
  ) {
    this.byName = new Map(parts.map((p) => [p.name, p]));
    this.left = Math.min(MOST_UNPACKED, 2 ** 24 + MOST_RATIO * bytes.length);
  }

  has(name: string): boolean {
    return this.byName.has(name);
  }
  get names(): string[] {
    return [...this.byName.keys()];
  }

  /** Checksum of a part as the zip has it. */
  checksumOf(name: string): number | undefined {
    return this.byName.get(name)?.crc;
  }

  /** @throws ZipPartError */
  unpack(name: string): Uint8Array {
    const part = this.byName.get(name);
    if (!part) throw new ZipPartError('is missing');
    const out = unpackPart(this.bytes, part, this.left);
    this.left -= out.length;
    return out;
  }
}

/** The manifest; where the file was cut off before it could be read, one of the entries that are there. */
function manifestIn(box: Box): Manifest {
  let raw: unknown;
  try {
    raw = JSON.parse(strFromU8(box.unpack(MANIFEST)));
  } catch (error) {
    const entries = box.names.filter((name) => /^entries\/\d+\.json$/.test(name)).sort((a, b) => Number(/\d+/.exec(a)) - Number(/\d+/.exec(b)));
    const why = error instanceof ZipPartError ? `${MANIFEST} ${error.message}` : `${MANIFEST} is not JSON`;
    const rescue: Manifest = { version: JOB_FILE_VERSION, name: 'Rescued job', cursor: entries.length, entries };
    const read = entries.map((name, i) => entryIn(box, rescue, name, i));
    const job = { name: rescue.name, cursor: 0, entries: read.flatMap((r) => ('entry' in r ? [r.entry] : [])) };
    throw salvaged(`This job file is damaged: ${why}.`, job, read, entries.length);
  }
  const version = (raw as { version?: unknown })?.version;
  if (typeof version === 'number' && version > JOB_FILE_VERSION)
    throw new JobFileError(
      `This job file was written by a newer Ulvrin (file version ${version}; this one reads up to ${JOB_FILE_VERSION}). Update, then open it.`
    );
  const { error, value } = manifestSchema.validate(raw);
  if (error) throw new JobFileError(`This job file is damaged: ${error.details[0].message} in ${MANIFEST}.`);
  return value as Manifest;
}

/** One entry of a version 2 file, or what is wrong with it. */
function entryIn(box: Box, manifest: Manifest, name: string, index: number): ReadEntry {
  const unpacked = (part: string): Uint8Array => {
    const bytes = box.unpack(part);
    const told = manifest.parts?.[part];
    // the part's own checksum was verified when it was unpacked
    if (told && (told.bytes !== bytes.length || told.crc32 !== box.checksumOf(part))) throw new ZipPartError('does not match its checksum');
    return bytes;
  };
  const which = `entry ${index + 1} (${name})`;
  try {
    const raw = JSON.parse(strFromU8(unpacked(name))) as unknown;
    const arraysName = name.replace(/json$/, 'bin');
    return { entry: decodeEntry(raw, which, () => (box.has(arraysName) || manifest.parts?.[arraysName] ? unpacked(arraysName) : new Uint8Array(0))) };
  } catch (error) {
    if (error instanceof ZipPartError) return { problem: `${which} ${error.message}` };
    if (error instanceof JobFileError) return { problem: error.message };
    return { problem: `${which} is not JSON` };
  }
}

/** @throws JobFileError with a phrase that says what is wrong */
function decodeEntry(raw: unknown, which: string, arraysOf: () => Uint8Array): Entry {
  const { error, value } = entrySchema.validate(raw);
  if (error) throw new JobFileError(`${error.details[0].message} in ${which}`);
  let arrays: Uint8Array | undefined;
  const fetch = (where: string, { type, offset, length }: ArrayPlace) => {
    arrays ??= arraysOf();
    const Kind = ARRAYS[type];
    if (offset % 8 !== 0 || offset + length * Kind.BYTES_PER_ELEMENT > arrays.length) throw new JobFileError(`${where} points outside its arrays`);
    return new Kind(arrays.slice(offset, offset + length * Kind.BYTES_PER_ELEMENT).buffer);
  };
  const fetchAll = (where: string, record: Record<string, unknown> | undefined) =>
    record &&
    Object.fromEntries(Object.entries(record).map(([k, v]) => [k, arrayPlaceSchema.validate(v).error ? v : fetch(`${where}.${k}`, v as ArrayPlace)]));
  const entry = value as Entry & { seam?: unknown };
  for (const key of ['places', 'paramPlaces', 'cast'] as const)
    if (entry[key]) entry[key] = fetchAll(`${which}.${key}`, entry[key] as unknown as Record<string, unknown>) as never;
  if (entry.seam) entry.seam = fetch(`${which}.seam`, entry.seam as unknown as ArrayPlace) as Int32Array<ArrayBuffer>;
  if (entry.result) entry.result = { ...entry.result, arrays: fetchAll(`${which}.stored`, entry.result.arrays as never) as never };
  const broken = entry.result && checkArrays(entry.result);
  if (broken) throw new JobFileError(`the stored result of ${which} ${broken}`);
  const problem = entry.cast && (checkCast(entry.cast) ?? checkSeam(entry.cast, entry.seam));
  if (problem) throw new JobFileError(`the mesh of ${which} ${problem}`);
  return entry;
}

/** Version 1 had all entries in the manifest and one file of arrays. */
function readVersion1(box: Box, manifest: Manifest): JobFile {
  let arrays: Uint8Array;
  try {
    arrays = box.unpack(ARRAYS_V1);
  } catch (error) {
    throw new JobFileError(`This job file is damaged: ${ARRAYS_V1} ${(error as Error).message}.`);
  }
  const entries = manifest.entries.map((raw, i) => {
    try {
      return decodeEntry(raw, `entry ${i + 1}`, () => arrays);
    } catch (error) {
      throw new JobFileError(`This job file is damaged: ${(error as Error).message}.`);
    }
  });
  const { sets, hidden } = (manifest.view ?? {}) as { sets?: NamedSet[]; hidden?: string[] };
  return {
    name: manifest.name,
    cursor: manifest.cursor,
    entries,
    ...dropUndefined({ sets, hidden, view: manifest.view, brief: manifest.brief, doneWhen: manifest.doneWhen })
  };
}
