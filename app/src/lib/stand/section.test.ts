import * as THREE from 'three';
import { describe, expect, it } from 'vitest';
import { sectionPlane } from './section.ts';

describe('a section', () => {
  const away = (looking: number[], offset: number, p: number[]) =>
    sectionPlane({ point: [1, 2, 3], offset }, new THREE.Vector3(...looking)).distanceToPoint(new THREE.Vector3(...p));

  it('runs through its point across the axis that is looked along most, and keeps what lies behind', () => {
    expect(away([0.2, -0.3, -0.9], 0, [50, -7, 3])).toBeCloseTo(0, 9);
    expect(away([0.2, -0.3, -0.9], 0, [0, 0, 1])).toBeCloseTo(2, 9);
    expect(away([0.2, -0.9, -0.3], 0, [0, 5, 0])).toBeCloseTo(-3, 9);
    expect(away([0.9, 0.3, 0.1], 0, [4, 0, 0])).toBeCloseTo(3, 9);
  });

  it('is moved farther off by mm', () => {
    expect(away([0, 0, -1], 2, [0, 0, 1])).toBeCloseTo(0, 9);
    expect(away([0, 0, -1], -2, [0, 0, 5])).toBeCloseTo(0, 9);
  });
});
