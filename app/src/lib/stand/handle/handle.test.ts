import { applyOperation, box, Cage, operationById, selectFaces, type CageOperation, type Frame, type Placement, type Triple } from '@ulvrin/core';
import * as THREE from 'three';
import { describe, expect, it, vi } from 'vitest';
import { onScreen, type Eye } from '../eye.ts';
import { Handle, STILL, type HandleSettings } from './handle.ts';

const world: Frame['axes'] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1]
];
const oblique = (() => {
  const turned = new THREE.Matrix4().makeRotationFromEuler(new THREE.Euler(0.4, -0.9, 1.3));
  return [0, 1, 2].map((k) => new THREE.Vector3().setFromMatrixColumn(turned, k).toArray()) as Frame['axes'];
})();

/** A handle looked at from afar, 400 pixels high and wide; what it tells, and ways to drag it. */
function shown(settings: Partial<HandleSettings> = {}, from: Triple = [60, 90, 140]) {
  const camera = new THREE.PerspectiveCamera(2, 1, 10, 10000);
  camera.position.set(...from).multiplyScalar(20);
  camera.up.set(0, 1, 0.001);
  camera.lookAt(0, 0, 0);
  camera.updateMatrixWorld();
  const eye: Eye = { host: { clientWidth: 400, clientHeight: 400 } as HTMLElement, camera, section: undefined };
  const handle = new Handle(() => eye);
  const told: Placement[] = [];
  const frame: Frame = { axes: world, pivot: [0, 0, 0] };
  handle.show({ frame, step: 0, base: [0, 0, 0], changed: (placement) => told.push(placement), ...settings });
  handle.follow(STILL);
  /** a pixel at which the handle would do this */
  const pixelOf = (label: string): [number, number] => {
    for (let x = 50; x < 350; x += 6) for (let y = 50; y < 350; y += 6) if (handle.hover(x, y) === label) return [x, y];
    throw new Error(`no ${label}`);
  };
  const drag = (label: string, ...way: [number, number][]) => {
    const [x, y] = pixelOf(label);
    const dragged = handle.begin(x, y)!;
    for (const [dx, dy] of way) dragged.move(x + dx, y + dy);
    dragged.end();
    return told.at(-1) ?? STILL;
  };
  const pixel = (p: THREE.Vector3) => onScreen(eye, p.toArray());
  return { handle, told, pixelOf, drag, pixel, eye };
}
const close = (a: Triple, b: readonly number[], digits = 6) => a.forEach((x, k) => expect(x).toBeCloseTo(b[k], digits));

