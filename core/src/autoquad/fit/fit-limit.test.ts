import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { uniformMesh, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { triangulate } from '../../mesh/triangulate.ts';
import { quadJacobians, worstJacobian } from '../../numeric/quad-shape.ts';
import { triangleNormals } from '../../reference/reference.ts';
import { TriangleBvh } from '../../reference/triangle-bvh.ts';
import { randomNumbers } from '../../numeric/random.ts';
import { denseSphere } from '../../shapes/sample-surfaces.ts';
import { plane, quadSphere } from '../../shapes/start-shapes.ts';
import { Subdivision } from '../../subdivide/subdivision.ts';
import { closenessOf } from './deviation.ts';
import { LimitFit } from './fit-limit.ts';
import { MirroredPlaces } from '../symmetry/mirrored-places.ts';
import { QuadsRound } from '../quads/quads-round.ts';
import { missedBySmooth } from './reach-tips.ts';
import { type Mirror } from '../base/mirror.ts';

/** A surface as quads are fitted to it and measured against. */
function asInput(dense: PolygonMesh) {
  const { triangles } = triangulate(dense);
  return { dense, bvh: new TriangleBvh(dense.positions, triangles), normals: triangleNormals(dense.positions, triangles) };
}

describe('smooth surfaces of quads', () => {
  it('lie about as far beyond the surface as behind it, also between their vertices', () => {
    const dense = denseSphere(60);
    const radius = Math.hypot(...dense.positions.subarray(0, 3));
    const quads = quadSphere(radius, 4);
    const { bvh, normals } = asInput(dense);
    new LimitFit(quads, bvh, normals, {}).run();
    const places = new Subdivision(quads, { levels: 3, limit: true }).evaluate(quads.positions);
    const off = Array.from({ length: places.length / 3 }, (_, s) => Math.hypot(places[3 * s], places[3 * s + 1], places[3 * s + 2]) - radius);
    expect(Math.max(...off)).toBeLessThan(2e-3 * radius);
    expect(Math.min(...off)).toBeGreaterThan(-2e-3 * radius);
    expect(Math.abs(off.reduce((a, b) => a + b) / off.length)).toBeLessThan(2e-4 * radius);
  });

  it('stay where they are while vertices slide to where quads are better shaped', () => {
    const dense = denseSphere(60);
    const radius = Math.hypot(...dense.positions.subarray(0, 3));
    const quads = quadSphere(radius, 8);
    const random = randomNumbers(7);
    for (let v = 0; v < quads.positions.length; v += 3) {
      const pushed = [0, 1, 2].map((k) => quads.positions[v + k] + (random() - 0.5) * 0.12 * radius);
      const size = Math.hypot(...pushed);
      for (let k = 0; k < 3; k++) quads.positions[v + k] = (pushed[k] * radius) / size;
    }
    const input = asInput(dense);
    const fit = new LimitFit(quads, input.bvh, input.normals, {});
    fit.run();
    const shapes = () => [...quadJacobians(quads.positions, quads.faceVertices)];
    const meanOf = (list: number[]) => list.reduce((a, b) => a + b) / list.length;
    const before = shapes();
    const off = closenessOf(quads, input, 4 * radius).most;
    fit.straighten();
    expect(Math.min(...shapes())).toBeGreaterThan(Math.min(...before) + 0.15);
    expect(1 - meanOf(shapes())).toBeLessThan(0.4 * (1 - meanOf(before)));
    expect(closenessOf(quads, input, 4 * radius).most).toBeLessThan(1.2 * off);
  });

  it('are measured both ways: a peak that they do not reach is told with its place, and quads beyond the surface too', () => {
    const quads = plane(10, 10, 5, 5);
    const dense = plane(10, 10, 40, 40);
    const peak = dense.positions.findIndex((x, i) => i % 3 === 0 && Math.hypot(x - 2, dense.positions[i + 2] - 1) < 1e-9);
    const [input, diagonal] = [() => asInput(dense), 14];
    expect(closenessOf(quads, input(), diagonal)).toMatchObject({ apart: [], missed: undefined });
    dense.positions[peak + 1] = 3;
    const missing = closenessOf(quads, input(), diagonal);
    expect(missing.missed).toEqual({ at: [2, 3, 1], off: 3, triangle: expect.any(Number) as number });
    // no place of theirs lies as far off
    expect(missing.most).toBeLessThan(1);
    expect(missing.share).toBeCloseTo(3 / (0.0025 * diagonal), 6);
    dense.positions[peak + 1] = 0;
    quads.positions[1 + 3 * 14] = 2;
    const beyond = closenessOf(quads, input(), diagonal);
    expect(beyond.most).toBeGreaterThan(0.5);
    expect(beyond.apart.length).toBeGreaterThan(0);
  });

  it('lie far off where they have come upon the wall across a gap', () => {
    const floor = plane(10, 10, 20, 20);
    const [height, diagonal] = [0.5, 14];
    const ceiling = floor.positions.map((x, i) => (i % 3 === 1 ? height : x));
    const count = floor.positions.length / 3;
    const upsideDown = [...floor.faceVertices].map((v) => v + count).reverse();
    const gap = uniformMesh(Float64Array.from([...floor.positions, ...ceiling]), Int32Array.from([...floor.faceVertices, ...upsideDown]), 4);
    const quads = plane(10, 10, 5, 5);
    const onFloor = closenessOf(quads, asInput(gap), diagonal);
    for (let v = 1; v < quads.positions.length; v += 3) quads.positions[v] = height;
    const onCeiling = closenessOf(quads, asInput(gap), diagonal);
    expect(Math.max(onFloor.most, onCeiling.most)).toBeLessThan(1e-12);
    expect(onCeiling.share).toBeCloseTo(height / (0.0025 * diagonal), 6);
    // the ceiling is not reached in either case
    expect(onCeiling.apart.length - onFloor.apart.length).toBeGreaterThanOrEqual(36);
  });

  it('are fitted to ends that they pass by, and to the rest of the surface as before', () => {
    const sheet = plane(10, 10, 5, 5);
    // a dense sheet with a narrow peak between the quads' corners
    const dense = plane(10, 10, 100, 100);
    for (let v = 0; v < dense.positions.length; v += 3) {
      const away = Math.hypot(dense.positions[v] - 0.8, dense.positions[v + 2] - 1.1);
      dense.positions[v + 1] = Math.max(0, 1 - away / 0.5);
    }
    const { bvh, normals } = asInput(dense);
    const lines = {
      border: new TriangleBvh(Float64Array.from([-5, 0, -5, 5, 0, -5, 5, 0, 5, -5, 0, 5]), Uint32Array.from([0, 1, 1, 1, 2, 2, 2, 3, 3, 3, 0, 0]))
    };
    const smooth = new Subdivision(sheet, { levels: 1, limit: true });
    const fit = new LimitFit(sheet, bvh, normals, lines);
    fit.run();
    const [[, end]] = [...missedBySmooth(smooth, sheet.positions, dense.positions, 2)];
    expect(end[1]).toBeGreaterThan(0.9);
    fit.reach(dense.positions, 2);
    // half as far off: what is left would bend the quads
    expect(missedBySmooth(smooth, sheet.positions, dense.positions, 2.5).size).toBe(0);
    expect(worstJacobian(sheet.positions, sheet.faceVertices)).toBeGreaterThan(0.5);
  });

  it('come to rest where nothing is left to do, however few of the vertices have moved', () => {
    const dense = denseSphere(60);
    const radius = Math.hypot(...dense.positions.subarray(0, 3));
    const quads = quadSphere(radius, 10);
    const { bvh, normals } = asInput(dense);
    const edge = (Math.PI * radius) / 20;
    const fit = new LimitFit(quads, bvh, normals, {});
    fit.run(60);
    const rest = quads.positions.slice();
    // one vertex is pulled off: from then on only what lies round it is looked at
    for (let k = 0; k < 3; k++) quads.positions[3 * 200 + k] *= 1.02;
    const again = new LimitFit(quads, bvh, normals, {});
    again.run(60);
    const before = quads.positions.slice();
    const most = (from: Float64Array) => quads.positions.reduce((far, x, i) => Math.max(far, Math.abs(x - from[i])), 0);
    expect(most(rest)).toBeLessThan(0.05 * edge);
    new LimitFit(quads, bvh, normals, {}).run(1);
    expect(most(before)).toBeLessThan(4e-3 * edge);
  });

  it('miss the same places whether or not it is told where they were near before', () => {
    const dense = denseSphere(30);
    const radius = Math.hypot(...dense.positions.subarray(0, 3));
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(385), fc.double({ min: 0.7, max: 1.3, noNaN: true })), { minLength: 1, maxLength: 6 }), (pulls) => {
        const quads = quadSphere(radius, 8);
        const smooth = new Subdivision(quads, { levels: 1, limit: true });
        const near = new Int32Array(dense.positions.length / 3).fill(-1);
        for (const [v, share] of pulls) {
          for (let k = 0; k < 3; k++) quads.positions[3 * v + k] *= share;
          const told = missedBySmooth(smooth, quads.positions, dense.positions, 0.2 * radius, near);
          expect([...told]).toEqual([...missedBySmooth(smooth, quads.positions, dense.positions, 0.2 * radius)]);
        }
      }),
      { numRuns: 20 }
    );
  });
});

