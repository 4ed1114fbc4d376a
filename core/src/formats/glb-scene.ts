import { type PolygonMesh, uniformMesh } from '../mesh/polygon-mesh.ts';
import { GrowingArray } from '../numeric/growing.ts';
import { FormatError } from './format.ts';

/** What of a glTF scene is read. */
export interface Gltf {
  scene?: number;
  scenes?: { nodes?: number[] }[];
  nodes?: GltfNode[];
  meshes?: { primitives?: GltfPrimitive[]; extras?: Record<string, unknown> }[];
  accessors?: { bufferView?: number; byteOffset?: number; componentType?: number; count?: number; type?: string; sparse?: unknown }[];
  bufferViews?: { byteOffset?: number; byteLength?: number; byteStride?: number }[];
}
interface GltfNode {
  mesh?: number;
  children?: number[];
  matrix?: number[];
  translation?: number[];
  rotation?: number[];
  scale?: number[];
}
interface GltfPrimitive {
  attributes?: Record<string, number>;
  indices?: number;
  mode?: number;
  extensions?: Record<string, unknown>;
}

/** Bytes of a component, and how it is read. */
const COMPONENTS: Record<number, [bytes: number, read: (view: DataView, at: number) => number]> = {
  5121: [1, (view, at) => view.getUint8(at)],
  5123: [2, (view, at) => view.getUint16(at, true)],
  5125: [4, (view, at) => view.getUint32(at, true)],
  5126: [4, (view, at) => view.getFloat32(at, true)]
};
const TRIANGLES = 4;
/** Nodes below each other at most: a scene that holds itself has no end. */
const DEEPEST = 64;

/** Numbers of an accessor, so many an element. @throws FormatError */
function numbersOf({ accessors, bufferViews }: Gltf, numbers: Uint8Array, index: number | undefined, each: number, what: string): Float64Array {
  const accessor = accessors?.[index ?? -1];
  const view = bufferViews?.[accessor?.bufferView ?? -1];
  const component = COMPONENTS[accessor?.componentType ?? 0];
  const count = accessor?.count ?? -1;
  if (!accessor || !view || !component || !Number.isInteger(count) || count < 0)
    throw new FormatError(`glTF: ${what} cannot be read: accessor ${index} is missing or of another kind.`);
  if (accessor.sparse) throw new FormatError(`glTF: ${what} are stored sparsely, which is not read.`);
  const [long, read] = component;
  const stride = view.byteStride ?? each * long;
  const start = (view.byteOffset ?? 0) + (accessor.byteOffset ?? 0);
  const end = count === 0 ? start : start + (count - 1) * stride + each * long;
  if (!(start >= 0) || !(stride >= each * long) || !(end <= numbers.length))
    throw new FormatError(`glTF: ${what} of accessor ${index} lie outside the file's numbers.`);
  const data = new DataView(numbers.buffer, numbers.byteOffset, numbers.byteLength);
  const out = new Float64Array(each * count);
  for (let i = 0; i < count; i++) for (let k = 0; k < each; k++) out[each * i + k] = read(data, start + i * stride + k * long);
  return out;
}

type Matrix = readonly number[];
const IDENTITY: Matrix = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** A matrix by columns, as glTF has them, from what a node says. */
function matrixOf({ matrix, translation = [0, 0, 0], rotation = [0, 0, 0, 1], scale = [1, 1, 1] }: GltfNode): Matrix {
  if (Array.isArray(matrix) && matrix.length === 16 && matrix.every(Number.isFinite)) return matrix;
  const [x, y, z, w] = rotation.map(Number);
  const [a, b, c] = scale.map(Number);
  return [
    [(1 - 2 * (y * y + z * z)) * a, 2 * (x * y + w * z) * a, 2 * (x * z - w * y) * a, 0],
    [2 * (x * y - w * z) * b, (1 - 2 * (x * x + z * z)) * b, 2 * (y * z + w * x) * b, 0],
    [2 * (x * z + w * y) * c, 2 * (y * z - w * x) * c, (1 - 2 * (x * x + y * y)) * c, 0],
    [...translation.map(Number), 1]
  ].flat();
}

