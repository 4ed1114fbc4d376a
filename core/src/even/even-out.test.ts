import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { jitteredTube, noisySphere, offSphere } from '../../testing/noisy-shapes.ts';
import { anyCage } from '../../testing/random-meshes.ts';
import { Cage } from '../mesh/cage.ts';
import { areaVector, dot, subtract, cross } from '../numeric/vectors.ts';
import { randomNumbers } from '../numeric/random.ts';
import { Reference } from '../reference/reference.ts';
import { box, plane, quadSphere, torus } from '../shapes/start-shapes.ts';
import { evenedOut, holdsAll, type EvenSettings } from './even-out.ts';

const held = { borders: true, creases: true, regions: true };
const relax: EvenSettings = { way: 'relax', passes: 30, strength: 0.5, held };

describe('evening out', () => {
  it('brings a noisy sphere back with its volume, where plain smoothing shrinks it', () => {
    const cage = noisySphere(24);
    const relaxed = evenedOut(cage, relax);
    const { volume, spread } = relaxed.report;
    expect(spread.before).toBeGreaterThan(0.15);
    expect(spread.after).toBeLessThan(0.12);
    expect(Math.abs(volume.after / volume.before - 1)).toBeLessThan(0.002);
    expect(offSphere(relaxed.cage)).toBeLessThan(0.003 * 20);
    const smoothed = evenedOut(cage, { ...relax, way: 'smooth' }).report.volume;
    expect(smoothed.after / smoothed.before).toBeLessThan(0.98);
  });

  it('leaves a torus as it is, but for what its quads bend', () => {
    const cage = Cage.fromPolygons(torus(30, 10, 48, 24));
    const { cage: made, report } = evenedOut(cage, relax);
    expect(report.volume.after / report.volume.before).toBeCloseTo(1, 7);
    const off = (v: number) => {
      const [x, y, z] = made.position(v);
      return Math.abs(Math.hypot(Math.hypot(x, z) - 30, y) - 10);
    };
    expect(Math.max(...[...made.vertices()].map(off))).toBeLessThan(0.1);
  });

  it('never turns a face over, leaves what is held bit for bit, and moves no other vertices than it is given', () => {
    fc.assert(
      fc.property(
        anyCage,
        fc.nat(1000),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.constantFrom('relax', 'smooth' as const),
        (given, seed, strength, way) => {
          const cage = given.clone();
          const random = randomNumbers(seed);
          for (let i = 0; i < 3 * cage.vertexSlots; i++) cage.positions[i] += 0.4 * (random() - 0.5);
          const vertices = [...cage.vertices()].filter((v) => v % 3 !== 0);
          const { cage: made } = evenedOut(cage, { way, passes: 5, strength, held, vertices });
          for (const v of cage.vertices()) if (v % 3 === 0 || cage.isBorderVertex(v)) expect(made.position(v)).toEqual(cage.position(v));
          if (way === 'relax') for (const f of cage.faces()) if (!isTurned(cage, f)) expect(isTurned(made, f)).toBe(false);
        }
      ),
      { numRuns: 60 }
    );
  });

  it('keeps borders where they are, or lets their vertices slide along them', () => {
    const cage = Cage.fromPolygons(plane(10, 10, 5, 5));
    // a border vertex off its place along the border, and one inside
    const [edge, inner] = [at(cage, -5, 1), at(cage, 1, 1)];
    cage.positions[3 * edge + 2] += 0.8;
    cage.positions[3 * inner] += 0.7;
    const moved = (borders: boolean) => {
      const { cage: made } = evenedOut(cage, { ...relax, passes: 60, held: { ...held, borders } });
      return [made.position(edge), made.position(inner)];
    };
    const [still, evened] = moved(true);
    expect(still).toEqual(cage.position(edge));
    expect(evened[0]).toBeGreaterThan(0.9);
    const [slid, inside] = moved(false);
    expect(slid[0]).toBe(-5);
    expect(slid[2]).toBeCloseTo(1, 2);
    expect(inside).toEqual([expect.closeTo(1, 1), 0, expect.closeTo(1, 1)]);
    // corners of the border never move
    for (const v of [at(cage, -5, -5), at(cage, 5, 5)])
      expect(evenedOut(cage, { ...relax, held: { ...held, borders: false } }).cage.position(v)).toEqual(cage.position(v));
  });

  it('puts vertices back on a reference, and does not pull them through to its other side', () => {
    const reference = new Reference(quadSphere(10, 40));
    const cage = noisySphere(12);
    const { cage: made } = evenedOut(cage, { ...relax, on: reference });
    expect(offSphere(made)).toBeLessThan(0.02);
    // a thin plate: the lower side stays below
    const plate = Cage.fromPolygons(box({ x: 10, y: 0.2, z: 10 }, { x: 6, y: 1, z: 6 }));
    const on = new Reference(box({ x: 10, y: 0.2, z: 10 }, { x: 6, y: 1, z: 6 }));
    const thin = evenedOut(plate, { ...relax, on }).cage;
    for (const v of plate.vertices())
      if (Math.max(...plate.position(v).map(Math.abs)) < 4) expect(thin.position(v)[1]).toBeCloseTo(plate.position(v)[1], 9);
  });

  it('gives symmetric results for symmetric shapes', () => {
    const { cage } = jitteredTube(5, 16, 6, []);
    for (const v of cage.vertices()) {
      const [x, y, z] = cage.position(v);
      cage.positions.set([x, y + 0.4 * Math.cos(x) * Math.cos(2 * z), z], 3 * v);
    }
    const { cage: made } = evenedOut(cage, { ...relax, held: { ...held, borders: false } });
    for (const v of made.vertices()) {
      const [x, y, z] = made.position(v);
      const image = [...made.vertices()].find((w) => Math.hypot(made.position(w)[0] + x, made.position(w)[1] - y, made.position(w)[2] - z) < 1e-9);
      expect(image).toBeDefined();
    }
  });

  it('tells where everything is held', () => {
    const strip = Cage.fromPolygons(plane(4, 1, 4, 1));
    expect(holdsAll(strip, relax)).toBe(true);
    expect(holdsAll(strip, { ...relax, held: { ...held, borders: false } })).toBe(false);
  });
});

const at = (cage: Cage, x: number, z: number) =>
  [...cage.vertices()].find((v) => Math.hypot(cage.position(v)[0] - x, cage.position(v)[2] - z) < 1e-9)!;

function isTurned(cage: Cage, f: number): boolean {
  const corners = cage.faceVertices(f).map((v) => cage.position(v));
  const normal = areaVector(corners);
  return corners.some((p, i) => {
    const [before, after] = [corners.at(i - 1)!, corners[(i + 1) % corners.length]];
    return dot(cross(subtract(p, before), subtract(after, p)), normal) <= 0;
  });
}
