import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { FormatError, type Format, type Progress, type ReadResult, type WriteOptions } from './format.ts';
import { glb } from './glb.ts';
import { obj } from './obj.ts';
import { off } from './off.ts';
import { ply } from './ply.ts';
import { stl } from './stl.ts';
import { threeMf } from './package-3mf.ts';
import { usda } from './usda.ts';
import { usdz } from './usdz.ts';

/** Every format there is; the delivery card, the file chooser and the command line read this list. */
export const formats: readonly Format[] = [obj, ply, stl, off, usda, usdz, glb, threeMf];

/** The formats as a list in a sentence. */
export const formatNames = formats.map((f) => f.short).join(', ');

/** What a file chooser lets through: every format, packed ones, and jobs. */
export const acceptedFiles = [...formats.flatMap((f) => f.extensions), 'gz', 'ulvrin'].map((extension) => `.${extension}`).join(',');

/** Larger files are refused: a browser tab holds neither their bytes nor what becomes of them. */
export const MOST_BYTES = 768 * 2 ** 20;

export const extensionOf = (fileName: string): string => /\.([^.]+)$/.exec(fileName.toLowerCase())?.[1] ?? '';

/** The format that a file's extension names, capitals or not. */
export function formatByName(fileName: string): Format | undefined {
  const extension = extensionOf(fileName);
  return formats.find((f) => f.extensions.includes(extension));
}

/** A sentence about a file that is too large to be read, or nothing. */
export function tooLarge(fileName: string, bytes: number): string | undefined {
  if (bytes <= MOST_BYTES) return undefined;
  return `${fileName} has ${(bytes / 2 ** 20).toFixed(0)} MB; files up to ${MOST_BYTES / 2 ** 20} MB are read. Reduce it, or save it in binary (PLY or STL).`;
}

/**
 * Reads a mesh file. The content decides; the name is asked only where the content does not tell.
 * @throws FormatError with a sentence that says what is wrong and where
 */
export function readMesh(bytes: Uint8Array, fileName: string, progress?: Progress): ReadResult & { format: Format } {
  const refusal = tooLarge(fileName, bytes.length);
  if (refusal) throw new FormatError(refusal);
  if (bytes.length === 0) throw new FormatError(`${fileName} is empty (0 bytes).`);
  const named = formatByName(fileName);
  const format = named?.sniff(bytes) ? named : (formats.find((f) => f.sniff(bytes)) ?? named);
  const known = formats.map((f) => f.extensions[0].toUpperCase()).join(', ');
  if (!format) throw new FormatError(`${fileName}: neither the name nor the first bytes are those of a format that is read (${known}).`);
  if (!format.sniff(bytes) && looksBinary(bytes) && !format.unmarked)
    throw new FormatError(`${fileName} is called ${format.name}, but holds binary data of another kind. Read are ${known}.`);
  const result = format.read(bytes, progress);
  if (named && named !== format) result.notes.unshift(`The name says ${named.name}, the content is ${format.name}: read as ${format.name}.`);
  return { ...result, format };
}

function looksBinary(bytes: Uint8Array): boolean {
  return bytes.subarray(0, 400).includes(0);
}

/**
 * A mesh as a file's bytes, in mm with Y up where nothing else is said; what the format cannot hold is left out (`losses` tells it before).
 * @example writeMesh(cage.toPolygons(), obj, { name: 'Bollard' })
 */
export function writeMesh(mesh: PolygonMesh, format: Format, options: Partial<WriteOptions> = {}): Uint8Array<ArrayBuffer> {
  return format.write(mesh, {
    name: 'part',
    upAxis: 'Y',
    millimetresPerUnit: 1,
    scheme: 'catmull-clark',
    borderCorners: 'sharp',
    ...options
  });
}
