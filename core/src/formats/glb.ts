import { boundsOf, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { shadedTriangles } from '../reference/shading.ts';
import { FormatError, type Format, type Progress, type ReadResult, type WriteOptions } from './format.ts';
import { type Gltf, readScene } from './glb-scene.ts';
import { joinedBytes } from './join-bytes.ts';

/* glTF 2.0 in its binary container (Khronos 2021): a header, a chunk of JSON and one of numbers. */
const [MAGIC, JSON_CHUNK, BINARY_CHUNK] = [0x46546c67, 0x4e4f534a, 0x004e4942];
const [FLOAT, UINT32] = [5126, 5125];
const [VERTICES, INDICES] = [34962, 34963];
/** mm in the unit of glTF. */
const METRE = 1000;
/** Under this name among the extras of a mesh its cage is kept: polygons and marks, in mm, by numbers of buffer views. */
const EXTRAS = 'ulvrinCage';

type Numbers = Float64Array | Float32Array | Int32Array | Uint32Array;

/** What is kept of a cage, by name, and how it is read back. */
const KEPT = {
  positions: Float64Array,
  faceStart: Int32Array,
  faceVertices: Int32Array,
  faceRegion: Int32Array,
  vertexColour: Float64Array,
  cornerUv: Float64Array,
  creaseEdges: Int32Array,
  creaseSharpness: Float64Array,
  cornerVertices: Int32Array,
  cornerSharpness: Float64Array
} as const;

/** Collects arrays one after the other, each on a boundary of eight bytes. */
class Buffer {
  readonly views: object[] = [];
  readonly parts: Uint8Array[] = [];
  length = 0;

  /** @returns number of its view */
  add(array: Numbers, target?: number): number {
    const bytes = new Uint8Array(array.buffer, array.byteOffset, array.byteLength);
    this.views.push({ buffer: 0, byteOffset: this.length, byteLength: bytes.length, ...(target && { target }) });
    this.parts.push(bytes, new Uint8Array(-bytes.length & 7));
    this.length += bytes.length + (-bytes.length & 7);
    return this.views.length - 1;
  }
}

function write(mesh: PolygonMesh, { name, upAxis, millimetresPerUnit, scheme, borderCorners }: WriteOptions): Uint8Array<ArrayBuffer> {
  // the format says Y is up, and counts in metres
  const size = millimetresPerUnit / METRE;
  const p = mesh.positions;
  const places = new Float64Array(p.length);
  for (let i = 0; i < p.length; i += 3) {
    places[i] = size * p[i];
    places[i + 1] = size * (upAxis === 'Y' ? p[i + 1] : p[i + 2]);
    places[i + 2] = size * (upAxis === 'Y' ? p[i + 2] : -p[i + 1]);
  }
  const { positions, normals, triangles } = shadedTriangles(places, triangulate(mesh).triangles);
  const buffer = new Buffer();
  const { min, max } = boundsOf(positions);
  const accessor = (view: number, type: string, componentType: number, count: number, more = {}) => ({
    bufferView: view,
    componentType,
    count,
    type,
    ...more
  });
  const accessors = [
    accessor(buffer.add(positions, VERTICES), 'VEC3', FLOAT, positions.length / 3, {
      min,
      max
    }),
    accessor(buffer.add(Float32Array.from(normals), VERTICES), 'VEC3', FLOAT, positions.length / 3),
    accessor(buffer.add(triangles, INDICES), 'SCALAR', UINT32, triangles.length)
  ];
  const kept = Object.entries(KEPT).flatMap(([layer, Kind]) => {
    const array = mesh[layer as keyof typeof KEPT];
    return array ? [[layer, buffer.add(array instanceof Kind ? array : Kind.from(array as never))] as const] : [];
  });
  const json = {
    asset: { version: '2.0', generator: 'Ulvrin' },
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [{ mesh: 0, name }],
    meshes: [
      {
        name,
        primitives: [{ attributes: { POSITION: 0, NORMAL: 1 }, indices: 2 }],
        extras: {
          [EXTRAS]: { layers: Object.fromEntries(kept), regionNames: mesh.regionNames, scheme, borderCorners, upAxis, millimetresPerUnit }
        }
      }
    ],
    accessors,
    bufferViews: buffer.views,
    buffers: [{ byteLength: buffer.length }]
  };
  const text = new TextEncoder().encode(JSON.stringify(json));
  const padded = joinedBytes([text, new Uint8Array(-text.length & 3).fill(0x20)]);
  const whole = 12 + 8 + padded.length + 8 + buffer.length;
  const words = (...values: number[]) => new Uint8Array(Uint32Array.from(values).buffer);
  return joinedBytes([words(MAGIC, 2, whole), words(padded.length, JSON_CHUNK), padded, words(buffer.length, BINARY_CHUNK), ...buffer.parts]);
}

/** JSON and numbers of a container. @throws FormatError */
function chunksOf(bytes: Uint8Array): { json: Gltf; numbers: Uint8Array } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 20 || view.getUint32(4, true) !== 2) throw new FormatError('glTF: only version 2 of the binary container is read.');
  let json: Gltf | undefined;
  let numbers = new Uint8Array();
  for (let at = 12; at + 8 <= bytes.length;) {
    const [long, kind] = [view.getUint32(at, true), view.getUint32(at + 4, true)];
    if (at + 8 + long > bytes.length) throw new FormatError(`glTF: the file ends within a chunk that begins at byte ${at}.`);
    // copied: its numbers begin on boundaries then
    const own = new Uint8Array(bytes.subarray(at + 8, at + 8 + long));
    if (kind === JSON_CHUNK && !json) {
      try {
        json = JSON.parse(new TextDecoder().decode(own)) as Gltf;
      } catch {
        throw new FormatError('glTF: the chunk of JSON cannot be read as such.');
      }
    } else if (kind === BINARY_CHUNK && numbers.length === 0) numbers = own;
    at += 8 + long + (-long & 3);
  }
  if (!json || typeof json !== 'object') throw new FormatError('glTF: the file holds no description of its scene.');
  return { json, numbers };
}

