import { faceCount, vertexCount, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { GrowingArray } from '../numeric/growing.ts';
import { FormatError, type Format, type Progress, type ReadResult } from './format.ts';
import { TextScanner } from './text-scanner.ts';

type Scalar = 'i1' | 'u1' | 'i2' | 'u2' | 'i4' | 'u4' | 'f4' | 'f8';
const SIZES: Record<Scalar, number> = { i1: 1, u1: 1, i2: 2, u2: 2, i4: 4, u4: 4, f4: 4, f8: 8 };
const TYPES: Record<string, Scalar> = {
  char: 'i1',
  int8: 'i1',
  uchar: 'u1',
  uint8: 'u1',
  short: 'i2',
  int16: 'i2',
  ushort: 'u2',
  uint16: 'u2',
  int: 'i4',
  int32: 'i4',
  uint: 'u4',
  uint32: 'u4',
  float: 'f4',
  float32: 'f4',
  double: 'f8',
  float64: 'f8'
};

interface Property {
  name: string;
  type: Scalar;
  /** type of the count in front of a list */
  listOf?: Scalar;
}
interface PlyElement {
  name: string;
  count: number;
  properties: Property[];
}

/** Values one after the other, from text or from bytes. */
interface Source {
  value(type: Scalar, what: string): number;
  /** called after each element */
  endRow(): void;
  readonly fraction: number;
}

class BinarySource implements Source {
  private view: DataView;
  constructor(
    bytes: Uint8Array,
    private at: number,
    private little: boolean
  ) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }
  get fraction(): number {
    return this.at / this.view.byteLength;
  }
  endRow(): void {}
  value(type: Scalar, what: string): number {
    const { view, at, little } = this;
    this.at += SIZES[type];
    if (this.at > view.byteLength) throw new FormatError(`PLY: the file ends at byte ${view.byteLength}, within ${what}.`);
    switch (type) {
      case 'f4':
        return this.finite(view.getFloat32(at, little), at, what);
      case 'f8':
        return this.finite(view.getFloat64(at, little), at, what);
      case 'i4':
        return view.getInt32(at, little);
      case 'u4':
        return view.getUint32(at, little);
      case 'i2':
        return view.getInt16(at, little);
      case 'u2':
        return view.getUint16(at, little);
      case 'i1':
        return view.getInt8(at);
      case 'u1':
        return view.getUint8(at);
    }
  }
  private finite(x: number, at: number, what: string): number {
    if (!Number.isFinite(x)) throw new FormatError(`PLY, byte ${at}: ${what} holds a number that is not finite (${x}).`);
    return x;
  }
}

class TextSource implements Source {
  constructor(private scan: TextScanner) {}
  get fraction(): number {
    return this.scan.at / this.scan.bytes.length;
  }
  value(_type: Scalar, what: string): number {
    if (!this.scan.skipToContent()) this.scan.fail(`the file ends within ${what}.`);
    return this.scan.number(what);
  }
  endRow(): void {}
}

function readHeader(scan: TextScanner): { encoding: string; elements: PlyElement[] } {
  if (scan.word() !== 'ply') scan.fail('the file does not start with "ply".');
  const elements: PlyElement[] = [];
  let encoding = '';
  for (;;) {
    scan.nextLine();
    if (scan.atEnd) scan.fail('the file ends within the header ("end_header" is missing).');
    const keyword = scan.word();
    if (keyword === 'end_header') break;
    if (keyword === 'format') encoding = scan.word();
    else if (keyword === 'element') {
      const name = scan.word();
      const count = scan.integer(`the number of ${name} elements`);
      if (count < 0 || count > scan.bytes.length) scan.fail(`there cannot be ${count} ${name} elements in a file of ${scan.bytes.length} bytes.`);
      elements.push({ name, count, properties: [] });
    } else if (keyword === 'property') {
      const words = scan.rest().split(/\s+/);
      const list = words[0] === 'list';
      const type = TYPES[words[list ? 2 : 0]];
      const listOf = list ? TYPES[words[1]] : undefined;
      if (!type || (list && !listOf) || elements.length === 0) scan.fail(`this property is not understood.`);
      elements[elements.length - 1].properties.push({ name: words[list ? 3 : 1] ?? '', type, listOf });
    }
  }
  scan.nextLine();
  if (!/^(ascii|binary_little_endian|binary_big_endian)$/.test(encoding)) throw new FormatError(`PLY: the format "${encoding}" is not known.`);
  return { encoding, elements };
}

