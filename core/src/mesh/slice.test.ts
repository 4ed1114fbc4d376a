import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dot, length, subtract, unit, type Triple } from '../numeric/vectors.ts';
import { box, lathe, quadSphere, torus } from '../shapes/start-shapes.ts';
import { assertValid } from './assert-valid.ts';
import { Cage } from './cage.ts';
import { faceNormal } from './normals.ts';
import { polygonMesh } from './polygon-mesh.ts';
import { isInside, sliceFaces } from './slice.ts';
import { enclosedVolume, eulerCharacteristic } from './topology.ts';

/** An outline like a comb with three teeth, a millimetre thick: planes cross its large faces several times. */
function comb(): Cage {
  const outline = [
    [0, 0],
    [5, 0],
    [5, 3],
    [4, 3],
    [4, 1],
    [3, 1],
    [3, 3],
    [2, 3],
    [2, 1],
    [1, 1],
    [1, 3],
    [0, 3]
  ];
  const n = outline.length;
  const points = [0, 1].flatMap((z) => outline.map(([x, y]): Triple => [x, y, z]));
  const sides = outline.map((_, i) => [i, (i + 1) % n, n + ((i + 1) % n), n + i]);
  return Cage.fromPolygons(polygonMesh(points, [[...outline.keys()].reverse(), outline.map((_, i) => n + i), ...sides]));
}

const closedShapes: Record<string, () => Cage> = {
  comb,
  box: () => Cage.fromPolygons(box({ x: 3, y: 2, z: 2 }, { x: 3, y: 1, z: 2 })),
  sphere: () => Cage.fromPolygons(quadSphere(2, 3)),
  torus: () => Cage.fromPolygons(torus(4, 1.5, 8, 6)),
  cone: () =>
    Cage.fromPolygons(
      lathe(
        [
          [0, 2],
          [2, 0],
          [0, 0]
        ],
        9
      )
    )
};

const anyNumber = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const anyPlane = fc
  .record({
    point: fc.tuple(anyNumber(-2, 4), anyNumber(-1, 3), anyNumber(-1, 1)),
    towards: fc.tuple(anyNumber(-1, 1), anyNumber(-1, 1), anyNumber(-1, 1))
  })
  .filter(({ towards }) => length(towards) > 0.1)
  .map(({ point, towards }) => ({ point: point as Triple, normal: unit(towards) }));

describe('cutting faces along a plane', () => {
  it('leaves no face on both sides, whatever its shape, and the surface what it was', () => {
    fc.assert(
      fc.property(fc.constantFrom(...Object.keys(closedShapes)), anyPlane, (name, plane) => {
        const cage = closedShapes[name]();
        const [characteristic, volume] = [eulerCharacteristic(cage), enclosedVolume(cage)];
        const cut = sliceFaces(cage, plane);
        assertValid(cage);
        expect(eulerCharacteristic(cage)).toBe(characteristic);
        const off = (v: number) => dot(subtract(cage.position(v), plane.point), plane.normal);
        for (const e of cut) for (const v of [cage.origin[2 * e], cage.origin[2 * e + 1]]) expect(Math.abs(off(v))).toBeLessThan(1e-6);
        for (const e of cage.edges()) {
          const [a, b] = [off(cage.origin[2 * e]), off(cage.origin[2 * e + 1])];
          expect(Math.min(a, b) > -1e-6 || Math.max(a, b) < 1e-6).toBe(true);
        }
        // faces of a torus and a sphere are not quite flat: only those of the others keep their volume to the bit
        if (name === 'comb' || name === 'box') {
          expect(enclosedVolume(cage)).toBeCloseTo(volume, 9);
          for (const f of cage.faces()) {
            const sides = new Set(cage.faceVertices(f).map((v) => (Math.abs(off(v)) < 1e-6 ? 0 : Math.sign(off(v)))));
            expect(sides.has(1) && sides.has(-1)).toBe(false);
          }
        }
      }),
      { numRuns: 300 }
    );
  });

  it('closes round a closed surface: as many edges come to each vertex of the cut as leave it', () => {
    const cage = closedShapes.torus();
    const cut = sliceFaces(cage, { point: [0.1, 0.05, 0.02], normal: unit([0.2, 1, 0.3]) });
    const ends = new Map<number, number>();
    for (const e of cut) for (const v of [cage.origin[2 * e], cage.origin[2 * e + 1]]) ends.set(v, (ends.get(v) ?? 0) + 1);
    expect(cut.length).toBeGreaterThan(12);
    expect([...ends.values()].every((n) => n === 2)).toBe(true);
  });

  it('cuts a comb across its teeth only where it is solid', () => {
    const cage = comb();
    const cut = sliceFaces(cage, { point: [0, 2, 0], normal: [0, 1, 0] });
    // four sides of three teeth
    expect(cut.length).toBe(12);
    expect(cut.every((e) => Math.abs(cage.edgeLength(e) - 1) < 1e-9)).toBe(true);
    // the large faces are in four pieces each, and the six sides of teeth in two
    expect(cage.faceCount).toBe(2 * 4 + 12 + 6);
  });

  it('keeps to the faces that are asked for, and to the places that are wanted', () => {
    const cage = closedShapes.box();
    const top = [...cage.faces()].filter((f) => faceNormal(cage, f)[1] > 0.9);
    const faces = new Set(top);
    const cut = sliceFaces(cage, { point: [0.2, 0, 0], normal: [1, 0, 0] }, { faces });
    expect(cut.length).toBe(2);
    // pieces take their place
    expect([...faces].every((f) => faceNormal(cage, f)[1] > 0.9)).toBe(true);
    expect(faces.size).toBe(top.length + 2);
    const half = closedShapes.box();
    const oneSide = sliceFaces(half, { point: [0.2, 0, 0], normal: [1, 0, 0] }, { within: (p) => p[2] > -1e-9 });
    expect(oneSide.length).toBe(3);
  });

  it('goes through vertices that lie in the plane without new ones beside them', () => {
    const cage = closedShapes.box();
    const before = cage.vertexCount;
    // along edges of the box that are there
    expect(sliceFaces(cage, { point: [0.5 + 1e-9, 0, 0], normal: [1, 0, 0] }).length).toBe(6);
    expect(cage.vertexCount).toBe(before);
  });
});

describe('a point of a polygon', () => {
  it('is told from one in a notch, from all sides', () => {
    const cage = comb();
    const outline = cage.faceVertices(1).map((v) => cage.position(v));
    expect(isInside([0.5, 2, 1], outline, [0, 0, 1])).toBe(true);
    expect(isInside([1.5, 2, 1], outline, [0, 0, 1])).toBe(false);
    expect(isInside([1.5, 0.5, 1], outline, [0, 0, -1])).toBe(true);
    expect(isInside([9, 0.5, 1], outline, [0, 0, 1])).toBe(false);
  });
});
