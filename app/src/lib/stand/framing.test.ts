import { describe, expect, it } from 'vitest';
import * as THREE from 'three';
import { framed, freeAreas, somePoints, type Rect, type Lens } from './framing.ts';
import type { Gaze } from './glide.ts';

const lens: Lens = { width: 700, height: 700, fov: 35, parallel: false };
const gaze: Gaze = { offset: new THREE.Vector3(30, 20, 40), target: new THREE.Vector3(5, 5, 5), zoom: 3 };

/** A box of half sizes round a middle. */
function box(half: [number, number, number], at: [number, number, number] = [0, 0, 0]) {
  const corners = Array.from({ length: 8 }, (_, i) => half.map((h, k) => at[k] + ((i >> k) & 1 ? h : -h)) as [number, number, number]);
  return { min: corners[0], max: corners[7], points: corners };
}

/** Where three's own camera shows points from a gaze, in pixels. */
function shown(points: readonly (readonly number[])[], { offset, target }: Gaze, { width, height, fov, parallel }: Lens): [number, number][] {
  const half = offset.length() * Math.tan((fov * Math.PI) / 360);
  const camera = parallel
    ? new THREE.OrthographicCamera((-half * width) / height, (half * width) / height, half, -half, -1e4, 1e4)
    : new THREE.PerspectiveCamera(fov, width / height, 0.1, 1e4);
  camera.position.copy(target).add(offset);
  camera.lookAt(target);
  camera.updateMatrixWorld();
  return points.map(([x, y, z]) => {
    const v = new THREE.Vector3(x, y, z).project(camera);
    return [((v.x + 1) / 2) * width, ((1 - v.y) / 2) * height];
  });
}

const within = (pixels: [number, number][], { left, top, right, bottom }: Rect) =>
  pixels.every(([x, y]) => x >= left && x <= right && y >= top && y <= bottom);
const isCovered = (pixels: [number, number][], areas: Rect[]) =>
  pixels.some(([x, y]) => areas.some((a) => x > a.left && x < a.right && y > a.top && y < a.bottom));

describe('a frame', () => {
  const brief = { left: 40, top: 0, right: 320, bottom: 280 };
  const block = { left: 330, top: 560, right: 700, bottom: 700 };

  it('has what is seen in the middle, whole, from the same direction', () => {
    const subject = box([20, 10, 5], [100, 0, -7]);
    const next = framed(subject, gaze, lens);
    expect(next.target.toArray()).toEqual([100, 0, -7]);
    expect(next.zoom).toBe(1);
    expect(next.offset.clone().normalize().distanceTo(gaze.offset.clone().normalize())).toBeLessThan(1e-12);
    expect(within(shown(subject.points, next, lens), { left: 0, top: 0, right: 700, bottom: 700 })).toBe(true);
  });

  it('stays in the middle where what covers the view does not cover what is seen', () => {
    const subject = box([10, 10, 10]);
    const corner = { left: 660, top: 660, right: 700, bottom: 700 };
    expect(framed(subject, gaze, lens, [corner])).toEqual(framed(subject, gaze, lens));
  });

  it.each([
    ['a tall part', [8, 40, 8]],
    ['a wide part', [40, 6, 30]],
    ['a cube', [20, 20, 20]]
  ] as const)('puts %s where nothing covers it, from any side, in perspective and straight', (_, half) => {
    const subject = box([...half], [3, 50, -9]);
    expect(isCovered(shown(subject.points, framed(subject, gaze, lens), lens), [brief, block])).toBe(true);
    for (const parallel of [false, true])
      for (const offset of [gaze.offset, new THREE.Vector3(0, 0, 10), new THREE.Vector3(-9, 2, 1)]) {
        const at = { ...lens, parallel };
        const [plain, next] = [framed(subject, { ...gaze, offset }, at), framed(subject, { ...gaze, offset }, at, [brief, block])];
        const pixels = shown(subject.points, next, at);
        expect(isCovered(pixels, [brief, block])).toBe(false);
        expect(within(pixels, { left: 0, top: 0, right: 700, bottom: 700 })).toBe(true);
        // and not nearer than in the middle of the view
        expect(next.offset.length()).toBeGreaterThanOrEqual(plain.offset.length() - 1e-9);
      }
  });

  it('frames the middle where all of the view is covered, and a single point', () => {
    expect(framed(box([1, 1, 1]), gaze, lens, [{ left: 0, top: 0, right: 700, bottom: 700 }])).toEqual(framed(box([1, 1, 1]), gaze, lens));
    const point = framed({ min: [1, 2, 3], max: [1, 2, 3], points: [[1, 2, 3]] }, gaze, lens);
    expect([point.target.toArray(), Number.isFinite(point.offset.length())]).toEqual([[1, 2, 3], true]);
  });

  it('knows the largest free areas, none of which is covered', () => {
    const free = freeAreas(lens, [brief, block]);
    expect(free).toContainEqual({ left: 320, top: 0, right: 700, bottom: 560 });
    expect(free).toContainEqual({ left: 0, top: 280, right: 700, bottom: 560 });
    for (const f of free)
      for (const c of [brief, block]) expect(c.left < f.right && c.right > f.left && c.top < f.bottom && c.bottom > f.top).toBe(false);
  });

  it('is judged by some of many points, over all lists', () => {
    const lists = [Float32Array.from({ length: 30_000 }, (_, i) => i), [1, 2, 3]];
    const some = somePoints(lists);
    expect(some.length).toBeLessThanOrEqual(802);
    expect(some.at(-1)).toEqual([1, 2, 3]);
    expect(somePoints([[1, 2, 3, 4, 5, 6]])).toEqual([
      [1, 2, 3],
      [4, 5, 6]
    ]);
  });
});
