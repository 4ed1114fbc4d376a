import { uniformMesh, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { GrowingArray } from '../numeric/growing.ts';
import { FormatError, type Format, type Progress, type ReadResult } from './format.ts';
import { ascii, TextScanner } from './text-scanner.ts';

const HEADER = 84;
const RECORD = 50;

const viewOf = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

function isBinary(bytes: Uint8Array): boolean {
  if (bytes.length < HEADER) return false;
  const triangles = viewOf(bytes).getUint32(80, true);
  if (bytes.length === HEADER + RECORD * triangles) return true;
  return !/^\s*solid\b/.test(ascii(bytes, 0, 80));
}

function readBinary(bytes: Uint8Array, progress?: Progress): ReadResult {
  const view = viewOf(bytes);
  const triangles = view.getUint32(80, true);
  if (bytes.length < HEADER + RECORD * triangles)
    throw new FormatError(
      `STL: the header announces ${triangles.toLocaleString('en')} triangles, but the file ends at byte ${bytes.length} within triangle ${Math.floor((bytes.length - HEADER) / RECORD)}.`
    );
  if (triangles === 0) throw new FormatError('STL: the file holds no triangles.');
  const positions = new Float64Array(9 * triangles);
  for (let t = 0; t < triangles; t++) {
    const at = HEADER + RECORD * t + 12;
    for (let k = 0; k < 9; k++) {
      const x = view.getFloat32(at + 4 * k, true);
      if (!Number.isFinite(x)) throw new FormatError(`STL, byte ${at + 4 * k}: a coordinate of triangle ${t} is not a finite number (${x}).`);
      positions[9 * t + k] = x;
    }
    if ((t & 0xffff) === 0) progress?.(t / triangles);
  }
  return { mesh: loose(positions), notes: [] };
}

function loose(positions: Float64Array): PolygonMesh {
  return uniformMesh(
    positions,
    Int32Array.from({ length: positions.length / 3 }, (_, i) => i),
    3
  );
}

function readText(bytes: Uint8Array, progress?: Progress): ReadResult {
  const scan = new TextScanner(bytes, 'STL');
  const points = new GrowingArray(Float64Array, 1 << 14);
  let corners = 0;
  let inFacet = false;
  let ended = false;
  while (scan.skipToContent()) {
    const word = scan.word().toLowerCase();
    if (word === 'facet') {
      inFacet = true;
      corners = 0;
      ended = false;
    } else if (word === 'vertex') {
      for (const axis of 'xyz') points.push(scan.number(`the ${axis} coordinate`));
      corners++;
    } else if (word === 'endfacet') {
      if (corners !== 3) scan.fail(`this facet has ${corners} vertices; three are needed.`);
      inFacet = false;
    } else if (word === 'endsolid') ended = true;
    else if (!/^(solid|outer|endloop)$/.test(word)) scan.fail(`"${word.slice(0, 20)}" was not expected.`);
    scan.nextLine();
    if ((scan.line & 0xffff) === 0) progress?.(scan.at / bytes.length);
  }
  if (inFacet || (!ended && points.length > 0)) scan.fail(`the file ends within ${inFacet ? 'a facet' : 'a solid'}: it was cut off.`);
  if (points.length === 0) throw new FormatError('STL: the file holds no triangles.');
  return { mesh: loose(points.done()), notes: [] };
}

function write(mesh: PolygonMesh, name: string): Uint8Array<ArrayBuffer> {
  const { triangles } = triangulate(mesh);
  const p = mesh.positions;
  const count = triangles.length / 3;
  const bytes = new Uint8Array(HEADER + RECORD * count);
  const view = viewOf(bytes);
  bytes.set(new TextEncoder().encode(`binary STL ${name}`).subarray(0, 80));
  view.setUint32(80, count, true);
  for (let t = 0; t < count; t++) {
    const at = HEADER + RECORD * t;
    const [a, b, c] = [3 * triangles[3 * t], 3 * triangles[3 * t + 1], 3 * triangles[3 * t + 2]];
    const u = [0, 1, 2].map((k) => p[b + k] - p[a + k]);
    const w = [0, 1, 2].map((k) => p[c + k] - p[a + k]);
    const n = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
    const length = Math.hypot(n[0], n[1], n[2]) || 1;
    for (let k = 0; k < 3; k++) {
      view.setFloat32(at + 4 * k, n[k] / length, true);
      view.setFloat32(at + 12 + 4 * k, p[a + k], true);
      view.setFloat32(at + 24 + 4 * k, p[b + k], true);
      view.setFloat32(at + 36 + 4 * k, p[c + k], true);
    }
  }
  return bytes;
}

/** Stereolithography triangles, text or binary; vertices are welded by `bringIn`. */
export const stl: Format = {
  id: 'stl',
  name: 'STL',
  short: 'STL',
  unmarked: true,
  extensions: ['stl'],
  carries: { polygons: false, creases: false, regions: false, textureCoordinates: false, colours: false, units: false, exactNumbers: false },
  sniff: (bytes) =>
    (bytes.length >= HEADER && bytes.length === HEADER + RECORD * viewOf(bytes).getUint32(80, true)) || /^\s*solid\b/.test(ascii(bytes, 0, 80)),
  read: (bytes, progress) => (isBinary(bytes) ? readBinary(bytes, progress) : readText(bytes, progress)),
  write: (mesh, options) => write(mesh, options.name)
};
