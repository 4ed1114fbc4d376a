import { describe, expect, it } from 'vitest';
import { polygonMesh, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { decodeMesh, encodeMesh, MeshBodyError } from './mesh-body.ts';

const sheet: PolygonMesh = {
  ...polygonMesh(
    [
      [0, 0, 0],
      [1 / 3, 0, 0],
      [1, 1e-300, 0],
      [0, 1, -5]
    ],
    [
      [0, 1, 2],
      [0, 2, 3]
    ]
  ),
  faceRegion: Int32Array.of(0, 1),
  creaseEdges: Int32Array.of(0, 2),
  creaseSharpness: Float64Array.of(2.5)
};

describe('a mesh as bytes', () => {
  it('comes back bit for bit, with its settings', () => {
    const { mesh, extra } = decodeMesh(encodeMesh(sheet, { count: 5, deep: { list: [1] } }));
    expect(mesh).toEqual(sheet);
    expect(extra).toEqual({ count: 5, deep: { list: [1] } });
  });

  it.each<[string, Uint8Array, RegExp]>([
    ['nothing', new Uint8Array(2), /no mesh/],
    ['bytes cut short', encodeMesh(sheet, {}).slice(0, -8), /ends within/],
    ['text', new TextEncoder().encode('\x05\0\0\0hello world'), /no JSON/],
    ['another header', new TextEncoder().encode('\x02\0\0\0{}'), /does not describe/],
    [
      'a face with a vertex that does not exist',
      encodeMesh({ ...sheet, faceVertices: Int32Array.of(0, 1, 9, 0, 2, 3) }, {}),
      /vertex that does not exist/
    ],
    ['a face of two corners', encodeMesh({ ...sheet, faceStart: Int32Array.of(0, 2, 6) }, {}), /three corners/],
    ['a crease without sharpness', encodeMesh({ ...sheet, creaseSharpness: Float64Array.of() }, {}), /one sharpness/]
  ])('refuses %s', (_name, bytes, reason) => {
    expect(() => decodeMesh(bytes)).toThrow(MeshBodyError);
    expect(() => decodeMesh(bytes)).toThrow(reason);
  });
});
