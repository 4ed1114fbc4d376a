import * as THREE from 'three';
import { describe, expect, it } from 'vitest';
import { turnRound } from './turn-round.ts';

const eye = { position: new THREE.Vector3(30, 20, 80), target: new THREE.Vector3(1, 2, 3) };
const pivot = new THREE.Vector3(12, -4, 9);

/** Where a point is seen, with Y up. */
function seen({ position, target }: typeof eye, point: THREE.Vector3): [number, number] {
  const camera = new THREE.PerspectiveCamera(35, 1, 1, 1000);
  camera.position.copy(position);
  camera.lookAt(target);
  camera.updateMatrixWorld();
  const { x, y } = point.clone().project(camera);
  return [x, y];
}

describe('turning round a point', () => {
  it('leaves it where it is seen, and the eye as far away', () => {
    for (const [right, up] of [
      [0.4, 0],
      [0, 0.3],
      [-1.1, -0.2]
    ]) {
      const turned = turnRound(eye, pivot, right, up);
      const [before, after] = [seen(eye, pivot), seen(turned, pivot)];
      expect(after[0]).toBeCloseTo(before[0], 9);
      expect(after[1]).toBeCloseTo(before[1], 9);
      expect(turned.position.distanceTo(turned.target)).toBeCloseTo(eye.position.distanceTo(eye.target), 9);
      expect(seen(turned, eye.target)).not.toEqual(seen(eye, eye.target));
    }
  });

  it('never goes over a pole', () => {
    for (const up of [9, -9]) {
      const { position, target } = turnRound(eye, pivot, 0, up);
      const polar = position
        .clone()
        .sub(target)
        .angleTo(new THREE.Vector3(0, 1, 0));
      expect(Math.min(polar, Math.PI - polar)).toBeCloseTo(0.02, 6);
    }
  });
});
