import { applyOperation, Cage, type CageOperation, type Frame, operationById, selectFaces, box } from '@ulvrin/core';
import * as THREE from 'three';
import { type TransformControls } from 'three/addons/controls/TransformControls.js';
import { describe, expect, it } from 'vitest';
import { FrameHandles, type HandleMode } from './handles.ts';

/** What the controls ask of an element of the page; they are moved by hand here. */
const element = () =>
  ({ style: {}, ownerDocument: {}, addEventListener: () => undefined, removeEventListener: () => undefined }) as unknown as HTMLElement;

/** Handles in a frame, the numbers they have told, and the controls and the object that is dragged. */
function handles(mode: HandleMode, frame: Frame, snapTo?: () => [number, number, number]) {
  const scene = new THREE.Scene();
  const told: [number, number, number][] = [];
  const shown = new FrameHandles(scene, new THREE.PerspectiveCamera(), element(), { draw: () => undefined, dragging: () => undefined });
  shown.show({ mode, frame, step: 0, snapTo, changed: (...numbers) => told.push(numbers) });
  const { controls } = scene.children.find((child) => 'controls' in child) as unknown as { controls: TransformControls };
  const dragged = () => {
    controls.dispatchEvent({ type: 'objectChange' });
    return told.at(-1)!.map((n) => Math.round(n * 1e6) / 1e6);
  };
  return { shown, scene, controls, told, dragged, pivot: controls.object! };
}

const turned = new THREE.Matrix4().makeRotationFromEuler(new THREE.Euler(0.4, -0.9, 1.3));
const axes = [0, 1, 2].map((k) => new THREE.Vector3().setFromMatrixColumn(turned, k).toArray()) as Frame['axes'];
const oblique: Frame = { axes, pivot: [4, -2, 7] };
const world: Frame = {
  axes: [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1]
  ],
  pivot: [0, 0, 0]
};

describe('handles of a frame', () => {
  it.each([
    ['translate', [3, -1.5, 0.25]],
    ['rotate', [35, -20, 140]],
    ['scale', [1.5, 0.5, 2]]
  ] as const)('%s: stand where typed numbers say, and tell the same when they are dragged from there', (mode, numbers) => {
    const { shown, dragged, pivot } = handles(mode, oblique);
    shown.follow([...numbers]);
    expect(dragged()).toEqual(numbers);
    // turned and scaled they stay at the pivot, moved they go along the frame's axes
    const there = new THREE.Vector3(...oblique.pivot);
    if (mode === 'translate') axes.forEach((axis, k) => there.addScaledVector(new THREE.Vector3(...axis), numbers[k]));
    expect(pivot.position.distanceTo(there)).toBeLessThan(1e-9);
  });

  it('turn as the operation turns what is picked', () => {
    const numbers: [number, number, number] = [30, -50, 110];
    const { shown, pivot } = handles('rotate', world);
    shown.follow(numbers);
    const cage = Cage.fromPolygons(box({ x: 4, y: 2, z: 6 }, { x: 1, y: 1, z: 1 }));
    const [x, y, z] = numbers;
    const all = selectFaces([...cage.faces()]);
    const result = applyOperation(operationById('rotate') as CageOperation, cage, all, { x, y, z, frame: 'world', pivot: 'origin' });
    for (const v of cage.vertices()) {
      const expected = new THREE.Vector3(...cage.position(v)).applyMatrix4(pivot.matrixWorld);
      expect(expected.distanceTo(new THREE.Vector3(...result.cage.position(v)))).toBeLessThan(1e-9);
    }
  });

  it('are drawn to a place as far as the dragged axis lets them', () => {
    const { controls, dragged, pivot } = handles('translate', oblique, () => [10, 10, 10]);
    controls.axis = 'XYZ';
    dragged();
    expect(pivot.position.distanceTo(new THREE.Vector3(10, 10, 10))).toBeLessThan(1e-9);
    const along = handles('translate', oblique, () => [10, 10, 10]);
    along.shown.follow([0, 0, 0]);
    along.controls.axis = 'Y';
    const [x, y, z] = along.dragged();
    const off = [10 - 4, 10 + 2, 10 - 7];
    expect(Math.hypot(x, z)).toBeLessThan(1e-6);
    expect(y).toBeCloseTo(
      axes[1].reduce((sum, c, k) => sum + c * off[k], 0),
      5
    );
  });

  it('go in steps of what they change, and away with their operation', () => {
    const { shown, controls, scene, told } = handles('rotate', world);
    shown.show({ mode: 'rotate', frame: world, step: 15, changed: () => undefined });
    expect(controls.rotationSnap).toBeCloseTo(Math.PI / 12);
    shown.show({ mode: 'scale', frame: world, step: 10, changed: () => undefined });
    expect(controls.scaleSnap).toBeCloseTo(0.1);
    shown.hide();
    expect(scene.children.some((child) => 'controls' in child)).toBe(false);
    expect(shown.hovered).toBe(false);
    controls.dispatchEvent({ type: 'objectChange' });
    shown.follow([1, 2, 3]);
    expect(told).toEqual([]);
  });
});
