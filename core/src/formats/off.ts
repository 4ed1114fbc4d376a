import { faceCount, vertexCount, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { GrowingArray } from '../numeric/growing.ts';
import { FormatError, type Format, type Progress, type ReadResult } from './format.ts';
import { TextScanner, TextWriter } from './text-scanner.ts';

function read(bytes: Uint8Array, progress?: Progress): ReadResult {
  const scan = new TextScanner(bytes, 'OFF');
  if (!scan.skipToContent()) throw new FormatError('OFF: the file holds no text.');
  const keyword = scan.word();
  const kind = /^(ST)?(C)?(N)?OFF$/.exec(keyword);
  if (!kind) scan.fail(`"OFF" was expected, "${keyword.slice(0, 20)}" was found.`);
  const afterKeyword = scan.at;
  if (scan.word() === 'BINARY') scan.fail('binary OFF is not read; text is.');
  scan.at = afterKeyword;
  const count = (what: string) => {
    if (!scan.skipToContent()) scan.fail(`the file ends before ${what}.`);
    const n = scan.integer(what);
    if (n < 0 || n > bytes.length) scan.fail(`${what} cannot be ${n}.`);
    return n;
  };
  const vertices = count('the number of vertices');
  const faces = count('the number of faces');
  if (scan.skipBlanks()) scan.integer('the number of edges');
  const positions = new Float64Array(3 * vertices);
  for (let v = 0; v < vertices; v++) {
    if (!scan.skipToContent()) scan.fail(`the file ends after ${v} of ${vertices} vertices.`);
    for (let k = 0; k < 3; k++) positions[3 * v + k] = scan.number(`coordinate ${'xyz'[k]} of vertex ${v}`);
    scan.nextLine();
    if ((v & 0xffff) === 0) progress?.(scan.at / bytes.length);
  }
  const faceStart = new Int32Array(faces + 1);
  const corners = new GrowingArray(Int32Array, 4 * faces + 16);
  for (let f = 0; f < faces; f++) {
    if (!scan.skipToContent()) scan.fail(`the file ends after ${f} of ${faces} faces.`);
    const size = scan.integer(`the size of face ${f}`);
    if (size < 3) scan.fail(`face ${f} has ${size} corners; three are needed.`);
    for (let i = 0; i < size; i++) {
      const v = scan.integer(`corner ${i} of face ${f}`);
      if (v < 0 || v >= vertices) scan.fail(`face ${f} uses vertex ${v}, but the vertices go from 0 to ${vertices - 1}.`);
      corners.push(v);
    }
    faceStart[f + 1] = corners.length;
    scan.nextLine();
    if ((f & 0xffff) === 0) progress?.(scan.at / bytes.length);
  }
  if (faces === 0) throw new FormatError(`OFF: the file has ${vertices} vertices, but no faces.`);
  const notes = [
    ...(kind![1] ? ['Texture coordinates of the OFF file are not kept.'] : []),
    ...(kind![2] ? ['Vertex colours of the OFF file are not kept.'] : [])
  ];
  return { mesh: { positions, faceStart, faceVertices: corners.done() }, notes };
}

function write(mesh: PolygonMesh): Uint8Array<ArrayBuffer> {
  const out = new TextWriter();
  const p = mesh.positions;
  out.line('OFF');
  out.line(`${vertexCount(mesh)} ${faceCount(mesh)} 0`);
  for (let v = 0; v < vertexCount(mesh); v++) out.line(`${p[3 * v]} ${p[3 * v + 1]} ${p[3 * v + 2]}`);
  for (let f = 0; f < faceCount(mesh); f++) {
    const corners = mesh.faceVertices.subarray(mesh.faceStart[f], mesh.faceStart[f + 1]);
    out.line(`${corners.length} ${corners.join(' ')}`);
  }
  return out.done();
}

/** Object file format text: polygons and nothing else. */
export const off: Format = {
  id: 'off',
  name: 'OFF',
  short: 'OFF',
  extensions: ['off'],
  carries: { polygons: true, creases: false, regions: false, textureCoordinates: false, colours: false, units: false, exactNumbers: true },
  sniff: (bytes) => /^\s*(#.*\n\s*)*(ST)?C?N?OFF\b/.test(new TextDecoder().decode(bytes.subarray(0, 200))),
  read,
  write: (mesh) => write(mesh)
};
