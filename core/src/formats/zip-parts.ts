import CRC32 from 'crc-32';
import { inflateSync } from 'fflate';

/** CRC-32 as zip and gzip have it. */
export const checksum = (bytes: Uint8Array): number => CRC32.buf(bytes) >>> 0;

/** Thrown for a part of a zip that cannot be unpacked as it was packed; the message says why, to stand after its name. */
export class ZipPartError extends Error {}

/** Where a part of a zip lies, as its headers say. */
export interface ZipPart {
  name: string;
  /** 0: stored, 8: deflated */
  method: number;
  crc: number;
  packed: number;
  unpacked: number;
  /** first packed byte */
  at: number;
}

const END = 0x06054b50;
const CENTRAL = 0x02014b50;
const LOCAL = 0x04034b50;
/** Deflate makes bytes at most 1032 times as many (its longest match, of 258 bytes, takes two bits). */
const MOST_DEFLATED = 1032;

const nameIn = (bytes: Uint8Array, at: number, length: number): string => new TextDecoder().decode(bytes.subarray(at, at + length));

/**
 * The parts of a zip (APPNOTE 6.3, without zip64 and encryption), from its central directory; where that is missing or damaged,
 * from the headers in front of the parts, as far as these run on.
 * @returns parts with names of their own only, within the file, and whether the directory was whole
 */
export function zipParts(bytes: Uint8Array): { parts: ZipPart[]; whole: boolean } {
  const listed = fromDirectory(bytes);
  return listed ? { parts: listed, whole: true } : { parts: fromHeaders(bytes), whole: false };
}

function fromDirectory(bytes: Uint8Array): ZipPart[] | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let end = bytes.length - 22;
  while (end >= 0 && end > bytes.length - 22 - 65536 && view.getUint32(end, true) !== END) end--;
  if (end < 0 || view.getUint32(end, true) !== END) return undefined;
  const count = view.getUint16(end + 10, true);
  let at = view.getUint32(end + 16, true);
  const parts: ZipPart[] = [];
  for (let i = 0; i < count; i++) {
    if (at + 46 > bytes.length || view.getUint32(at, true) !== CENTRAL) return undefined;
    const local = view.getUint32(at + 42, true);
    const long = view.getUint16(at + 28, true);
    if (local + 30 > bytes.length || view.getUint32(local, true) !== LOCAL) return undefined;
    const part = {
      name: nameIn(bytes, at + 46, long),
      method: view.getUint16(at + 10, true),
      crc: view.getUint32(at + 16, true),
      packed: view.getUint32(at + 20, true),
      unpacked: view.getUint32(at + 24, true),
      at: local + 30 + view.getUint16(local + 26, true) + view.getUint16(local + 28, true)
    };
    if (part.at + part.packed > bytes.length || parts.some((p) => p.name === part.name)) return undefined;
    parts.push(part);
    at += 46 + long + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
  }
  return parts;
}

function fromHeaders(bytes: Uint8Array): ZipPart[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const parts = new Map<string, ZipPart>();
  for (let at = 0; at + 30 <= bytes.length && view.getUint32(at, true) === LOCAL;) {
    const long = view.getUint16(at + 26, true);
    const start = at + 30 + long + view.getUint16(at + 28, true);
    const packed = view.getUint32(at + 18, true);
    const name = nameIn(bytes, at + 30, long);
    const part = {
      name,
      method: view.getUint16(at + 8, true),
      crc: view.getUint32(at + 14, true),
      packed,
      unpacked: view.getUint32(at + 22, true),
      at: start
    };
    if (start + packed > bytes.length) break;
    if (!parts.has(name)) parts.set(name, part);
    at = start + packed;
  }
  return [...parts.values()];
}

/**
 * The bytes of one part, verified.
 * @param most bytes that it may have; a length beyond them, or beyond what deflate can reach, allocates nothing
 * @throws ZipPartError
 */
export function unpackPart(bytes: Uint8Array, { method, crc, packed, unpacked, at }: ZipPart, most: number): Uint8Array {
  if (unpacked > most) throw new ZipPartError(`is said to unpack to ${Math.ceil(unpacked / 2 ** 20)} MB, more than a file of this size can hold`);
  const raw = bytes.subarray(at, at + packed);
  if (method === 0 ? unpacked !== packed : unpacked > MOST_DEFLATED * packed) throw new ZipPartError('has a length that does not fit');
  if (method !== 0 && method !== 8) throw new ZipPartError('is packed in a way that is not read');
  let out: Uint8Array;
  try {
    out = method === 0 ? raw.slice() : inflateSync(raw, { out: new Uint8Array(unpacked) });
  } catch {
    throw new ZipPartError('cannot be unpacked');
  }
  if (out.length !== unpacked || checksum(out) !== crc) throw new ZipPartError('does not match its checksum');
  return out;
}