interface KeptCage {
  layers: Record<string, number>;
  regionNames?: string[];
  scheme?: ReadResult['scheme'];
  borderCorners?: ReadResult['borderCorners'];
  upAxis?: 'Y' | 'Z';
  millimetresPerUnit?: number;
}

/** The cage that was kept among the extras; nothing where none was, or it is not whole. */
function keptCage(json: Gltf, numbers: Uint8Array): ReadResult | undefined {
  const kept = json.meshes?.length === 1 ? (json.meshes[0]?.extras?.[EXTRAS] as KeptCage | undefined) : undefined;
  if (!kept?.layers || typeof kept.layers !== 'object') return undefined;
  const mesh: Record<string, unknown> = {};
  for (const [layer, Kind] of Object.entries(KEPT)) {
    const index = kept.layers[layer];
    if (index === undefined) continue;
    const view = json.bufferViews?.[index];
    const [start, long] = [view?.byteOffset ?? 0, view?.byteLength ?? -1];
    if (!(start >= 0) || !(long >= 0) || start + long > numbers.length || start % 8 !== 0 || long % Kind.BYTES_PER_ELEMENT !== 0) return undefined;
    mesh[layer] = new Kind(numbers.slice(start, start + long).buffer);
  }
  if (!mesh.positions || !mesh.faceStart || !mesh.faceVertices) return undefined;
  if (mesh.faceRegion) mesh.regionNames = Array.isArray(kept.regionNames) ? kept.regionNames.map(String) : [];
  return {
    mesh: mesh as unknown as PolygonMesh,
    notes: ['The cage kept with the triangles was read, with its marks.'],
    millimetresPerUnit: Number(kept.millimetresPerUnit) > 0 ? Number(kept.millimetresPerUnit) : 1,
    upAxis: kept.upAxis === 'Z' ? 'Z' : 'Y',
    scheme: kept.scheme,
    borderCorners: kept.borderCorners
  };
}

function read(bytes: Uint8Array, progress?: Progress): ReadResult {
  const { json, numbers } = chunksOf(bytes);
  progress?.(0.3);
  const kept = keptCage(json, numbers);
  if (kept && isWhole(kept.mesh)) return kept;
  const { mesh, notes } = readScene(json, numbers);
  return { mesh, notes, millimetresPerUnit: METRE, upAxis: 'Y' };
}

/** Whether the numbers of a kept cage fit each other. */
function isWhole(mesh: PolygonMesh): boolean {
  const { positions, faceStart, faceVertices } = mesh;
  const faces = faceStart.length - 1;
  const vertices = positions.length / 3;
  if (!Number.isInteger(vertices) || faces < 1 || faceStart[0] !== 0 || faceStart[faces] !== faceVertices.length) return false;
  for (let f = 0; f < faces; f++) if (faceStart[f + 1] < faceStart[f] + 3) return false;
  const fits = (list: ArrayLike<number> | undefined, long: number) => list === undefined || list.length === long;
  const isInside = (list: Int32Array | undefined) => list === undefined || list.every((v) => v >= 0 && v < vertices);
  return (
    positions.every(Number.isFinite) &&
    isInside(faceVertices) &&
    isInside(mesh.creaseEdges) &&
    isInside(mesh.cornerVertices) &&
    fits(mesh.faceRegion, faces) &&
    fits(mesh.vertexColour, positions.length) &&
    fits(mesh.cornerUv, 2 * faceVertices.length) &&
    fits(mesh.creaseEdges, 2 * (mesh.creaseSharpness?.length ?? 0)) &&
    fits(mesh.cornerVertices, mesh.cornerSharpness?.length ?? 0) &&
    (mesh.faceRegion?.every((r) => r >= 0 && r < (mesh.regionNames?.length ?? 0)) ?? true)
  );
}

/** Binary glTF: triangles with normals for everybody, and the cage with its marks in extras for us. */
export const glb: Format = {
  id: 'glb',
  name: 'glTF binary',
  short: 'glTF',
  extensions: ['glb'],
  carries: { polygons: true, creases: true, regions: true, textureCoordinates: true, colours: true, units: true, exactNumbers: true },
  othersSee: 'Others see triangles in place of the cage, without its marks, in metres.',
  sniff: (bytes) => bytes.length >= 12 && new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true) === MAGIC,
  read,
  write
};
