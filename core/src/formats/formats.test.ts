import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyCage } from '../../testing/random-meshes.ts';
import { bytesOf as bytes, refusal } from '../../testing/refusal.ts';
import { Cage } from '../mesh/cage.ts';
import { faceCount, polygonMesh, vertexCount, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { box, cylinder, plane, quadSphere } from '../shapes/start-shapes.ts';
import { Subdivision } from '../subdivide/subdivision.ts';
import { bringIn } from './bring-in.ts';
import { losses } from './format.ts';
import { obj } from './obj.ts';
import { off } from './off.ts';
import { ply } from './ply.ts';
import { formats, readMesh, tooLarge, writeMesh } from './registry.ts';
import { stl } from './stl.ts';
import { usda } from './usda.ts';

const read = (text: string, name: string) => readMesh(bytes(text), name).mesh;
const facesOf = (mesh: PolygonMesh) =>
  Array.from({ length: faceCount(mesh) }, (_, f) => [...mesh.faceVertices.subarray(mesh.faceStart[f], mesh.faceStart[f + 1])]);

describe('writing and reading back', () => {
  it.each(formats.filter((f) => f.carries.polygons).map((f) => [f.name, f] as const))('%s keeps any polygons bit for bit', (_name, format) => {
    fc.assert(
      fc.property(anyCage, (cage) => {
        const mesh = cage.toPolygons();
        const back = readMesh(writeMesh(mesh, format), `x.${format.extensions[0]}`).mesh;
        expect(back.positions).toEqual(mesh.positions);
        expect(facesOf(back)).toEqual(facesOf(mesh));
      }),
      { numRuns: 25 }
    );
  });

  it('numbers with many digits survive as text', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ noNaN: true, noDefaultInfinity: true }), { minLength: 9, maxLength: 9 }), (numbers) => {
        const mesh = polygonMesh([numbers.slice(0, 3), numbers.slice(3, 6), numbers.slice(6)], [[0, 1, 2]]);
        for (const format of [obj, off, usda])
          expect(readMesh(writeMesh(mesh, format), `x.${format.id}`).mesh.positions).toEqual(mesh.positions.map((x) => x + 0));
      })
    );
  });

  it('STL keeps the surface, in triangles, and is welded on the way in', () => {
    const brought = bringIn(writeMesh(box({ x: 2, y: 2, z: 2 }, { x: 2, y: 2, z: 2 }), stl), 'x.stl');
    expect([brought.facts.vertices, brought.facts.triangles, brought.facts.borders]).toEqual([26, 48, 0]);
    expect(brought.notes.join(' ')).toContain('Welded 118 vertices');
  });

  it('usda keeps creases, corners, regions, texture coordinates, scheme and border rule', () => {
    const mesh: PolygonMesh = {
      ...plane(2, 2, 2, 1),
      faceRegion: Int32Array.of(0, 1),
      regionNames: ['deck', 'rail'],
      creaseEdges: Int32Array.of(0, 1, 1, 4),
      creaseSharpness: Float64Array.of(2.5, 10),
      cornerVertices: Int32Array.of(5),
      cornerSharpness: Float64Array.of(3.25),
      cornerUv: Float64Array.from({ length: 16 }, (_, i) => i / 7)
    };
    const back = readMesh(writeMesh(mesh, usda, { scheme: 'loop', borderCorners: 'rounded', upAxis: 'Z', millimetresPerUnit: 10 }), 'x.usda');
    expect(back.mesh.creaseSharpness).toEqual(mesh.creaseSharpness);
    expect(back.mesh.creaseEdges).toEqual(mesh.creaseEdges);
    expect([...back.mesh.cornerVertices!, ...back.mesh.cornerSharpness!]).toEqual([5, 3.25]);
    expect(back.mesh.cornerUv).toEqual(mesh.cornerUv);
    expect([...back.mesh.faceRegion!].map((r) => back.mesh.regionNames![r])).toEqual(['deck', 'rail']);
    expect([back.scheme, back.borderCorners, back.upAxis, back.millimetresPerUnit]).toEqual(['loop', 'rounded', 'Z', 10]);
  });

  it('PLY and usda keep colours of vertices, also whole numbers of others, through a cage and its subdivision', () => {
    const mesh = plane(2, 1, 2, 1);
    mesh.vertexColour = Float64Array.from({ length: 18 }, (_, i) => (i % 7) / 7);
    for (const format of [obj, ply, usda]) {
      const { mesh: back, notes } = bringIn(writeMesh(mesh, format), `x.${format.id}`);
      expect(back.vertexColour).toEqual(mesh.vertexColour);
      expect(notes).toContain('Colours of vertices are kept.');
    }
    const text =
      'ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0 255 0 0\n1 0 0 0 255 0\n0 1 0 0 0 51\n3 0 1 2\n';
    expect([...read(text, 'a.ply').vertexColour!]).toEqual([1, 0, 0, 0, 1, 0, 0, 0, 0.2]);
    const cage = Cage.fromPolygons(mesh).toPolygons();
    expect(cage.vertexColour).toEqual(mesh.vertexColour);
    const fine = new Subdivision(cage, { levels: 1 }).toPolygons(cage);
    expect([...fine.vertexColour!.subarray(0, 18)]).toEqual([...mesh.vertexColour]);
    expect(fine.vertexColour).toHaveLength(fine.positions.length);
    expect(losses(off, mesh).join(' ')).toContain('OFF holds no colours');
  });

  it('OBJ keeps groups and texture coordinates with seams', () => {
    const mesh: PolygonMesh = {
      ...plane(2, 2, 2, 1),
      faceRegion: Int32Array.of(1, 0),
      regionNames: ['deck', 'rail'],
      cornerUv: Float64Array.from({ length: 16 }, (_, i) => i / 3)
    };
    const back = readMesh(writeMesh(mesh, obj), 'x.obj').mesh;
    expect([...back.faceRegion!].map((r) => back.regionNames![r])).toEqual(['x / rail', 'x / deck'].map((n) => n.replace('x', 'part')));
    expect(back.cornerUv).toEqual(mesh.cornerUv);
  });

  it('says what a format would lose', () => {
    const mesh: PolygonMesh = {
      ...plane(2, 2, 2, 2),
      creaseEdges: Int32Array.of(0, 1),
      creaseSharpness: Float64Array.of(4),
      cornerUv: new Float64Array(32)
    };
    expect(losses(usda, mesh)).toEqual([]);
    expect(losses(obj, mesh).join(' ')).toMatch(/1 creased edges/);
    expect(losses(stl, mesh).join(' ')).toMatch(/4 quads and n-gons are cut.*creased.*texture.*7 digits/);
  });
});

