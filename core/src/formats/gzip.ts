import { Inflate } from 'pako';
import { FormatError } from './format.ts';
import { joinedBytes } from './join-bytes.ts';
import { MOST_BYTES } from './registry.ts';

/** Bytes that are unpacked at a time. */
const CHUNK = 1 << 20;

/** The name of a file without what says that it is packed. */
export const plainName = (name: string): string => name.replace(/\.gz$/i, '');

/** The name of a file without packing and extension. */
export const stemOf = (name: string): string => plainName(name).replace(/\.[^.]*$/, '');

/**
 * Unpacks a gzip file (RFC 1952) of any number of members; checksum and length of each are verified, and memory grows with
 * what is really unpacked.
 * @param name of the file, for messages
 * @throws FormatError where it is damaged, cut off, not gzip, or longer than is read
 */
export function unpackGzip(bytes: Uint8Array, name: string, most = MOST_BYTES): Uint8Array {
  if (bytes[0] !== 0x1f || bytes[1] !== 0x8b)
    throw new FormatError(`${name} is called .gz, but it is damaged or not gzip: its first bytes are not those of gzip.`);
  const parts: Uint8Array[] = [];
  let length = 0;
  const inflate = new Inflate({ windowBits: 31, chunkSize: CHUNK });
  inflate.onData = (data) => {
    const part = data as Uint8Array;
    length += part.length;
    if (length > most) throw new FormatError(`${name} unpacks to more than ${Math.round(most / 2 ** 20)} MB, which is the most that is read.`);
    parts.push(part);
  };
  const whole = inflate.push(bytes, true);
  if (!whole)
    throw new FormatError(
      `${name} is damaged: ${inflate.msg || 'it cannot be unpacked'} after ${length.toLocaleString('en')} unpacked bytes. Copy it again from where it came from.`
    );
  // `ended` is missing from the package's types
  if (!(inflate as unknown as { ended: boolean }).ended)
    throw new FormatError(
      `${name} is cut off: its end is missing after ${length.toLocaleString('en')} unpacked bytes. Copy it again from where it came from.`
    );
  return joinedBytes(parts);
}
