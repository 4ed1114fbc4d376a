import * as THREE from 'three';
import type { Triple } from '@ulvrin/core';
import type { Gaze } from './glide.ts';

/** A rectangle of a view, in pixels from its upper left corner. */
export interface Rect {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** What a view shows of what is looked at. */
export interface Lens {
  /** pixels */
  width: number;
  height: number;
  /** degrees from its lower to its upper edge */
  fov: number;
  /** things do not get smaller with distance */
  parallel: boolean;
}

/** What is to be seen: the box round it, mm, and some of its points. */
export interface Subject {
  min: Readonly<Triple>;
  max: Readonly<Triple>;
  points: readonly Triple[];
}

/** Points that a frame is judged by, at most; share of them that may be covered; share of a free area that is filled, as handles need room too. */
const [MOST_POINTS, MAY_BE_COVERED, FILLED] = [800, 0.02, 0.74];

/** Points from lists of x, y, z: all of them, or evenly some where they are many. */
export function somePoints(lists: readonly ArrayLike<number>[]): Triple[] {
  const each = Math.ceil(lists.reduce((sum, { length }) => sum + length / 3, 0) / MOST_POINTS);
  const some: Triple[] = [];
  for (const list of lists) for (let i = 0; i + 2 < list.length; i += 3 * each) some.push([list[i], list[i + 1], list[i + 2]]);
  return some;
}

/** The largest rectangles of a view that nothing covers. */
export function freeAreas({ width, height }: Pick<Lens, 'width' | 'height'>, covered: readonly Rect[]): Rect[] {
  let free: Rect[] = [{ left: 0, top: 0, right: width, bottom: height }];
  for (const c of covered) {
    free = free.flatMap((f) => {
      if (c.left >= f.right || c.right <= f.left || c.top >= f.bottom || c.bottom <= f.top) return [f];
      const beside = [
        { ...f, right: c.left },
        { ...f, left: c.right },
        { ...f, bottom: c.top },
        { ...f, top: c.bottom }
      ];
      return beside.filter(({ left, top, right, bottom }) => right > left && bottom > top);
    });
  }
  return free;
}

/** Where points are seen, in pixels of the view, with the mm that a pixel takes at the target. */
function seenFrom(points: readonly Triple[], { offset, target }: Gaze, { width, height, fov, parallel }: Lens) {
  const [right, up, back] = [new THREE.Vector3(), new THREE.Vector3(), new THREE.Vector3()];
  new THREE.Matrix4().lookAt(offset, new THREE.Vector3(), THREE.Object3D.DEFAULT_UP).extractBasis(right, up, back);
  const distance = offset.length();
  const mm = (2 * distance * Math.tan((fov * Math.PI) / 360)) / height;
  const from = new THREE.Vector3();
  const pixels = points.map(([x, y, z]): [number, number] => {
    from.set(x, y, z).sub(target);
    const nearer = parallel ? 1 : distance / Math.max(1e-3 * distance, distance - from.dot(back));
    return [width / 2 + (nearer * from.dot(right)) / mm, height / 2 - (nearer * from.dot(up)) / mm];
  });
  return { pixels, mm, right, up };
}

function extentOf(pixels: readonly (readonly [number, number])[]): Rect {
  const [xs, ys] = [pixels.map(([x]) => x), pixels.map(([, y]) => y)];
  return { left: Math.min(...xs), top: Math.min(...ys), right: Math.max(...xs), bottom: Math.max(...ys) };
}

/** How many times as large as it is something could be in an area. */
const roomFor = (seen: Rect, area: Rect): number =>
  FILLED * Math.min((area.right - area.left) / (seen.right - seen.left || 1), (area.bottom - area.top) / (seen.bottom - seen.top || 1));

/**
 * Where to look from so that something is seen whole, from the same direction: in the middle of the view where that is free,
 * else as large as it can be in the part of it that nothing covers.
 */
export function framed({ min, max, points }: Subject, gaze: Gaze, lens: Lens, covered: readonly Rect[] = []): Gaze {
  const [low, high] = [new THREE.Vector3(...min), new THREE.Vector3(...max)];
  const fill = Math.sin((lens.fov * Math.PI) / 360) * Math.min(1, lens.width / lens.height);
  const away = (0.95 * 0.5 * (low.distanceTo(high) || 1)) / fill;
  const middle: Gaze = { target: low.add(high).multiplyScalar(0.5), offset: gaze.offset.clone().setLength(away), zoom: 1 };
  const { pixels } = seenFrom(points, middle, lens);
  const hidden = pixels.filter(([x, y]) => covered.some(({ left, top, right, bottom }) => x > left && x < right && y > top && y < bottom)).length;
  if (hidden <= MAY_BE_COVERED * points.length) return middle;
  const seen = extentOf(pixels);
  const area = freeAreas(lens, covered).sort((a, b) => roomFor(seen, b) - roomFor(seen, a))[0];
  if (!area) return middle;
  let next = middle;
  // what is nearer moves and grows by more than the target does: a few rounds settle that
  for (let round = 0; round < 4; round++) {
    const now = seenFrom(points, next, lens);
    const distance = Math.max(away, next.offset.length() / roomFor(extentOf(now.pixels), area));
    next = { ...next, offset: next.offset.clone().setLength(distance) };
    const { pixels, mm, right, up } = seenFrom(points, next, lens);
    const box = extentOf(pixels);
    const [across, down] = [(box.left + box.right - area.left - area.right) / 2, (box.top + box.bottom - area.top - area.bottom) / 2];
    next.target = next.target
      .clone()
      .addScaledVector(right, across * mm)
      .addScaledVector(up, -down * mm);
  }
  return next;
}
