import { validateBytes } from 'gltf-validator';
import { BufferGeometry, type Mesh } from 'three';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';
import { OBJLoader } from 'three/addons/loaders/OBJLoader.js';
import { PLYLoader } from 'three/addons/loaders/PLYLoader.js';
import { STLLoader } from 'three/addons/loaders/STLLoader.js';
import { describe, expect, it } from 'vitest';
import { Cage, formats, startShape, writeMesh, type PolygonMesh } from '@ulvrin/core';

const format = (id: string) => formats.find((f) => f.id === id)!;
/** A block of 30 by 20 by 10 mm, creased all over. */
const block = (): PolygonMesh => {
  const cage = Cage.fromPolygons(startShape.make({ shape: 'box', width: 30, height: 20, depth: 10, across: 3, up: 2, deep: 1 }));
  for (const e of cage.edges()) cage.setValue('crease', e, 4);
  return cage.toPolygons();
};
const triangles = (geometry: BufferGeometry) => (geometry.index?.count ?? geometry.getAttribute('position').count) / 3;
const sizeOf = (geometry: BufferGeometry) => {
  geometry.computeBoundingBox();
  const { min, max } = geometry.boundingBox!;
  return [max.x - min.x, max.y - min.y, max.z - min.z];
};

/** Files that are written here, read by readers others wrote. */
describe('others read', () => {
  it('glTF: the validator of the format finds nothing wrong, and a loader gets all triangles in metres', async () => {
    const bytes = writeMesh(block(), format('glb'), { name: 'Block' });
    const { issues } = await validateBytes(bytes);
    expect([issues.numErrors, issues.numWarnings, issues.messages.filter((m) => m.code !== 'UNUSED_OBJECT')]).toEqual([0, 0, []]);
    const { scene } = await new GLTFLoader().parseAsync(bytes.buffer, '');
    const { geometry } = scene.children[0] as Mesh;
    expect(triangles(geometry)).toBe(44);
    expect(sizeOf(geometry)).toEqual([0.03, 0.02, 0.01].map((x) => expect.closeTo(x, 6)));
    expect(geometry.getAttribute('normal').count).toBe(geometry.getAttribute('position').count);
  });

  it('OBJ, PLY and STL: loaders get all faces, in the file’s own numbers', () => {
    const mesh = block();
    const text = (id: string) => new TextDecoder().decode(writeMesh(mesh, format(id)));
    const obj = (new OBJLoader().parse(text('obj')).children[0] as Mesh).geometry;
    const ply = new PLYLoader().parse(writeMesh(mesh, format('ply')).buffer);
    const stl = new STLLoader().parse(writeMesh(mesh, format('stl')).buffer);
    for (const geometry of [obj, ply, stl]) {
      expect(triangles(geometry)).toBe(44);
      expect(sizeOf(geometry)).toEqual([30, 20, 10].map((x) => expect.closeTo(x, 4)));
    }
  });

  it('usdz: every file begins on a boundary of 64 bytes and is not packed', () => {
    const bytes = writeMesh(block(), format('usdz'));
    const view = new DataView(bytes.buffer);
    expect([view.getUint32(0, true), view.getUint16(8, true)]).toEqual([0x04034b50, 0]);
    expect((30 + view.getUint16(26, true) + view.getUint16(28, true)) % 64).toBe(0);
  });
});
