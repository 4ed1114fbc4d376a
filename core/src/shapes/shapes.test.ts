import { describe, expect, it } from 'vitest';
import { box, boxUnion } from './start-shapes.ts';
import { assertValid } from '../mesh/assert-valid.ts';
import { Cage } from '../mesh/cage.ts';
import { boundsOf } from '../mesh/polygon-mesh.ts';
import { repairPolygons } from '../mesh/repair.ts';
import { borderLoops, enclosedVolume, eulerCharacteristic, genus, islands } from '../mesh/topology.ts';
import { startShape } from '../operations/source/start-shape.ts';
import { channelBuoy } from './channel-buoy.ts';
import { demoJobs } from './demo-jobs.ts';
import { marshNewt } from './marsh-newt.ts';
import { mooringCleat } from './mooring-cleat.ts';
import { doubleRing } from './sample-surfaces.ts';

describe('start shapes', () => {
  const make = (params: object) =>
    Cage.fromPolygons(
      startShape.make({
        width: 40,
        height: 30,
        depth: 20,
        radius: 20,
        tube: 7,
        across: 4,
        up: 3,
        deep: 2,
        sides: 16,
        tubeSides: 8,
        caps: true,
        ...params
      })
    );
  it.each([
    ['box', 40 * 30 * 20, 2],
    ['cylinder', 16 * 0.5 * 400 * Math.sin(Math.PI / 8) * 30, 2],
    ['torus', undefined, 0],
    ['sphere', undefined, 2]
  ])('%s is closed, looks outward and has the right size', (shape, volume, euler) => {
    const cage = make({ shape });
    assertValid(cage);
    expect([eulerCharacteristic(cage), borderLoops(cage).length]).toEqual([euler, 0]);
    expect(enclosedVolume(cage)).toBeGreaterThan(0);
    if (volume !== undefined) expect(enclosedVolume(cage)).toBeCloseTo(volume, 6);
  });
  it('sphere and torus approach their volumes', () => {
    expect(enclosedVolume(make({ shape: 'sphere', across: 24 })) / ((4 / 3) * Math.PI * 8000)).toBeCloseTo(1, 2);
    expect(enclosedVolume(make({ shape: 'torus', sides: 120, tubeSides: 60 })) / (2 * Math.PI ** 2 * 20 * 49)).toBeCloseTo(1, 2);
  });
  it('plane looks up, the single vertex stands alone', () => {
    const sheet = make({ shape: 'plane' });
    expect([sheet.faceCount, borderLoops(sheet).length]).toEqual([8, 1]);
    const dot = make({ shape: 'vertex' });
    assertValid(dot);
    expect([dot.vertexCount, dot.faceCount]).toEqual([1, 0]);
  });
});

describe('demo shapes', () => {
  it('are the same every time, and each has a brief', () => {
    expect(mooringCleat()).toEqual(mooringCleat());
    expect(marshNewt(1.2)).toEqual(marshNewt(1.2));
    for (const { brief, id } of demoJobs) expect([brief.length > 60, /^[a-z-]+$/.test(id)]).toEqual([true, true]);
  });
  it('newt: closed, one island, symmetric, with limbs far from its body', () => {
    const mesh = marshNewt(0.6);
    const cage = Cage.fromPolygons(mesh);
    assertValid(cage);
    expect([genus(cage), borderLoops(cage).length, islands(cage).count]).toEqual([0, 0, 1]);
    const { min, max } = boundsOf(mesh.positions);
    expect(max[0] + min[0]).toBeCloseTo(0, 1);
    expect(max[2] - min[2]).toBeGreaterThan(1.6 * (max[0] - min[0]));
    expect(enclosedVolume(cage)).toBeGreaterThan(10_000);
  });
  it('cleat: a cage of quads, closed, with a hole under its horns', () => {
    const cage = Cage.fromPolygons(mooringCleat());
    assertValid(cage);
    expect([genus(cage), borderLoops(cage).length, [...cage.faces()].every((f) => cage.faceSize(f) === 4)]).toEqual([1, 0, true]);
  });
  it('buoy: needs all that its brief says', () => {
    const { mesh, report } = repairPolygons(channelBuoy(), { weld: true });
    const cage = Cage.fromPolygons(mesh);
    assertValid(cage);
    expect([report.weldedVertices > 0, report.turnedFaces > 0]).toEqual([true, true]);
    const sizes = borderLoops(cage).map((b) => b.length % 2);
    expect(sizes.filter((odd) => odd)).toHaveLength(2);
    expect(sizes.length).toBeGreaterThanOrEqual(6);
    expect([...cage.faces()].filter((f) => cage.faceSize(f) > 4).length).toBeGreaterThan(2);
  });
  it('double ring has two handles', () => {
    const cage = Cage.fromPolygons(doubleRing(1.2));
    assertValid(cage);
    expect(genus(cage)).toBe(2);
  });

  it('a box is the skin of all of its cells, in their order', () => {
    for (const [x, y, z] of [
      [1, 1, 1],
      [2, 3, 4],
      [5, 4, 1],
      [4, 5, 6]
    ]) {
      const lines = (length: number, n: number) => Array.from({ length: n + 1 }, (_, i) => (length * i) / n - length / 2);
      expect(box({ x: 1, y: 2, z: 3 }, { x, y, z })).toEqual(boxUnion(lines(1, x), lines(2, y), lines(3, z), () => true));
    }
  });
});