function read(bytes: Uint8Array, progress?: Progress): ReadResult {
  const scan = new TextScanner(bytes, 'PLY');
  const { encoding, elements } = readHeader(scan);
  const source = encoding === 'ascii' ? new TextSource(scan) : new BinarySource(bytes, scan.at, encoding === 'binary_little_endian');
  const vertices = elements.find((e) => e.name === 'vertex')?.count ?? 0;
  if (vertices === 0) throw new FormatError('PLY: the file has no vertices.');
  const positions = new Float64Array(3 * vertices);
  const vertexUv = new Float64Array(2 * vertices).fill(NaN);
  const colour = new Float64Array(3 * vertices);
  const starts = new GrowingArray(Int32Array, 1 << 14);
  const corners = new GrowingArray(Int32Array, 1 << 14);
  starts.push(0);
  const lost = new Set<string>();
  let [anyUv, anyColour] = [false, false];
  for (const element of elements) {
    const sinks = element.properties.map((p) => sinkOf(element.name, p));
    sinks.forEach((sink, i) => sink === 'skip' && lost.add(`${element.name} ${element.properties[i].name}`));
    anyUv ||= sinks.includes(3);
    anyColour ||= sinks.includes(5);
    for (let row = 0; row < element.count; row++) {
      for (let i = 0; i < sinks.length; i++) {
        const property = element.properties[i];
        const sink = sinks[i];
        const what = property.listOf || row % 4096 === 0 ? `${element.name} ${row}` : element.name;
        if (property.listOf) {
          const size = source.value(property.listOf, what);
          if (sink === 'corners') readFace(source, property.type, size, row, vertices, corners);
          else for (let k = 0; k < size; k++) source.value(property.type, what);
        } else {
          const x = source.value(property.type, what);
          if (typeof sink !== 'number') continue;
          if (sink < 3) positions[3 * row + sink] = x;
          else if (sink < 5) vertexUv[2 * row + sink - 3] = x;
          else colour[3 * row + sink - 5] = property.type === 'u1' ? x / 255 : x;
        }
      }
      if (element.name === 'face') starts.push(corners.length);
      source.endRow();
      if ((row & 0xffff) === 0) progress?.(source.fraction);
    }
  }
  if (corners.length === 0) throw new FormatError(`PLY: the file has ${vertices} vertices, but no faces.`);
  const mesh: PolygonMesh = { positions, faceStart: starts.done(), faceVertices: corners.done() };
  if (anyColour) mesh.vertexColour = colour;
  if (anyUv) {
    mesh.cornerUv = new Float64Array(2 * corners.length);
    mesh.faceVertices.forEach((v, c) => mesh.cornerUv!.set(vertexUv.subarray(2 * v, 2 * v + 2), 2 * c));
  }
  return { mesh, notes: lost.size > 0 ? [`Not kept: ${[...lost].join(', ')}.`] : [] };
}

/** Where a property goes: a coordinate 0-2, a texture coordinate 3-4, a colour 5-7, the face corners, or nowhere. */
function sinkOf(element: string, { name, listOf }: Property): number | 'corners' | 'skip' {
  if (element === 'face' && listOf && /^vertex_ind(ices|ex)$/.test(name)) return 'corners';
  if (element !== 'vertex' || listOf) return 'skip';
  const place = ['x', 'y', 'z'].indexOf(name);
  if (place >= 0) return place;
  const hue = ['red', 'green', 'blue'].indexOf(name);
  if (hue >= 0) return 5 + hue;
  if (/^(s|u|texture_u)$/.test(name)) return 3;
  return /^(t|v|texture_v)$/.test(name) ? 4 : 'skip';
}

function readFace(source: Source, type: Scalar, size: number, row: number, vertices: number, corners: GrowingArray<Int32Array>): void {
  if (size < 3) throw new FormatError(`PLY: face ${row} has ${size} corners; three are needed.`);
  for (let k = 0; k < size; k++) {
    const v = source.value(type, 'face');
    if (!(v >= 0 && v < vertices)) throw new FormatError(`PLY: face ${row} uses vertex ${v}, but the vertices go from 0 to ${vertices - 1}.`);
    corners.push(v);
  }
}

/** Binary little endian, double coordinates, so that numbers read back bit for bit; colours as floating numbers from 0 to 1. */
function write(mesh: PolygonMesh): Uint8Array<ArrayBuffer> {
  const faces = faceCount(mesh);
  let widest = 0;
  for (let f = 0; f < faces; f++) widest = Math.max(widest, mesh.faceStart[f + 1] - mesh.faceStart[f]);
  const wide = widest > 255;
  const { vertexColour: colour } = mesh;
  const colourLines = colour ? ['red', 'green', 'blue'].map((name) => `property double ${name}\n`).join('') : '';
  const header = new TextEncoder().encode(
    `ply\nformat binary_little_endian 1.0\nelement vertex ${vertexCount(mesh)}\nproperty double x\nproperty double y\nproperty double z\n${colourLines}` +
      `element face ${faces}\nproperty list ${wide ? 'uint' : 'uchar'} int vertex_indices\nend_header\n`
  );
  const bytes = new Uint8Array(header.length + 8 * mesh.positions.length * (colour ? 2 : 1) + (wide ? 4 : 1) * faces + 4 * mesh.faceVertices.length);
  bytes.set(header);
  const view = new DataView(bytes.buffer);
  let at = header.length;
  for (let v = 0; v < vertexCount(mesh); v++)
    for (const values of colour ? [mesh.positions, colour] : [mesh.positions])
      for (let k = 0; k < 3; k++, at += 8) view.setFloat64(at, values[3 * v + k], true);
  for (let f = 0; f < faces; f++) {
    const size = mesh.faceStart[f + 1] - mesh.faceStart[f];
    if (wide) {
      view.setUint32(at, size, true);
      at += 4;
    } else view.setUint8(at++, size);
    for (let c = mesh.faceStart[f]; c < mesh.faceStart[f + 1]; c++, at += 4) view.setInt32(at, mesh.faceVertices[c], true);
  }
  return bytes;
}

/** Polygon file format, text and binary either way round. */
export const ply: Format = {
  id: 'ply',
  name: 'PLY',
  extensions: ['ply'],
  carries: { polygons: true, creases: false, regions: false, textureCoordinates: false, colours: true, units: false, exactNumbers: true },
  sniff: (bytes) => bytes[0] === 112 && bytes[1] === 108 && bytes[2] === 121 && bytes[3] <= 32,
  read,
  write: (mesh) => write(mesh)
};
