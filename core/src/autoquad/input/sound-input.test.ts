import { beforeAll, describe, expect, it } from 'vitest';
import { quadQuality } from '../../check/quad-quality.ts';
import { Cage } from '../../mesh/cage.ts';
import { polygonMesh, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { borderLoops, islands } from '../../mesh/topology.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { denseSphere } from '../../shapes/sample-surfaces.ts';
import { loadSolids } from '../../solids/engine.ts';
import { AutoQuadsError, type AutoQuadsOptions } from '../base/options.ts';
import { autoQuads } from '../auto-quads.ts';

const sphere = denseSphere(20);

/** Meshes as islands of one. */
function together(meshes: PolygonMesh[]): PolygonMesh {
  let [vertices, corners] = [0, 0];
  const joined = meshes.map(({ positions, faceStart, faceVertices }) => {
    const own = {
      positions: [...positions],
      starts: [...faceStart].slice(1).map((s) => s + corners),
      faces: [...faceVertices].map((v) => v + vertices)
    };
    vertices += positions.length / 3;
    corners += faceVertices.length;
    return own;
  });
  return {
    positions: Float64Array.from(joined.flatMap((m) => m.positions)),
    faceStart: Int32Array.from([0, ...joined.flatMap((m) => m.starts)]),
    faceVertices: Int32Array.from(joined.flatMap((m) => m.faces))
  };
}
/** A mesh without the faces round some vertices, and without some faces. */
function holed(mesh: PolygonMesh, vertices: number[], faces: number[]): PolygonMesh {
  const corners = (f: number) => [...mesh.faceVertices.subarray(mesh.faceStart[f], mesh.faceStart[f + 1])];
  const left = [...Array(mesh.faceStart.length - 1).keys()].filter((f) => !faces.includes(f) && !corners(f).some((v) => vertices.includes(v)));
  const points = Array.from({ length: mesh.positions.length / 3 }, (_, v) => [...mesh.positions.subarray(3 * v, 3 * v + 3)]);
  return polygonMesh(points, left.map(corners));
}
const placed = (mesh: PolygonMesh, scale: number, ...by: number[]): PolygonMesh => ({
  ...mesh,
  positions: mesh.positions.map((x, i) => x * scale + (by[i % 3] ?? 0))
});
/** Little tetrahedra in a row, none of which touches another. */
const crumbs = (count: number): PolygonMesh => {
  const points = Array.from({ length: count }, (_, i) => [
    [3 * i, 40, 0],
    [3 * i + 1, 40, 0],
    [3 * i, 41, 0],
    [3 * i, 40, 1]
  ]).flat();
  const faces = Array.from({ length: count }, (_, i) =>
    [
      [0, 2, 1],
      [0, 1, 3],
      [1, 2, 3],
      [0, 3, 2]
    ].map((f) => f.map((v) => v + 4 * i))
  ).flat();
  return polygonMesh(points, faces);
};
/** A band with one side: the last rung joins the first upside down. */
const band = (): PolygonMesh => {
  const rungs = 30;
  const points = Array.from({ length: rungs }, (_, i) =>
    [-1, 1].map((w) => {
      const a = (2 * Math.PI * i) / rungs;
      const r = 10 + 2 * w * Math.cos(a / 2);
      return [r * Math.cos(a), r * Math.sin(a), 2 * w * Math.sin(a / 2)];
    })
  ).flat();
  const faces = Array.from({ length: rungs }, (_, i) => {
    const next = i + 1 === rungs ? [1, 0] : [2 * i + 2, 2 * i + 3];
    return [2 * i, next[0], next[1], 2 * i + 1];
  });
  return polygonMesh(points, faces);
};

/** A double cone: 24 triangles in two fans round its one vertex in the middle. */
const pinched = (): PolygonMesh => {
  const rim = (y: number) => Array.from({ length: 12 }, (_, i): Triple => [5 * Math.cos((Math.PI * i) / 6), y, 5 * Math.sin((Math.PI * i) / 6)]);
  const fan = (first: number, up: boolean) =>
    Array.from({ length: 12 }, (_, i) => [0, ...(up ? [first + ((i + 1) % 12), first + i] : [first + i, first + ((i + 1) % 12)])]);
  return polygonMesh([[0, 0, 0], ...rim(5), ...rim(-5)], [...fan(1, true), ...fan(13, false)]);
};

describe('input of auto quads', () => {
  beforeAll(() => loadSolids());

  it.each<[string, () => PolygonMesh, AutoQuadsOptions, RegExp]>([
    ['a band with one side', band, { count: 100 }, /At .* turned against each other.*one side only.*Bring it in anew/],
    [
      'cones that touch with their tips',
      pinched,
      { count: 100 },
      /At 0.000, 0.000, 0.000 parts of the surface touch in a single vertex only.*Bring it in anew/
    ],
    ['100,000 islands', () => crumbs(100_000), { count: 1000 }, /All 100,000 islands are too small for quads of .* mm: ask for more/],
    [
      'a vertex without a place',
      () => ({ ...sphere, positions: sphere.positions.map((x, i) => (i === 30 ? NaN : x)) }),
      { count: 100 },
      /Vertex 10 has no finite place/
    ],
    ['more quads than fit', () => sphere, { count: 1e6 }, /At most 500,000/],
    ['edges that make too many', () => sphere, { edgeSizes: { finest: 0.01, coarsest: 0.01 } }, /would make .* quads/],
    [
      'faces without area',
      () =>
        polygonMesh(
          [
            [0, 0, 0],
            [1, 0, 0],
            [2, 0, 0]
          ],
          [[0, 1, 2]]
        ),
      { count: 100 },
      /no area/
    ]
  ])('is refused where it is %s', (_name, make, options, reason) => {
    expect(() => autoQuads(make(), options)).toThrow(AutoQuadsError);
    expect(() => autoQuads(make(), options)).toThrow(reason);
  });

  it.each([1e-12, 1e12])('is laid the same at %s of its size, and far from the origin', (scale) => {
    // 24 k^2, which no rounding ties
    const count = (mesh: PolygonMesh) => autoQuads(mesh, { count: 384 }).mesh.faceVertices.length;
    expect(count(placed(sphere, scale))).toBe(count(sphere));
    expect(count(placed(sphere, 1, 1e9, 0, 0))).toBe(count(sphere));
  });

  it('leaves islands below the quad size out and says how many, or makes them boxes', () => {
    const input = together([sphere, crumbs(50)]);
    const left = autoQuads(input, { count: 300 });
    expect(left.notes.join(' ')).toMatch(/Islands too small for quads of .* mm were left out: 50\./);
    expect(islands(Cage.fromPolygons(left.mesh)).count).toBe(1);
    const boxes = autoQuads(input, { count: 300, smallIslands: 'boxes' });
    const cage = Cage.fromPolygons(boxes.mesh);
    expect([islands(cage).count, cage.faceCount]).toEqual([51, left.mesh.faceVertices.length / 4 + 6 * 50]);
  });

  it('closes holes that quads do not fit round, of three sides and of more, and leaves wider ones open', () => {
    const dense = denseSphere(60);
    const { positions } = dense;
    const near = (x: number, y: number, z: number) => {
      const off = (v: number) => Math.hypot(positions[3 * v] - x, positions[3 * v + 1] - y, positions[3 * v + 2] - z);
      return [...Array(positions.length / 3).keys()].reduce((best, v) => (off(v) < off(best) ? v : best));
    };
    const mouth = [...Array(positions.length / 3).keys()].filter((v) => positions[3 * v + 1] > 18);
    const sieve = holed(dense, [...mouth, near(20, 0, 0), near(0, 0, 20)], [dense.faceVertices.indexOf(near(-14, 0, -14)) / 3].map(Math.floor));
    expect(borderLoops(Cage.fromPolygons(sieve)).length).toBe(4);
    const { mesh, notes } = autoQuads(sieve, { count: 600 });
    const cage = Cage.fromPolygons(mesh);
    expect([borderLoops(cage).length, quadQuality(cage).worst > 0.5]).toEqual([1, true]);
    expect(notes.join(' ')).toMatch(/Holes too small for quads of [\d.]+ mm were closed: 3\./);
  });

  it('lays shells that pass through each other one by one, or as one skin', () => {
    const crossing = together([sphere, placed(sphere, 1, 20, 0, 0)]);
    expect(islands(Cage.fromPolygons(autoQuads(crossing, { count: 800 }).mesh)).count).toBe(2);
    const skin = Cage.fromPolygons(autoQuads(crossing, { count: 800, oneSkin: true }).mesh);
    expect(islands(skin).count).toBe(1);
    // nothing is left inside
    for (const v of skin.vertices()) {
      const [x, y, z] = skin.position(v);
      expect(Math.min(Math.hypot(x, y, z), Math.hypot(x - 20, y, z))).toBeGreaterThan(18);
    }
  });
});