describe('the handle', () => {
  it('moves along one axis of its frame with the pointer, and no other', () => {
    const { drag, handle } = shown({ frame: { axes: oblique, pivot: [4, -2, 7] } });
    const { shift, turn, size } = drag('Move along Y', [24, -18]);
    expect([shift[0], shift[2], turn, size]).toEqual([0, 0, [0, 0, 0], [1, 1, 1]]);
    expect(Math.abs(shift[1])).toBeGreaterThan(1);
    const there = new THREE.Vector3(4, -2, 7).addScaledVector(new THREE.Vector3(...oblique[1]), shift[1]);
    expect(handle.middle.distanceTo(there)).toBeLessThan(1e-9);
  });

  it('stays under the pointer where it moves across a plane or the view', () => {
    for (const label of ['Move across X and Z', 'Move across the view']) {
      const { drag, handle, pixel } = shown();
      const before = pixel(handle.middle);
      const { shift } = drag(label, [20, 12], [31, -7]);
      if (label.endsWith('Z')) expect(shift[1]).toBe(0);
      close([...pixel(handle.middle), 0], [before[0] + 31, before[1] - 7, 0], 0);
    }
  });

  it('turns about the axes of its frame, however it is turned already, and over whole turns', () => {
    const { drag, handle, pixel } = shown();
    const middle = pixel(handle.middle);
    // round the middle, one and a quarter times, in steps of a tenth
    const { pixelOf } = shown();
    const [x, y] = pixelOf('Turn about Z');
    const way = Array.from({ length: 41 }, (_, i): [number, number] => {
      const angle = (i / 40) * 2 * Math.PI;
      const [dx, dy] = [x - middle[0], y - middle[1]];
      return [dx * Math.cos(angle) - dy * Math.sin(angle) - dx, dx * Math.sin(angle) + dy * Math.cos(angle) - dy];
    });
    close(drag('Turn about Z', ...way).turn, [0, 0, 0], 4);
    const [quarter] = [drag('Turn about Z', ...way.slice(0, 11)).turn];
    expect(Math.abs(quarter[2])).toBeGreaterThan(45);
    close([quarter[0], quarter[1], 0], [0, 0, 0]);
    const then = drag('Turn about X', [0, 6], [0, 14]).turn;
    const turned = (t: Triple) => new THREE.Quaternion().setFromEuler(new THREE.Euler(...(t.map((d) => (d * Math.PI) / 180) as Triple), 'ZYX'));
    // what came last is a turn about X alone
    const last = turned(then).multiply(turned(quarter).invert());
    close([last.y, last.z, 0], [0, 0, 0]);
    expect(Math.abs(last.x)).toBeGreaterThan(0.02);
  });

  it('turns rings that are seen from their edge as well', () => {
    const { drag } = shown({}, [0, 0, 150]);
    const { turn } = drag('Turn about X', [0, 20], [0, 40]);
    expect(Math.abs(turn[0])).toBeGreaterThan(15);
    close([turn[1], turn[2], 0], [0, 0, 0]);
  });

  it('sizes along one axis or all, as far as the pointer goes', () => {
    const { drag, handle, pixel, pixelOf } = shown();
    const [mx, my] = pixel(handle.middle);
    const [x, y] = pixelOf('Size along X');
    const { size } = drag('Size along X', [x - mx, y - my]);
    close(size, [2, 1, 1], 1);
    const [rx, ry] = pixelOf('Size along all three');
    const half = drag('Size along all three', [(mx - rx) / 2, (my - ry) / 2]).size;
    close(half, [size[0] / 2, 0.5, 0.5], 3);
  });

  it('goes in steps: of a place where the shift counts from one, of degrees and of percent', () => {
    const { drag } = shown({ step: 4, base: [1, 0, 0] });
    const steps = [(drag('Move along X', [33, 5]).shift[0] + 1) / 4, drag('Turn about Z', [9, 14]).turn[2] / 4];
    for (const n of [...steps, drag('Size along Y', [7, -31]).size[1] * 25]) {
      expect(n).toBeCloseTo(Math.round(n));
      expect(Math.abs(Math.round(n))).toBeGreaterThan(0);
    }
  });

  it('is drawn to a place as far as the dragged axes let it', () => {
    const place: Triple = [10, 11, 12];
    const pivot: Triple = [4, -2, 7];
    const { drag, handle } = shown({ frame: { axes: oblique, pivot }, snapTo: () => place });
    const { shift } = drag('Move along Z', [5, 5]);
    const off = new THREE.Vector3(...place).sub(new THREE.Vector3(...pivot));
    close(shift, [0, 0, off.dot(new THREE.Vector3(...oblique[2]))]);
    drag('Move across the view', [5, 5]);
    expect(handle.middle.distanceTo(new THREE.Vector3(...place))).toBeLessThan(1e-9);
  });

  it('makes of its numbers what the operations make of them', () => {
    const pivot: Triple = [3, 1, -2];
    const { drag } = shown({ frame: { axes: world, pivot } });
    drag('Move across the view', [12, -5]);
    drag('Turn about Y', [15, 4], [20, 20]);
    drag('Turn about X', [4, 14]);
    const { shift, turn, size } = drag('Size along Z', [10, 10]);
    const cage = Cage.fromPolygons(box({ x: 4, y: 2, z: 6 }, { x: 1, y: 1, z: 1 }));
    const params = {
      ...Object.fromEntries(['x', 'y', 'z'].map((name, k) => [name, shift[k]])),
      ...Object.fromEntries(
        ['X', 'Y', 'Z'].flatMap((axis, k) => [
          [`turn${axis}`, turn[k]],
          [`size${axis}`, 100 * size[k]]
        ])
      ),
      pivot: 'typed',
      pivotX: pivot[0],
      pivotY: pivot[1],
      pivotZ: pivot[2]
    };
    const result = applyOperation(operationById('move') as CageOperation, cage, selectFaces([...cage.faces()]), params);
    const about = new THREE.Matrix4().makeTranslation(...pivot);
    const whole = about
      .clone()
      .multiply(new THREE.Matrix4().makeTranslation(...shift))
      .multiply(new THREE.Matrix4().makeRotationFromEuler(new THREE.Euler(...(turn.map((d) => (d * Math.PI) / 180) as Triple), 'ZYX')))
      .multiply(new THREE.Matrix4().makeScale(...size))
      .multiply(about.clone().invert());
    for (const v of cage.vertices()) close(result.cage.position(v), new THREE.Vector3(...cage.position(v)).applyMatrix4(whole).toArray(), 9);
  });

  it('has a knob where something can be drawn out, which follows the pointer and tells how far', () => {
    const taken = { drag: vi.fn(), end: vi.fn() };
    const { drag, told, handle } = shown({ knob: { label: 'Draw out', along: [0, 1, 0], begin: () => taken } });
    drag('Draw out', [0, -10], [0, -25]);
    const [[first], [second]] = taken.drag.mock.calls;
    expect([second > first, first > 0, taken.end.mock.calls.length, told]).toEqual([true, true, 1, []]);
    close(handle.middle.toArray() as Triple, [0, second, 0]);
  });

  it('shows what can be dragged from where it is seen, and moves alone where it places a pivot', () => {
    const { handle, pixelOf } = shown({}, [0, 0, 150]);
    expect(() => pixelOf('Move along Z')).toThrow();
    pixelOf('Move across X and Y');
    expect(() => pixelOf('Move across Y and Z')).toThrow();
    handle.show({ frame: { axes: world, pivot: [0, 0, 0] }, step: 0, base: [0, 0, 0], onlyMoves: true, changed: () => undefined });
    expect(() => pixelOf('Turn about Z')).toThrow();
    expect(() => pixelOf('Draw out')).toThrow();
    handle.hide();
    expect([handle.hover(200, 200), handle.begin(200, 200)]).toEqual([undefined, undefined]);
  });
});
