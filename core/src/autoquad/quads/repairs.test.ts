import { describe, expect, it } from 'vitest';
import { working } from '../../../testing/working-meshes.ts';
import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { triangulate } from '../../mesh/triangulate.ts';
import { quadShape, worstJacobian } from '../../numeric/quad-shape.ts';
import { triangleNormals } from '../../reference/reference.ts';
import { TriangleBvh } from '../../reference/triangle-bvh.ts';
import { plane } from '../../shapes/start-shapes.ts';
import { featureLinesOf } from '../lines/features.ts';
import { closePoorQuads } from './close-poor.ts';
import { withLineGapsClosed } from './line-gaps.ts';
import { matches, mended } from './mend.ts';
import { straightenQuads, untwistQuads } from './straighten-quads.ts';

describe('lines that quads follow', () => {
  /** A sheet of ten by ten quads with a line along its middle to x = `end`; the vertices on it are held, but for the one at x = 1. */
  const sheetWithLine = (end: number) => {
    const { positions, faceVertices: quads } = plane(10, 10, 10, 10);
    const hold = Uint8Array.from({ length: 121 }, (_, v) => (Math.abs(positions[3 * v + 2]) < 1e-9 && positions[3 * v] <= end ? 1 : 0));
    const left = hold.findIndex((held, v) => held === 1 && positions[3 * v] === 1);
    const line = new TriangleBvh(Float64Array.of(-5, 0, 0, end, 0, 0), Int32Array.of(0, 1, 1));
    return { list: { positions, quads, hold }, left, line };
  };

  it('are closed where they leave a gap, by the vertex beside both of its ends', () => {
    const { list, left, line } = sheetWithLine(5);
    expect(withLineGapsClosed(list, line)).toBeUndefined();
    list.hold[left] = 0;
    list.positions.set([1.3, 0, 1.4], 3 * left);
    const closed = withLineGapsClosed(list, line)!;
    expect(closed.hold[left]).toBe(1);
    expect([...closed.positions.subarray(3 * left, 3 * left + 3)]).toEqual([1, 0, 0]);
    expect(closed.positions.filter((x, i) => x !== list.positions[i]).length).toBe(2);
    expect([...list.positions.subarray(3 * left, 3 * left + 3)]).toEqual([1.3, 0, 1.4]);
  });

  it('are left where they end', () => {
    const { list, line } = sheetWithLine(0);
    expect(list.hold.filter((held) => held === 1).length).toBe(6);
    expect(withLineGapsClosed(list, line)).toBeUndefined();
  });
});

describe('untwisting', () => {
  it('gives quads round a corner that lies across others a shape again', () => {
    const sheet = plane(10, 10, 5, 5);
    const list = { positions: sheet.positions.slice(), quads: sheet.faceVertices, hold: new Uint8Array(36) };
    const bvh = new TriangleBvh(sheet.positions, triangulate(sheet).triangles);
    const inner = [...Array(36).keys()].find((v) => Math.abs(sheet.positions[3 * v] - 1) < 0.1 && Math.abs(sheet.positions[3 * v + 2] - 1) < 0.1)!;
    list.positions.set([4.5, 0, 4.5], 3 * inner);
    expect(worstJacobian(list.positions, list.quads)).toBeLessThan(0);
    untwistQuads(list, bvh, triangleNormals(bvh.positions, bvh.triangles));
    expect(worstJacobian(list.positions, list.quads)).toBeGreaterThan(0.1);
  });
});

describe('poor quads', () => {
  it('are closed where a corner is straight, and the rest stays', () => {
    // a square whose corner has been bent open: squares of complex numbers
    const sheet = plane(8, 8, 8, 8);
    for (let v = 0; v < 81; v++) {
      const [x, y] = [4 - sheet.positions[3 * v], 4 - sheet.positions[3 * v + 2]];
      sheet.positions.set([x * x - y * y, 0, 2 * x * y], 3 * v);
    }
    const { mesh, triangles, bvh } = working(sheet);
    const list = { positions: sheet.positions.slice(), quads: sheet.faceVertices, hold: new Uint8Array(81) };
    const topology = { euler: 1, borders: 1 };
    const closed = closePoorQuads(list, { bvh, normals: triangleNormals(bvh.positions, triangles), lines: featureLinesOf(mesh), topology });
    expect(worstJacobian(list.positions, list.quads)).toBeLessThan(0.01);
    expect(worstJacobian(closed.positions, closed.quads)).toBeGreaterThan(0.3);
    expect(closed.quads).toHaveLength(4 * 63);
    expect(matches(closed, topology)).toBe(true);
  });
});

