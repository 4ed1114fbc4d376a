import { gzipSync, strToU8 } from 'fflate';
import { describe, expect, it } from 'vitest';
import { FormatError } from './format.ts';
import { unpackGzip } from './gzip.ts';

const text = strToU8('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n'.repeat(40));
const packed = gzipSync(text, { mtime: 0 });
const unpack = (bytes: Uint8Array) => unpackGzip(bytes, 'horn.obj.gz');

describe('gzip', () => {
  it('is unpacked whole, members one after the other', () => {
    expect(unpack(packed)).toEqual(text);
    const two = new Uint8Array([...packed, ...gzipSync(strToU8('# end\n'))]);
    expect(unpack(two)).toEqual(new Uint8Array([...text, ...strToU8('# end\n')]));
  });

  it('with any one bit flipped is refused, or is what was packed', () => {
    let refused = 0;
    for (let bit = 0; bit < 8 * packed.length; bit++) {
      const bad = packed.slice();
      bad[bit >> 3] ^= 1 << (bit & 7);
      try {
        expect(unpack(bad)).toEqual(text);
      } catch (error) {
        expect(error).toBeInstanceOf(FormatError);
        refused++;
      }
    }
    // the ten bytes of the header hold a date and the like, which change nothing
    expect(refused).toBeGreaterThan(8 * (packed.length - 10));
  });

  it.each<[string, Uint8Array, RegExp]>([
    ['that is cut off', packed.subarray(0, packed.length - 6), /cut off/],
    ['with bytes behind it', new Uint8Array([...packed, 1, 2, 3]), /damaged/],
    ['that is none', text, /not those of gzip/]
  ])('%s is refused', (_what, bytes, reason) => expect(() => unpack(bytes)).toThrow(reason));

  it('ends at the length that is read, before memory does', () => {
    const zeros = gzipSync(new Uint8Array(2 ** 24));
    expect(() => unpackGzip(zeros, 'zeros.gz', 2 ** 21)).toThrow(/more than 2 MB/);
  });
});
