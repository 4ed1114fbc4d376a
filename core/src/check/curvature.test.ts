import { describe, expect, it } from 'vitest';
import { cylinder, plane, quadSphere, torus } from '../shapes/start-shapes.ts';
import { limitCurvatures } from './curvature.ts';

const settings = { scheme: 'catmull-clark', borderCorners: 'sharp' } as const;
const most = (values: Float64Array) => values.reduce((a, b) => Math.max(a, b), -Infinity);
const least = (values: Float64Array) => values.reduce((a, b) => Math.min(a, b), Infinity);
const middle = (values: Float64Array) => [...values].sort((a, b) => a - b)[values.length >> 1];

describe('curvature of the smooth surface', () => {
  it('is that of the closed forms: sphere, cylinder, torus, plane', () => {
    const ball = limitCurvatures(quadSphere(20, 8), settings);
    expect(middle(ball.mean) * 20).toBeCloseTo(1, 1);
    expect(middle(ball.gauss) * 400).toBeCloseTo(1, 1);
    const tube = limitCurvatures(cylinder(10, 40, 24, 8, false), settings);
    expect(middle(tube.mean) * 10).toBeCloseTo(0.5, 1);
    expect(Math.abs(middle(tube.gauss)) * 100).toBeLessThan(0.01);
    const ring = limitCurvatures(torus(30, 8, 32, 16), settings);
    // outside it is curved as a ball is, inside as a saddle
    expect(most(ring.gauss) * 8 * 38).toBeCloseTo(1, 1);
    expect(least(ring.gauss) * 8 * 22).toBeCloseTo(-1, 1);
    const flat = limitCurvatures(plane(10, 10, 6, 6), settings);
    for (const values of [flat.mean, flat.gauss]) expect([most(values), least(values)].every((x) => Math.abs(x) < 1e-9)).toBe(true);
  });

  it('is below 0 in hollows', () => {
    const inside = quadSphere(20, 8);
    const turned = { ...inside, faceVertices: inside.faceVertices.map((_, c, all) => all[c - (c % 4) + (3 - (c % 4))]) };
    expect(middle(limitCurvatures(turned, settings).mean) * 20).toBeCloseTo(-1, 1);
  });
});
