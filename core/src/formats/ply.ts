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
  /** element that is being read, for messages */
  element: string;
  row: number;
  value(type: Scalar): number;
  readonly fraction: number;
  /** whether so many rows with so many values of so many bytes each can follow */
  holds(rows: number, values: number, bytes: number): boolean;
}

class BinarySource implements Source {
  private view: DataView;
  element = '';
  row = 0;
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
  holds(rows: number, _values: number, bytes: number): boolean {
    return rows * bytes <= this.view.byteLength - this.at;
  }
  value(type: Scalar): number {
    const { view, at, little } = this;
    this.at += SIZES[type];
    if (this.at > view.byteLength) throw new FormatError(`PLY: the file ends at byte ${view.byteLength}, within ${this.element} ${this.row}.`);
    switch (type) {
      case 'f4':
        return this.finite(view.getFloat32(at, little), at);
      case 'f8':
        return this.finite(view.getFloat64(at, little), at);
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
  private finite(x: number, at: number): number {
    if (!Number.isFinite(x)) throw new FormatError(`PLY, byte ${at}: ${this.element} ${this.row} holds a number that is not finite (${x}).`);
    return x;
  }
}

class TextSource implements Source {
  element = '';
  row = 0;
  constructor(private scan: TextScanner) {}
  get fraction(): number {
    return this.scan.at / this.scan.bytes.length;
  }
  /** A value takes a digit and a blank at least. */
  holds(rows: number, values: number): boolean {
    return rows * values * 2 <= this.scan.bytes.length - this.scan.at + 1;
  }
  value(): number {
    if (!this.scan.skipToContent()) this.scan.fail(`the file ends within ${this.element} ${this.row}.`);
    return this.scan.number(this.element);
  }
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
  const vertexElement = elements.find((e) => e.name === 'vertex');
  const vertices = vertexElement?.count ?? 0;
  if (vertices === 0) throw new FormatError('PLY: the file has no vertices.');
  // lists may be empty: of them the count alone must be there
  for (const { name, count, properties } of elements)
    if (
      !source.holds(
        count,
        properties.length,
        properties.reduce((sum, p) => sum + SIZES[p.listOf ?? p.type], 0)
      )
    )
      throw new FormatError(
        `PLY: the file ends at byte ${bytes.length}, within the ${count.toLocaleString('en')} ${name} elements that its header announces: it was cut off.`
      );
  const reader = new PlyReader(source, vertices);
  reader.make(vertexElement!);
  for (const element of elements) reader.readAll(element, progress);
  return reader.result();
}

/** Puts the values of a file where they belong; room is made for what the header names only. */
class PlyReader {
  private readonly positions: Float64Array;
  private uv: Float64Array | undefined;
  private colour: Float64Array | undefined;
  private readonly starts = new GrowingArray(Int32Array, 1 << 14);
  private readonly corners = new GrowingArray(Int32Array, 1 << 14);
  private readonly lost = new Set<string>();

  constructor(
    private readonly source: Source,
    private readonly vertices: number
  ) {
    this.positions = new Float64Array(3 * vertices);
    this.starts.push(0);
  }

  /** Makes room for what vertices have besides their places. */
  make({ name, properties }: PlyElement): void {
    const sinks = properties.map((p) => sinkOf(name, p));
    if (sinks.includes(3)) this.uv = new Float64Array(2 * this.vertices).fill(NaN);
    if (sinks.includes(5)) this.colour = new Float64Array(3 * this.vertices);
  }

  readAll({ name, count, properties }: PlyElement, progress?: Progress): void {
    const { source } = this;
    const sinks = properties.map((p) => sinkOf(name, p));
    sinks.forEach((sink, i) => sink === 'skip' && this.lost.add(`${name} ${properties[i].name}`));
    source.element = name;
    for (let row = 0; row < count; row++) {
      source.row = row;
      for (let i = 0; i < sinks.length; i++) {
        const { type, listOf } = properties[i];
        if (!listOf) this.put(sinks[i], row, source.value(type), type);
        else if (sinks[i] === 'corners') readFace(source, type, source.value(listOf), row, this.vertices, this.corners);
        else for (let k = source.value(listOf); k > 0; k--) source.value(type);
      }
      if (name === 'face') this.starts.push(this.corners.length);
      if ((row & 0xffff) === 0) progress?.(source.fraction);
    }
  }

  private put(sink: number | 'corners' | 'skip', row: number, x: number, type: Scalar): void {
    if (typeof sink !== 'number') return;
    if (sink < 3) this.positions[3 * row + sink] = x;
    else if (sink < 5) {
      if (this.uv) this.uv[2 * row + sink - 3] = x;
    } else if (this.colour) this.colour[3 * row + sink - 5] = type === 'u1' ? x / 255 : x;
  }

  result(): ReadResult {
    const { corners, uv, lost } = this;
    if (corners.length === 0) throw new FormatError(`PLY: the file has ${this.vertices} vertices, but no faces.`);
    const mesh: PolygonMesh = { positions: this.positions, faceStart: this.starts.done(), faceVertices: corners.done() };
    if (this.colour) mesh.vertexColour = this.colour;
    if (uv) {
      mesh.cornerUv = new Float64Array(2 * corners.length);
      mesh.faceVertices.forEach((v, c) => mesh.cornerUv!.set(uv.subarray(2 * v, 2 * v + 2), 2 * c));
    }
    return { mesh, notes: lost.size > 0 ? [`Not kept: ${[...lost].join(', ')}.`] : [] };
  }
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
    const v = source.value(type);
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
  short: 'PLY',
  extensions: ['ply'],
  carries: { polygons: true, creases: false, regions: false, textureCoordinates: false, colours: true, units: false, exactNumbers: true },
  sniff: (bytes) => bytes[0] === 112 && bytes[1] === 108 && bytes[2] === 121 && bytes[3] <= 32,
  read,
  write: (mesh) => write(mesh)
};