const product = (a: Matrix, b: Matrix): Matrix =>
  Array.from({ length: 16 }, (_, i) => [0, 1, 2, 3].reduce((sum, k) => sum + a[4 * k + (i % 4)] * b[4 * Math.floor(i / 4) + k], 0));

/** All triangles of a scene, where its nodes put them. @throws FormatError where there are none, or they cannot be read */
export function readScene(json: Gltf, numbers: Uint8Array): { mesh: PolygonMesh; notes: string[] } {
  const places = new GrowingArray(Float64Array, 1 << 12);
  const corners = new GrowingArray(Int32Array, 1 << 12);
  const notes = new Set<string>();
  const take = (primitive: GltfPrimitive, matrix: Matrix) => {
    if ((primitive.mode ?? TRIANGLES) !== TRIANGLES) return void notes.add('Lines, points, strips and fans of the glTF file are not kept.');
    if (primitive.extensions && Object.keys(primitive.extensions).some((name) => /compression|meshopt/i.test(name)))
      throw new FormatError('glTF: the mesh is compressed, which is not read. Save it without compression.');
    const own = numbersOf(json, numbers, primitive.attributes?.POSITION, 3, 'places');
    const first = places.length / 3;
    for (let i = 0; i < own.length; i += 3)
      for (let k = 0; k < 3; k++) {
        const x = matrix[k] * own[i] + matrix[4 + k] * own[i + 1] + matrix[8 + k] * own[i + 2] + matrix[12 + k];
        if (!Number.isFinite(x)) throw new FormatError(`glTF: coordinate ${'xyz'[k]} of vertex ${i / 3} is not a finite number.`);
        places.push(x);
      }
    const many = own.length / 3;
    const indices =
      primitive.indices === undefined
        ? Float64Array.from({ length: many - (many % 3) }, (_, i) => i)
        : numbersOf(json, numbers, primitive.indices, 1, 'corners');
    if (indices.length % 3 !== 0) throw new FormatError(`glTF: ${indices.length} corners make no whole number of triangles.`);
    for (const v of indices) {
      if (!(v < many)) throw new FormatError(`glTF: a triangle uses vertex ${v} of ${many}.`);
      corners.push(first + v);
    }
    if (primitive.attributes?.TEXCOORD_0 !== undefined) notes.add('Texture coordinates of the glTF file are not kept.');
    if (primitive.attributes?.COLOR_0 !== undefined) notes.add('Vertex colours of the glTF file are not kept.');
  };
  const visit = (index: number, above: Matrix, depth: number) => {
    const node = json.nodes?.[index];
    if (!node || typeof node !== 'object') throw new FormatError(`glTF: the scene names node ${index}, which is not there.`);
    if (depth > DEEPEST) throw new FormatError(`glTF: nodes lie more than ${DEEPEST} deep in each other.`);
    const matrix = product(above, matrixOf(node));
    if (node.mesh !== undefined) for (const primitive of json.meshes?.[node.mesh]?.primitives ?? []) take(primitive, matrix);
    for (const child of node.children ?? []) visit(child, matrix, depth + 1);
  };
  try {
    const roots = json.scenes?.[json.scene ?? 0]?.nodes ?? json.nodes?.map((_, i) => i) ?? [];
    for (const root of roots) visit(root, IDENTITY, 0);
  } catch (error) {
    if (error instanceof TypeError) throw new FormatError('glTF: the description of the scene is not as the format has it.');
    throw error;
  }
  if (corners.length === 0) throw new FormatError('glTF: the scene holds no triangles.');
  return { mesh: uniformMesh(places.done(), corners.done(), 3), notes: [...notes] };
}