describe('reading what others write', () => {
  it('OBJ: negative indices, missing normals, joined lines, comments, polygons of any size', () => {
    const mesh = read(
      '# a panel\nv 0 0 0\nv 1 0 0 \\\n\nv 1 1 0\nv 0 1 0\nv 0.5 2 0\nvn 0 0 1\nf -5//1 -4//1 -3 -1 -2 # five\nf 1/ 2 3\ns off\n',
      'a.obj'
    );
    expect(facesOf(mesh)).toEqual([
      [0, 1, 2, 4, 3],
      [0, 1, 2]
    ]);
  });

  it('PLY: text and binary both ways round, lists of any size, unknown elements left out', () => {
    const header = (kind: string) =>
      `ply\nformat ${kind} 1.0\ncomment made up\nelement vertex 5\nproperty float x\nproperty uchar flag\nproperty float y\nproperty float z\nelement face 2\nproperty list ushort uint vertex_indices\nproperty int tag\nelement other 1\nproperty list uchar float values\nend_header\n`;
    const points = [
      [0, 0, 0],
      [1, 0, 0],
      [1, 1, 0],
      [0, 1, 0],
      [0.5, 2, 0]
    ];
    const faces = [
      [0, 1, 2, 4, 3],
      [0, 2, 1]
    ];
    const text =
      header('ascii') +
      points.map(([x, y, z]) => `${x} 7 ${y} ${z}`).join('\n') +
      '\n' +
      faces.map((f) => `${f.length} ${f.join(' ')} 3`).join('\n') +
      '\n2 1 1\n';
    expect(facesOf(read(text, 'a.ply'))).toEqual(faces);
    for (const little of [true, false]) {
      const head = bytes(header(little ? 'binary_little_endian' : 'binary_big_endian'));
      const view = new DataView(new ArrayBuffer(500));
      let at = 0;
      const put = (kind: 'Float32' | 'Uint8' | 'Uint16' | 'Uint32' | 'Int32', x: number, size: number) => {
        view[`set${kind}`](at, x, little);
        at += size;
      };
      for (const [x, y, z] of points) {
        put('Float32', x, 4);
        put('Uint8', 9, 1);
        put('Float32', y, 4);
        put('Float32', z, 4);
      }
      for (const f of faces) {
        put('Uint16', f.length, 2);
        for (const v of f) put('Uint32', v, 4);
        put('Int32', 3, 4);
      }
      put('Uint8', 1, 1);
      put('Float32', 1, 4);
      const mesh = readMesh(Uint8Array.of(...head, ...new Uint8Array(view.buffer, 0, at)), 'a.ply').mesh;
      expect(facesOf(mesh)).toEqual(faces);
      expect([...mesh.positions]).toEqual(points.flat());
    }
  });

  it('STL text, and STL that is called something else', () => {
    const text = 'solid gull\n facet normal 0 0 1\n outer loop\n vertex 0 0 0\n vertex 1e0 0 0\n vertex 0 1 0\n endloop\n endfacet\nendsolid gull\n';
    expect(facesOf(read(text, 'a.stl'))).toEqual([[0, 1, 2]]);
    const renamed = readMesh(writeMesh(quadSphere(1, 2), stl), 'a.obj');
    expect(renamed.format.id).toBe('stl');
    expect(renamed.notes[0]).toContain('The name says OBJ, the content is STL');
  });

  it('OFF: comments, counts on the first line, colours after the corners', () => {
    expect(facesOf(read('OFF 4 1 0 # four\n0 0 0\n1 0 0\n\n1 1 0\n0 1 0\n4 0 1 2 3 255 0 0\n', 'a.off'))).toEqual([[0, 1, 2, 3]]);
  });

  it('usda: several meshes, left-handed faces, indexed texture coordinates, creases of several edges', () => {
    const mesh = (name: string, rest: string) =>
      `def Xform "top" {\n def Mesh "${name}" {\n point3f[] points = [(0,0,0),(1,0,0),(1,1,0),(0,1,0)]\n int[] faceVertexCounts = [4]\n int[] faceVertexIndices = [0,1,2,3]\n ${rest}\n }\n}\n`;
    const result = readMesh(
      bytes(
        `#usda 1.0\n( metersPerUnit = 0.001\n upAxis = "Z" )\n${mesh('a', 'uniform token orientation = "leftHanded"')}${mesh('b', 'int[] creaseIndices = [0,1,2]\n int[] creaseLengths = [3]\n float[] creaseSharpnesses = [4]')}`
      ),
      'a.usda'
    );
    expect(facesOf(result.mesh)).toEqual([
      [3, 2, 1, 0],
      [4, 5, 6, 7]
    ]);
    expect([...result.mesh.creaseEdges!]).toEqual([4, 5, 5, 6]);
    expect([...result.mesh.creaseSharpness!]).toEqual([4, 4]);
    expect([result.upAxis, result.millimetresPerUnit]).toEqual(['Z', 1]);
  });
});