describe('straightening', () => {
  it.each([
    ['pinched, with right angles', 0.04, 0, 0.65],
    ['skewed', 0.5, 0.7, 0.55]
  ])('makes better what is %s', (_, along, aside, least) => {
    // a row of quads is drawn near its neighbour, and aside
    const sheet = plane(6, 6, 6, 6);
    for (let v = 0; v < 49; v++) {
      const [x, z] = [sheet.positions[3 * v], sheet.positions[3 * v + 2]];
      if (z === 1 && Math.abs(x) < 3) sheet.positions.set([x + aside, 0, along], 3 * v);
    }
    const { mesh, triangles, bvh } = working(plane(6, 6, 6, 6));
    const list = { positions: sheet.positions.slice(), quads: sheet.faceVertices, hold: new Uint8Array(49) };
    const worst = () => Math.min(...Array.from({ length: 36 }, (_, q) => quadShape(list.positions, list.quads, 4 * q, new Float64Array(3))));
    expect(worst()).toBeLessThan(0.5);
    straightenQuads(list, bvh, triangleNormals(bvh.positions, triangles), featureLinesOf(mesh));
    expect(worst()).toBeGreaterThan(least);
  });

  it.each([110, -110])('sees quads on both sides of a sharp edge from their own, where the surface turns by %s degrees', (degrees) => {
    const turn = (degrees * Math.PI) / 180;
    const bent = (mesh: PolygonMesh) => {
      for (let v = 0; v < mesh.positions.length; v += 3) {
        const z = mesh.positions[v + 2];
        if (z > 0) mesh.positions.set([z * Math.sin(turn), z * Math.cos(turn)], v + 1);
      }
      return mesh;
    };
    const list = { positions: bent(plane(6, 6, 6, 6)).positions, quads: plane(6, 6, 6, 6).faceVertices, hold: new Uint8Array(49) };
    const onFold = [...Array(49).keys()].filter((v) => list.positions[3 * v + 1] === 0 && list.positions[3 * v + 2] === 0);
    for (const v of onFold) list.hold[v] = 1;
    // one of them has slid nearly to the next one, and past it
    for (const x of [-1, 0]) list.positions[3 * onFold.find((v) => list.positions[3 * v] === x)!] += 0.9;
    const { mesh, triangles, bvh } = working(bent(plane(6, 6, 30, 30)));
    straightenQuads(list, bvh, triangleNormals(bvh.positions, triangles), featureLinesOf(mesh));
    expect(worstJacobian(list.positions, list.quads)).toBeGreaterThan(0.85);
    for (const v of onFold) expect(Math.hypot(list.positions[3 * v + 1], list.positions[3 * v + 2])).toBeLessThan(1e-9);
  });
});

describe('mending', () => {
  const grid = (missing: number[] = []) => {
    const mesh = denseTorusQuads();
    const quads = [...Array(mesh.length / 4).keys()].filter((f) => !missing.includes(f)).flatMap((f) => mesh.slice(4 * f, 4 * f + 4));
    return { positions: new Float64Array(3 * 48), quads: Int32Array.from(quads), hold: new Uint8Array(48) };
  };
  /** Quads of a torus of 8 by 6. */
  function denseTorusQuads(): number[] {
    const at = (i: number, j: number) => (i % 8) * 6 + (j % 6);
    return [...Array(48).keys()].flatMap((f) => {
      const [i, j] = [Math.floor(f / 6), f % 6];
      return [at(i, j), at(i, j + 1), at(i + 1, j + 1), at(i + 1, j)];
    });
  }
  it('closes a hole of one quad where the surface has none', () => {
    const whole = mended(grid([17]), { euler: 0, borders: 0 });
    expect(whole!.quads.length / 4).toBe(48);
  });
  it('leaves what is right, and gives up what has the wrong topology', () => {
    expect(mended(grid(), { euler: 0, borders: 0 })!.quads.length / 4).toBe(48);
    expect(mended(grid(), { euler: 2, borders: 0 })).toBeUndefined();
  });
});
