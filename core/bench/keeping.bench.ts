import { gzipSync } from 'fflate';
import { unpackGzip } from '../src/formats/gzip.ts';
import { ply } from '../src/formats/ply.ts';
import { readJobFile, writeJobFile } from '../src/logbook/job-file.ts';
import { Logbook } from '../src/logbook/logbook.ts';
import { emptySelection, selectFaces } from '../src/select/selection.ts';
import { best, head, line, referenceLoop } from './measure.ts';

/** A binary PLY of two million vertices and as many faces: about 50 MB. */
function largePly(): Uint8Array {
  const n = 2_000_000;
  const head = new TextEncoder().encode(
    `ply\nformat binary_little_endian 1.0\nelement vertex ${n}\nproperty float x\nproperty float y\nproperty float z\nelement face ${n}\nproperty list uchar int vertex_indices\nend_header\n`
  );
  const bytes = new Uint8Array(head.length + 25 * n);
  bytes.set(head);
  const view = new DataView(bytes.buffer);
  for (let i = 0; i < n; i++) for (let k = 0; k < 3; k++) view.setFloat32(head.length + 12 * i + 4 * k, i % (97 + k), true);
  for (let i = 0, at = head.length + 12 * n; i < n; i++, at += 13) {
    bytes[at] = 3;
    for (let k = 0; k < 3; k++) view.setInt32(at + 1 + 4 * k, (i + k) % n, true);
  }
  return bytes;
}

/** Time for files with checksums, and for entries that find their elements again after an edit. */
export function keepingBench(): void {
  head('Keeping: files and edits');
  line('fixed loop of 1e8 additions, for comparison', best(3, referenceLoop), 'ms');
  const large = largePly();
  line(
    'PLY of 50 MB, binary, read',
    best(2, () => ply.read(large)),
    'ms',
    { most: 2000 }
  );
  const packed = gzipSync(large.subarray(0, 2 ** 24));
  line(
    'gzip of 16 MB unpacked and verified',
    best(2, () => unpackGzip(packed, 'x.gz')),
    'ms'
  );
  const params = { shape: 'box', across: 49, up: 49, deep: 49 };
  const begun = () => {
    const logbook = new Logbook();
    logbook.add({ operation: 'start-shape', part: 'p', params, selection: emptySelection(), makes: { name: 'Box', kind: 'cage' } });
    logbook.add({ operation: 'move', part: 'p', params: { x: 1 }, selection: selectFaces(logbook.part('p')!.cage!.faces()) });
    return logbook;
  };
  const logbook = begun();
  const edit = (deep: number) => () => {
    logbook.edit(0, { ...params, deep });
    return logbook.state;
  };
  line('entry before one of 14,406 faces edited: they are sought by place', best(2, edit(50)), 'ms');
  line(
    '  compared: the same with its connectivity unchanged, found by id',
    best(2, () => (logbook.edit(0, { ...params, width: 41 }), logbook.state)),
    'ms'
  );
  const file = { name: 'Box', cursor: 2, entries: begun().entries };
  const bytes = writeJobFile(file);
  line(
    'job file with places of 14,406 faces written',
    best(2, () => writeJobFile(file)),
    'ms'
  );
  line(
    '  and read with its checksums',
    best(2, () => readJobFile(bytes)),
    'ms'
  );
}