describe('bringing in', () => {
  it('measures in mm, turned up, and proposes a reference for dense triangles', () => {
    const sculpt = bringIn(writeMesh(quadSphere(1, 30), stl), 'a.stl', { millimetresPerUnit: 10 });
    expect(sculpt.suggestion).toBe('reference');
    expect(sculpt.facts.bounds.max[0]).toBeCloseTo(10, 5);
    const tower = bringIn(writeMesh(box({ x: 1, y: 2, z: 8 }, { x: 1, y: 1, z: 1 }), obj), 'a.obj', { upAxis: 'Z' });
    expect(tower.suggestion).toBe('cage');
    expect(tower.facts.bounds.max[1] - tower.facts.bounds.min[1]).toBeCloseTo(8);
  });

  it('counts borders, islands and handles', () => {
    const { facts } = bringIn(writeMesh(cylinder(2, 3, 9, 2, false), off), 'a.off');
    expect([facts.borders, facts.islands, facts.genus, facts.quads]).toEqual([2, 1, 0, 18]);
  });

  it('reads an n-gon of 10,000 corners', () => {
    const points = Array.from({ length: 10_000 }, (_, i) => [Math.cos((2 * Math.PI * i) / 10_000), Math.sin((2 * Math.PI * i) / 10_000), 0]);
    const brought = bringIn(writeMesh(polygonMesh(points, [points.map((_, i) => i)]), ply), 'a.ply');
    expect([brought.facts.ngons, brought.facts.borders]).toEqual([1, 1]);
    expect(brought.notes.join(' ')).toContain('10,000 corners');
  });

  it('keeps texture coordinates through welding, splitting and turning', () => {
    const text = 'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 1 0 0\nv 2 0 0\nv 1 1 0\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nf 1/1 2/2 3/3 4/4\nf 7/3 6/2 5/1\n';
    const { mesh, notes } = bringIn(bytes(text), 'a.obj');
    expect(vertexCount(mesh)).toBe(5);
    expect(notes.join(' ')).toMatch(/Welded 2 vertices/);
    expect(mesh.cornerUv!.every(Number.isFinite)).toBe(true);
  });
});

