import { beforeAll, describe, expect, it } from 'vitest';
import { assertValid } from '../mesh/assert-valid.ts';
import { Cage } from '../mesh/cage.ts';
import { borderLoops, enclosedVolume, eulerCharacteristic } from '../mesh/topology.ts';
import { box, cylinder, quadSphere } from '../shapes/start-shapes.ts';
import { booleanOf } from './boolean.ts';
import { loadSolids } from './engine.ts';

beforeAll(() => loadSolids());

const block = (n = 1) => Cage.fromPolygons(box({ x: 10, y: 10, z: 10 }, { x: n, y: n, z: n }));
const rod = (sides = 12) => Cage.fromPolygons(cylinder(2, 30, sides, 1, true));
const moved = (cage: Cage, by: number[]) => {
  for (const v of cage.vertices()) by.forEach((x, k) => (cage.positions[3 * v + k] += x));
  return cage;
};
const regular = (sides: number, r: number) => 0.5 * sides * r * r * Math.sin((2 * Math.PI) / sides);

describe('subtract, join, common', () => {
  it('drills a hole through a block: closed, one handle, exact volume, quads inside the hole', () => {
    const { cage } = booleanOf(block(), rod(), 'subtract');
    assertValid(cage);
    expect([borderLoops(cage).length, eulerCharacteristic(cage)]).toEqual([0, 0]);
    expect(enclosedVolume(cage)).toBeCloseTo(1000 - 10 * regular(12, 2), 3);
    const wall = [...cage.faces()].filter((f) =>
      cage.faceVertices(f).every((v) => Math.abs(Math.hypot(cage.position(v)[0], cage.position(v)[2]) - 2) < 1e-3)
    );
    expect(wall.map((f) => cage.faceSize(f))).toEqual(Array(12).fill(4));
  });

  it('leaves faces that are not cut exactly as they were, with regions and creases', () => {
    const first = block(4);
    first.regionNames = ['stage', 'rail'];
    const [marked] = [...first.faces()].filter((f) => first.faceVertices(f).every((v) => first.position(v)[0] < -4.9));
    first.setValue('region', marked, 1);
    for (const h of first.loopOf(first.faceEdge[marked])) first.setValue('crease', h >> 1, 2.5);
    const { cage, whole } = booleanOf(first, rod(), 'subtract');
    assertValid(cage);
    // the rod cuts the four faces in the middle above and below
    expect(whole).toBe(96 - 8);
    expect(cage.faceVertices(marked).map((v) => cage.position(v))).toEqual(first.faceVertices(marked).map((v) => first.position(v)));
    expect(cage.value('region', marked)).toBe(1);
    expect(cage.loopOf(cage.faceEdge[marked]).map((h) => cage.value('crease', h >> 1))).toEqual([2.5, 2.5, 2.5, 2.5]);
  });

  it('keeps creases on what is left of an edge that was cut', () => {
    const first = block();
    for (const e of first.edges()) first.setValue('crease', e, 10);
    const { cage } = booleanOf(first, moved(block(), [5, 5, 5]), 'subtract');
    assertValid(cage);
    expect(enclosedVolume(cage)).toBeCloseTo(875, 3);
    const sharp = [...cage.edges()].filter((e) => cage.value('crease', e) === 10);
    expect(sharp.reduce((sum, e) => sum + cage.edgeLength(e), 0)).toBeCloseTo(12 * 10 - 3 * 5 + 0, 3);
    expect([...cage.faces()].map((f) => cage.faceSize(f)).sort()).toEqual([4, 4, 4, 4, 4, 4, 6, 6, 6]);
  });

  it('joins and takes what is common, and gives back both where they do not touch', () => {
    const volume = (kind: 'join' | 'common', by: number[]) => enclosedVolume(booleanOf(block(), moved(block(), by), kind).cage);
    expect(volume('join', [5, 5, 5])).toBeCloseTo(1875, 3);
    expect(volume('common', [5, 5, 5])).toBeCloseTo(125, 3);
    const apart = booleanOf(block(), moved(block(), [30, 0, 0]), 'join');
    expect([apart.whole, apart.cage.faceCount]).toEqual([12, 12]);
  });

  it('works on a ball of quads that are not flat', () => {
    const { cage } = booleanOf(Cage.fromPolygons(quadSphere(6, 12)), block(2), 'common');
    assertValid(cage);
    expect(borderLoops(cage)).toEqual([]);
    expect(enclosedVolume(cage)).toBeLessThan(900);
    expect(enclosedVolume(cage)).toBeGreaterThan(700);
  });
});
