import { gzipSync } from 'fflate';
import { readFileSync, statSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import {
  bringIn,
  formatByName,
  formats,
  losses,
  tooLarge,
  plainName,
  stemOf,
  writeMesh,
  type BroughtIn,
  type PolygonMesh,
  type SurfaceSettings,
  type WriteOptions
} from '../src/index.ts';
import { Complaint } from './complaint.ts';

/** A mesh from a file, plain or packed. @throws Complaint where there is none, or it is none of the formats */
export function read(path: string | undefined): BroughtIn {
  if (!path) throw new Complaint('An input file is missing: "ulvrin --help" says what each command takes.');
  const size = statSync(path, { throwIfNoEntry: false });
  if (!size?.isFile()) throw new Complaint(`${path} is not a file that can be read.`);
  const refusal = tooLarge(path, size.size);
  if (refusal) throw new Complaint(refusal);
  return bringIn(readFileSync(path), basename(path));
}

/** The smooth surface that a file asks for; where it asks for none, Catmull-Clark with sharp border corners. */
export const surfaceOf = ({ scheme, borderCorners = 'sharp' }: BroughtIn): SurfaceSettings => ({
  scheme: scheme === 'loop' ? 'loop' : 'catmull-clark',
  borderCorners
});

/** What a file of JSON holds. @throws Complaint where it cannot be read as such */
export function readJson(path: string): unknown {
  try {
    return JSON.parse(readFileSync(path, 'utf8'));
  } catch (error) {
    throw new Complaint(`${path} cannot be read as JSON: ${(error as Error).message}`);
  }
}

/** The format that an output file's extension names. @throws Complaint naming those that there are */
export function formatOf(path: string, others: readonly string[] = []): (typeof formats)[number] {
  const format = formatByName(plainName(basename(path)));
  if (format) return format;
  const written = [...formats.map((f) => f.extensions[0]), ...others];
  throw new Complaint(`${path}: the extension names no format that is written (${written.join(', ')}).`);
}

/** Writes a mesh as the extension says; what the format loses is told on standard error. @throws Complaint */
export function write(path: string | undefined, mesh: PolygonMesh, settings: Partial<WriteOptions>): void {
  if (!path) throw new Complaint('An output file is missing.');
  const format = formatOf(path);
  for (const sentence of losses(format, mesh)) process.stderr.write(`${sentence}\n`);
  const bytes = writeMesh(mesh, format, { name: stemOf(basename(path)), ...settings });
  writeFileSync(path, /\.gz$/i.test(path) ? gzipSync(bytes) : bytes);
}

/** A number given on the command line. @throws Complaint naming the option and its bounds */
export function number(text: string | undefined, name: string, least: number, most: number, whole = true): number {
  const value = Number(text);
  if (text === undefined || text.trim() === '' || !Number.isFinite(value) || value < least || value > most || (whole && !Number.isInteger(value)))
    throw new Complaint(
      `--${name} must be a ${whole ? 'whole ' : ''}number from ${least} to ${most}${text === undefined ? ' and is missing' : `; it is "${text}"`}.`
    );
  return value;
}

/** The numbers of A..B, or one number twice. */
export function span(text: string, name: string, least: number, most: number, whole = true): [number, number] {
  const [from, to = from] = text.split('..');
  return [number(from, name, least, most, whole), number(to, name, least, most, whole)];
}
