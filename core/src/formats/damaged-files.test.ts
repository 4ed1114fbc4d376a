import { gzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { amount } from '../../testing/amount.ts';
import { bytesOf as bytes, refusal } from '../../testing/refusal.ts';
import { emptySelection, selectFaces, selectVertices } from '../select/selection.ts';
import { JobFileError, readJobFile, writeJobFile } from '../logbook/job-file.ts';
import { Logbook } from '../logbook/logbook.ts';
import { randomNumbers } from '../numeric/random.ts';
import { quadSphere } from '../shapes/start-shapes.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { bringIn } from './bring-in.ts';
import { FormatError } from './format.ts';
import { unpackGzip } from './gzip.ts';
import { formats, readMesh, writeMesh } from './registry.ts';

/** Mutations in all, over every reader and the job file; the whole run is `npm run soak damaged`. */
const MUTATIONS = amount(2000, 100_000);
/** No mutated file may take longer to be read or refused, in ms; asked in the whole run only, as times depend on the machine. */
const LONGEST = amount(Infinity, 2000);

/** A mesh with all that formats carry, small enough to be read many times. */
function everything(): PolygonMesh {
  const mesh = quadSphere(10, 3);
  const faces = mesh.faceStart.length - 1;
  return {
    ...mesh,
    faceRegion: Int32Array.from({ length: faces }, (_, f) => f % 2),
    regionNames: ['horn', 'flange'],
    vertexColour: mesh.positions.map((x) => Math.abs(x) / 20),
    cornerUv: Float64Array.from({ length: 2 * mesh.faceVertices.length }, (_, i) => (i % 9) / 9),
    creaseEdges: mesh.faceVertices.slice(0, 2),
    creaseSharpness: Float64Array.of(3),
    cornerVertices: Int32Array.of(1),
    cornerSharpness: Float64Array.of(2)
  };
}

function jobFile(): Uint8Array {
  const logbook = new Logbook();
  logbook.add({
    operation: 'bring-in',
    part: 'p',
    params: { file: 'buoy.obj', as: 'cage' },
    selection: emptySelection(),
    makes: { name: 'Buoy', kind: 'cage' },
    cast: everything()
  });
  logbook.add({ operation: 'move', part: 'p', params: { x: 2 }, selection: selectVertices([3]) });
  logbook.add({ operation: 'extrude', part: 'p', params: { distance: 1 }, selection: selectFaces([0]) });
  return writeJobFile({ name: 'Buoy', cursor: 3, entries: logbook.entries });
}

const random = randomNumbers(20);
const below = (n: number) => Math.floor(random() * n);

/** Some bytes flipped, taken out, doubled or made large numbers, or the end cut off. */
function mutated(source: Uint8Array): Uint8Array {
  let bad = source.slice();
  for (let k = 1 + below(3); k > 0; k--) {
    const at = below(bad.length);
    const kind = below(6);
    if (kind === 0) bad[at] ^= 1 << below(8);
    else if (kind === 1) bad[at] = below(256);
    else if (kind === 2) bad = bad.slice(0, Math.max(1, at));
    else if (kind === 3) bad = new Uint8Array([...bad.subarray(0, at), ...bad.subarray(at + below(40))]);
    else if (kind === 4) bad = new Uint8Array([...bad.subarray(0, at), ...bad.subarray(Math.max(0, at - below(60)), at), ...bad.subarray(at)]);
    else bad.set(bytes('9999999999').subarray(0, bad.length - at), at);
  }
  return bad;
}

describe('damaged files', () => {
  const sources: [string, () => Uint8Array, (bad: Uint8Array) => unknown][] = [
    ...formats.map((f): [string, () => Uint8Array, (bad: Uint8Array) => unknown] => [
      f.id,
      () => writeMesh(everything(), f),
      (bad) => bringIn(bad, `a.${f.extensions[0]}`)
    ]),
    ['obj.gz', () => gzipSync(writeMesh(everything(), formats[0])), (bad) => bringIn(unpackGzip(bad, 'a.obj.gz'), 'a.obj')],
    ['job file', jobFile, (bad) => readJobFile(bad)]
  ];
  it.each(sources)('%s: read, or refused with a sentence, and soon', { timeout: 3_600_000 }, (name, make, read) => {
    const source = make();
    const whole = name === 'job file' ? JSON.stringify(readJobFile(source)) : name === 'obj.gz' ? JSON.stringify(unpackGzip(source, name)) : '';
    let [refused, slowest] = [0, 0];
    for (let i = 0; i < MUTATIONS / sources.length; i++) {
      const bad = mutated(source);
      const start = performance.now();
      try {
        const result = read(bad);
        // what has a checksum is what was written, or refused
        if (name === 'job file') expect(JSON.stringify(result) === whole).toBe(true);
        if (name === 'obj.gz') expect(JSON.stringify(unpackGzip(bad, name)) === whole).toBe(true);
      } catch (error) {
        if (!(error instanceof FormatError) && !(error instanceof JobFileError)) throw new Error(`Mutation ${i} of ${name}`, { cause: error });
        expect(error.message.length).toBeGreaterThan(15);
        refused++;
      }
      slowest = Math.max(slowest, performance.now() - start);
    }
    expect(refused).toBeGreaterThan(0);
    expect(slowest).toBeLessThan(LONGEST);
  });

  it.each<[string, string | Uint8Array, string, RegExp]>([
    ['usda nested without end', `#usda 1.0\n${'def Xform "a" {'.repeat(5000)}`, 'a.usda', /line 2: prims or lists are nested more than 64 deep/],
    ['usda lists nested without end', `#usda 1.0\ndef Mesh "a" { int[] x = ${'['.repeat(9000)} }`, 'a.usda', /nested more than 64 deep/],
    ['usda with a unit of nothing', '#usda 1.0\n(\n metersPerUnit = 0\n)\ndef Mesh "a" { }', 'a.usda', /metersPerUnit is 0/],
    [
      'usda with a number too large',
      '#usda 1.0\ndef Mesh "a" {\n point3f[] points = [(1e999, 0, 0)]\n}',
      'a.usda',
      /line 3: a number is not finite \("1e999"\)/
    ],
    ['OBJ with a number too large', 'v 0 0 0\nv 1e999 0 0\nv 0 1 0\nf 1 2 3\n', 'a.obj', /line 2: the x coordinate is not a finite number/],
    ['OBJ far beyond all shapes', 'v 0 0 0\nv 1e12 0 0\nv 0 1e12 0\nf 1 2 3\n', 'a.obj', /vertex 1 lies at 1000000000000 mm/],
    [
      'PLY that announces too much',
      'ply\nformat binary_little_endian 1.0\nelement vertex 80\nproperty double x\nend_header\n12345678',
      'a.ply',
      /ends at byte \d+, within the 80 vertex elements/
    ]
  ])('%s are refused with the place', (_what, content, name, reason) => expect(refusal(content, name)).toMatch(reason));

  it('braces and brackets inside strings of usda are text', () => {
    const text = '#usda 1.0\n(\n customLayerData = {\n  string note = "a { b"\n  dictionary more = { string x = "}" }\n }\n)\n';
    const mesh =
      'def Mesh "a" {\n point3f[] points = [(0,0,0),(1,0,0),(0,1,0)]\n int[] faceVertexCounts = [3]\n int[] faceVertexIndices = [0,1,2]\n}\n';
    expect(readMesh(bytes(text + mesh), 'a.usda').mesh.faceVertices).toHaveLength(3);
  });

  it('several meshes of usda keep their texture coordinates', () => {
    const one = writeMesh(
      { ...everything(), faceRegion: undefined, regionNames: undefined },
      formats.find((f) => f.id === 'usda')!
    );
    const text = new TextDecoder().decode(one);
    const second = text.slice(text.indexOf('def Mesh')).replace('"part"', '"other"');
    const { mesh } = readMesh(bytes(text + second), 'a.usda');
    const uv = [...everything().cornerUv!];
    expect([...mesh.cornerUv!]).toEqual([...uv, ...uv]);
  });

  it('a byte order mark in front, and colours behind coordinates, are read', () => {
    const { mesh } = readMesh(new Uint8Array([0xef, 0xbb, 0xbf, ...bytes('v 0 0 0 255 0 0\nv 1 0 0 0 255 0\nv 0 1 0 # plain\nf 1 2 3\n')]), 'a.obj');
    expect([...mesh.vertexColour!]).toEqual([1, 0, 0, 0, 1, 0, 0.5, 0.5, 0.5]);
    expect(
      readMesh(new Uint8Array([0xef, 0xbb, 0xbf, ...bytes('OFF\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n')]), 'a.off').mesh.faceVertices
    ).toHaveLength(3);
  });
});