describe('quads round a vertex', () => {
  it('tell what has been kept elsewhere, images too, and forget what was put back', () => {
    const mirrors: Mirror[] = [{ normal: [1, 0, 0], offset: 0, error: 0 }];
    const sheet = plane(4, 4, 4, 4);
    const at = (x: number, z: number) =>
      [...Array(25).keys()].find((v) => Math.abs(sheet.positions[3 * v] - x) + Math.abs(sheet.positions[3 * v + 2] - z) < 1e-9)!;
    const quads = new QuadsRound(sheet, new MirroredPlaces(mirrors, sheet.positions, 1e-6));
    const [vertex, image, far] = [at(1, 1), at(-1, 1), at(-2, -2)];
    const { shapes } = quads.lookAt(vertex);
    expect([...shapes]).toEqual([1, 1, 1, 1]);
    // across its neighbour every quad turns over or is twisted
    quads.put(vertex, 1, 3, 1);
    expect(Math.max(...[0, 1, 2, 3].map((i) => quads.shapeNow(vertex, i)))).toBeLessThan(0.5);
    quads.put(vertex, 1, 0, 1);
    expect(quads.takeMoved()).toEqual([]);
    expect(quads.lastChange(vertex)).toBe(0);
    quads.put(vertex, 1.25, 0, 1);
    quads.keep(vertex);
    expect(sheet.positions[3 * image]).toBe(-1.25);
    expect(quads.takeMoved().sort()).toEqual([vertex, image].sort());
    expect(quads.takeMoved()).toEqual([]);
    expect([vertex, image, at(0, 0), far].map((v) => quads.lastChange(v))).toEqual([1, 1, 1, 0]);
  });
});
