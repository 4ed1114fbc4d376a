import * as THREE from 'three';
import { describe, expect, it } from 'vitest';
import { between, isSame, type Gaze } from './glide.ts';

const gaze = (offset: [number, number, number], target: [number, number, number] = [0, 0, 0], zoom = 1): Gaze => ({
  offset: new THREE.Vector3(...offset),
  target: new THREE.Vector3(...target),
  zoom
});

describe('a glide from view to view', () => {
  it('begins and ends where it should, to the bit', () => {
    const [from, to] = [gaze([0, 0, 100], [1, 2, 3], 2), gaze([0, 200, 0], [7, 8, 9], 0.5)];
    expect(between(from, to, 0).offset.distanceTo(from.offset)).toBeLessThan(1e-9);
    const end = between(from, to, 1);
    expect([end.offset.toArray(), end.target.toArray(), end.zoom]).toEqual([[0, 200, 0], [7, 8, 9], 0.5]);
  });

  it('tells gazes apart, but for rounding', () => {
    const from = gaze([0, 0, 100], [1, 2, 3], 2);
    expect(isSame(from, gaze([1e-9, 0, 100], [1, 2, 3], 2))).toBe(true);
    expect([gaze([0, 0, 99], [1, 2, 3], 2), gaze([0, 0, 100], [1, 2, 4], 2), gaze([0, 0, 100], [1, 2, 3], 1)].some((to) => isSame(from, to))).toBe(
      false
    );
  });

  it('goes round what is looked at, at a distance between both', () => {
    for (const to of [gaze([100, 0, 0]), gaze([0, 0, -100]), gaze([0, 50, 0])])
      for (let t = 0; t <= 1; t += 0.1) {
        const away = between(gaze([0, 0, 100]), to, t).offset.length();
        expect(away).toBeGreaterThan(49.9);
        expect(away).toBeLessThan(100.1);
      }
  });
});
