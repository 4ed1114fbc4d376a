import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { emptySelection, selectVertices } from '../select/selection.ts';
import { quadSphere } from '../shapes/start-shapes.ts';
import { JobFileError, readJobFile, writeJobFile, type JobFile } from './job-file.ts';
import { Logbook } from './logbook.ts';
import { checksum } from '../formats/zip-parts.ts';

function job(): JobFile {
  const logbook = new Logbook();
  logbook.add({
    operation: 'bring-in',
    part: 'p1',
    params: { file: 'a.obj', as: 'cage' },
    selection: emptySelection(),
    makes: { name: 'Lamp', kind: 'cage' },
    cast: quadSphere(3, 3),
    notes: ['made up']
  });
  for (const x of [1.5, 2]) logbook.add({ operation: 'move', part: 'p1', params: { x }, selection: selectVertices([2]) });
  logbook.undo();
  return {
    name: 'Lamp housing',
    brief: 'Repair it.',
    cursor: logbook.cursor,
    entries: [...logbook.entries],
    sets: [{ name: 'rim', part: 'p1', selection: selectVertices([1, 2]) }],
    hidden: ['p1'],
    view: { level: 3, camera: { zoom: 2 } }
  };
}

type Files = Record<string, Uint8Array>;
/** The file with some of its parts changed, and packed again without a fault. */
function changed(change: (files: Files, manifest: Record<string, unknown>) => void): Uint8Array {
  const files = unzipSync(writeJobFile(job()));
  const manifest = JSON.parse(strFromU8(files['manifest.json'])) as Record<string, unknown>;
  change(files, manifest);
  return zipSync({ ...files, 'manifest.json': strToU8(JSON.stringify(manifest)) });
}
/** An entry's JSON changed, with the checksum that belongs to it. */
const entryChanged = (id: number, change: (entry: Record<string, never>) => void) =>
  changed((files, manifest) => {
    const part = `entries/${id}.json`;
    const entry = JSON.parse(strFromU8(files[part])) as Record<string, never>;
    change(entry);
    files[part] = strToU8(JSON.stringify(entry));
    (manifest.parts as Record<string, object>)[part] = { bytes: files[part].length, crc32: checksum(files[part]) };
  });

function refusal(bytes: Uint8Array): JobFileError {
  try {
    readJobFile(bytes);
  } catch (error) {
    return error as JobFileError;
  }
  throw new Error('It was read.');
}