describe('bad input is refused with what and where', () => {
  const square = 'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\n';
  const usdaMesh = (rest: string) =>
    `#usda 1.0\ndef Mesh "m" {\n point3f[] points = [(0,0,0),(1,0,0),(1,1,0)]\n int[] faceVertexCounts = [3]\n int[] faceVertexIndices = [0,1,2]\n ${rest}\n}\n`;
  it.each([
    ['an empty file', '', 'a.obj', /a\.obj is empty \(0 bytes\)/],
    ['a wrong extension', 'just a letter', 'a.txt', /neither the name nor the first bytes/],
    ['text that is no OBJ', 'Dear keeper, the lamp is out.', 'a.obj', /no vertex/],
    ['a picture called OBJ', Uint8Array.of(137, 80, 78, 71, 0, 1, 2, 3), 'a.obj', /holds binary data of another kind/],
    ['OBJ without faces', square, 'a.obj', /4 vertices were found, but no face/],
    ['an OBJ index out of range', square + 'f 1 2 9\n', 'a.obj', /line 5: vertex 9 is used, but only 4 are there/],
    ['OBJ index 0', square + 'f 0 1 2\n', 'a.obj', /line 5: vertex 0/],
    ['OBJ with NaN', 'v 0 nan 0\n', 'a.obj', /line 1: the y coordinate is not a finite number \("nan"\)/],
    ['OBJ with infinity', 'v 0 0 1e999\n', 'a.obj', /line 1: the z coordinate is not a finite number/],
    ['OBJ cut off in a vertex', square + 'v 1.0 2.', 'a.obj', /line 5: the z coordinate is missing/],
    ['OBJ cut off in a face', square + 'f 1 2', 'a.obj', /line 5: this face has 2 corners/],
    ['PLY cut off in the header', 'ply\nformat ascii 1.0\nelement vertex 3\n', 'a.ply', /ends within the header/],
    [
      'PLY cut off in the faces',
      'ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1',
      'a.ply',
      /line 13.*face|face.*line 13/
    ],
    ['binary PLY cut off', writeMesh(quadSphere(1, 3), ply).subarray(0, 700), 'a.ply', /ends at byte 700, within/],
    ['PLY with absurd counts', 'ply\nformat ascii 1.0\nelement vertex 4000000000\nproperty float x\nend_header\n', 'a.ply', /cannot be 4000000000/],
    ['binary STL cut off', writeMesh(quadSphere(1, 3), stl).subarray(0, 500), 'a.stl', /ends at byte 500 within triangle 8/],
    ['text STL cut off', 'solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\n', 'a.stl', /cut off/],
    ['OFF cut off', 'OFF\n4 1 0\n0 0 0\n1 0 0\n', 'a.off', /ends after 2 of 4 vertices/],
    ['OFF index out of range', 'OFF\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n3 0 1 7\n', 'a.off', /line 6: face 0 uses vertex 7/],
    ['usda cut off', '#usda 1.0\ndef Mesh "m" {\n point3f[] points = [(0,0,0),(1,0', 'a.usda', /cut off/],
    [
      'a usda crease out of range',
      usdaMesh('int[] creaseIndices = [0,9]\n int[] creaseLengths = [2]\n float[] creaseSharpnesses = [1]'),
      'a.usda',
      /crease.* 9/i
    ],
    ['a usda corner out of range', usdaMesh('int[] cornerIndices = [-1]\n float[] cornerSharpnesses = [1]'), 'a.usda', /corner.* -1/i],
    ['usda counts that do not add up', usdaMesh('int[] faceVertexCounts = [4]'), 'a.usda', /add up to 4, but there are 3/],
    ['faces that are all degenerate', square + 'f 1 1 2\nf 3 3 3\n', 'a.obj', /all 2 faces are degenerate/],
    ['faces without area', 'v 0 0 0\nv 1 0 0\nv 2 0 0\nf 1 2 3\n', 'a.obj', /without area/]
  ])('%s', (_what, content, name, sentence) => {
    expect(refusal(content, name)).toMatch(sentence);
  });

  it('a file of 1 GB is refused by its size, before its bytes are read', () => {
    expect(tooLarge('sculpt.obj', 2 ** 30)).toMatch(/sculpt\.obj has 1024 MB; files up to 768 MB are read/);
    expect(tooLarge('sculpt.obj', 5e8)).toBeUndefined();
  });

  it('whatever the bytes, the answer is a mesh or a sentence', () => {
    const good = formats.map((f) => writeMesh(quadSphere(1, 2), f));
    fc.assert(
      fc.property(fc.nat(good.length - 1), fc.array(fc.tuple(fc.nat(4000), fc.nat(255)), { maxLength: 8 }), fc.nat(4000), (which, changes, cut) => {
        const spoilt = good[which].slice(0, Math.max(1, cut % good[which].length));
        for (const [at, value] of changes) spoilt[at % spoilt.length] = value;
        expect(refusal(spoilt, `x.${formats[which].extensions[0]}`)).toMatch(/\S/);
      }),
      { numRuns: 400 }
    );
  });
});
