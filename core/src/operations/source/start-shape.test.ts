import { describe, expect, it } from 'vitest';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { borderLoops, enclosedVolume, eulerCharacteristic } from '../../mesh/topology.ts';
import { startShape } from './start-shape.ts';

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