describe('a job file', () => {
  it('brings everything back, arrays bit for bit, and is the same to the byte for the same job', () => {
    const before = job();
    const bytes = writeJobFile(before);
    expect(readJobFile(bytes)).toEqual(before);
    const replayed = new Logbook(readJobFile(bytes).entries, 2);
    expect(replayed.part('p1')!.cage!.position(2)[0]).toBe(quadSphere(3, 3).positions[6] + 1.5);
    const again = job();
    again.entries.forEach((e, i) => (e.at = before.entries[i].at));
    expect(writeJobFile(again)).toEqual(bytes);
  });

  it('of version 1 is read, its sets and hidden parts out of the view', () => {
    const { positions, faceStart, faceVertices } = quadSphere(3, 3);
    const at = (type: string, offset: number, length: number) => ({ type, offset, length });
    const rounded = (n: number) => 8 * Math.ceil(n / 8);
    const [starts, corners] = [positions.byteLength, positions.byteLength + rounded(faceStart.byteLength)];
    const arrays = new Uint8Array(corners + rounded(faceVertices.byteLength));
    arrays.set(new Uint8Array(positions.buffer), 0);
    arrays.set(new Uint8Array(faceStart.buffer), starts);
    arrays.set(new Uint8Array(faceVertices.buffer), corners);
    const entry = {
      ...{ id: 1, operation: 'bring-in', part: 'p', params: {}, selection: emptySelection(), notes: [], at: '2026-01-01T00:00:00.000Z' },
      makes: { name: 'Lamp', kind: 'cage' },
      cast: {
        positions: at('Float64Array', 0, positions.length),
        faceStart: at('Int32Array', starts, faceStart.length),
        faceVertices: at('Int32Array', corners, faceVertices.length)
      }
    };
    const manifest = { format: 'ulvrin-job', version: 1, name: 'Lamp', cursor: 1, entries: [entry], view: { hidden: ['p'], sets: [] } };
    const read = readJobFile(zipSync({ 'manifest.json': strToU8(JSON.stringify(manifest)), 'arrays.bin': arrays }));
    expect(read.entries[0].cast).toEqual({ positions, faceStart, faceVertices });
    expect(read.hidden).toEqual(['p']);
  });

  it.each<[string, () => Uint8Array, RegExp]>([
    ['that is another zip', () => zipSync({ 'letter.txt': strToU8('hello') }), /manifest\.json is missing/],
    ['that is no zip', () => strToU8('Dear keeper'), /cannot be unpacked as a zip/],
    ['written by a newer version', () => changed((_, m) => Object.assign(m, { version: 99 })), /newer Ulvrin \(file version 99/],
    ['with a cursor beyond its entries', () => changed((_, m) => Object.assign(m, { cursor: 7 })), /damaged: "cursor"/],
    ['with a set of nothing', () => changed((_, m) => Object.assign(m, { sets: [{ name: 'x', part: 'p' }] })), /damaged: "sets/],
    ['with a wrong selection', () => entryChanged(2, (e) => Object.assign(e, { selection: { vertices: [-1], edges: [], faces: [] } })), /entry 2/],
    ['with an entry twice', () => entryChanged(2, (e) => Object.assign(e, { id: 1 })), /two entries have the number 1/],
    [
      'with arrays that end early',
      () => changed((f, m) => (delete (m.parts as Files)['entries/1.bin'], (f['entries/1.bin'] = f['entries/1.bin'].slice(0, 64)))),
      /points outside/
    ],
    [
      'with a corner that points nowhere',
      () =>
        changed((f, m) => {
          const b = f['entries/1.bin'];
          delete (m.parts as Files)['entries/1.bin'];
          new Int32Array(b.buffer, b.byteOffset, b.length / 4).forEach((x, i, all) => x === 17 && (all[i] = 5000));
        }),
      /uses vertex 5000/
    ]
  ])('%s is refused with the reason', (_what, bytes, reason) => {
    expect(refusal(bytes())).toBeInstanceOf(JobFileError);
    expect(refusal(bytes()).message).toMatch(reason);
  });

  it('that is damaged in one entry says which, and offers the others', () => {
    const bytes = changed((files) => (files['entries/2.json'] = strToU8(strFromU8(files['entries/2.json']).replace('1.5', '9.5'))));
    const { message, whole } = refusal(bytes);
    expect(message).toMatch(/entry 2 \(entries\/2\.json\) does not match its checksum/);
    expect([whole!.of, whole!.job.entries.map((e) => e.id), whole!.job.cursor, whole!.job.name]).toEqual([3, [1, 3], 1, 'Lamp housing']);
  });

  it('that was cut off offers what comes before the cut', () => {
    const bytes = writeJobFile(job());
    const { message, whole } = refusal(bytes.subarray(0, bytes.length - 700));
    expect(message).toMatch(/damaged/);
    expect(whole!.job.entries.map((e) => e.id)).toContain(1);
    expect(refusal(bytes.subarray(0, 60)).whole).toBeUndefined();
  });

  it('with any one bit flipped is refused, or read as it was written', () => {
    const bytes = writeJobFile(job());
    const before = readJobFile(bytes);
    let refused = 0;
    for (let k = 0; k < 400; k++) {
      const bad = bytes.slice();
      const bit = Math.floor((k * 8 * bytes.length) / 400) + (k % 8);
      bad[bit >> 3] ^= 1 << (bit & 7);
      try {
        expect(readJobFile(bad)).toEqual(before);
      } catch (error) {
        expect(error).toBeInstanceOf(JobFileError);
        refused++;
      }
    }
    expect(refused).toBeGreaterThan(300);
  });

  it('takes no more memory than a file of its size can hold', () => {
    const bomb = zipSync({ 'manifest.json': new Uint8Array(2 ** 26) }, { level: 9 });
    expect(bomb.length).toBeLessThan(100_000);
    expect(refusal(bomb).message).toMatch(/64 MB, more than a file of this size can hold/);
    const liar = writeJobFile(job());
    const view = new DataView(liar.buffer);
    for (let at = 0; at + 46 < liar.length; at++) if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 24, 0xfffffff0, true);
    expect(refusal(liar).message).toMatch(/more than a file of this size can hold/);
  });
});
