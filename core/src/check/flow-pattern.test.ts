import { describe, expect, it } from 'vitest';
import { Cage } from '../mesh/cage.ts';
import { cylinder, plane, quadSphere } from '../shapes/start-shapes.ts';
import { patchesBetweenPoles, stripPattern } from './flow-pattern.ts';
import { MirrorPartners } from './mirror-partners.ts';

describe('strips of quads', () => {
  it('count every quad to the longer one: on a sheet the rows along it', () => {
    const { strip, spirals, lengths } = stripPattern(Cage.fromPolygons(plane(6, 3, 6, 3)));
    expect(new Set(strip).size).toBe(3);
    expect([...new Set(strip)].map((s) => lengths[s])).toEqual([6, 6, 6]);
    expect(spirals.every((s) => s === 0)).toBe(true);
    // the ends of a closed cylinder are no quads
    expect([...stripPattern(Cage.fromPolygons(cylinder(2, 5, 9, 3, true))).strip].filter((s) => s < 0)).toHaveLength(2);
  });
});

describe('patches between poles', () => {
  it('are the six sides of a ball of quads, and all of a sheet', () => {
    const sides = patchesBetweenPoles(Cage.fromPolygons(quadSphere(5, 4)));
    expect([new Set(sides).size, sides.filter((p) => p === 0).length]).toEqual([6, 16]);
    expect(new Set(patchesBetweenPoles(Cage.fromPolygons(plane(4, 4, 4, 4)))).size).toBe(1);
  });
});

describe('partners in a mirror', () => {
  it('are as far off as a vertex was moved, and follow what moves', () => {
    const ball = Cage.fromPolygons(quadSphere(5, 4));
    const v = [...ball.vertices()].find((w) => ball.position(w)[0] > 1 && Math.abs(ball.position(w)[1]) > 1)!;
    const moved = ball.clone();
    moved.positions[3 * v + 2] += 0.01;
    const known = new MirrorPartners(ball);
    expect(known.errors()!.most).toBe(0);
    const followed = new MirrorPartners(moved, { partners: known, changed: [v] });
    expect(followed.errors()!.most).toBeCloseTo(0.01, 9);
    expect([...followed.errors()!.byVertex].filter((off) => off > 1e-6)).toHaveLength(2);
    expect(new MirrorPartners(Cage.fromPolygons(plane(3, 3, 2, 2))).errors()!.axis).toBe(0);
  });
});
