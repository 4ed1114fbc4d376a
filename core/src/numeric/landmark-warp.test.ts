import { describe, expect, it } from 'vitest';
import { landmarkWarp, similarityBetween } from './landmark-warp.ts';
import { length, subtract, type Triple } from './vectors.ts';

const places: Triple[] = [
  [0, 0, 0],
  [10, 0, 0],
  [0, 7, 1],
  [2, 3, 9],
  [5, 5, 5]
];
/** a quarter turn about z, twice the size, moved */
const known = ([x, y, z]: Triple): Triple => [-2 * y + 3, 2 * x - 4, 2 * z + 5];
const far = (a: readonly number[], b: readonly number[]) => length(subtract(a, b));

describe('a similarity between places', () => {
  it('is the one they were moved by, elsewhere too', () => {
    const found = similarityBetween(places, places.map(known));
    for (const p of [...places, [100, -20, 7] as Triple]) expect(far(found(p), known(p))).toBeLessThan(1e-9);
  });

  it('is found from three places', () => {
    const three = places.slice(0, 3);
    const found = similarityBetween(three, three.map(known));
    expect(far(found([4, 4, 4]), known([4, 4, 4]))).toBeLessThan(1e-9);
  });

  it('turns where a mirror image would fit better', () => {
    const found = similarityBetween(
      places,
      places.map(([x, y, z]): Triple => [-x, y, z])
    );
    const [o, a, b, c] = (
      [
        [0, 0, 0],
        [1, 0, 0],
        [0, 1, 0],
        [0, 0, 1]
      ] as Triple[]
    ).map(found);
    const [u, v, w] = [a, b, c].map((p) => subtract(p, o));
    const handed = u[0] * (v[1] * w[2] - v[2] * w[1]) - u[1] * (v[0] * w[2] - v[2] * w[0]) + u[2] * (v[0] * w[1] - v[1] * w[0]);
    expect(handed).toBeGreaterThan(0);
  });
});

describe('a warp by landmarks', () => {
  it('takes each place where it is to be, and others along smoothly', () => {
    const to = places.map(known).map((p, i): Triple => (i === 4 ? [p[0] + 1, p[1], p[2]] : p));
    const warp = landmarkWarp(places, to);
    places.forEach((p, i) => expect(far(warp(p), to[i])).toBeLessThan(1e-9));
    const beside = far(warp([5.1, 5, 5]), warp([5, 5, 5]));
    expect(beside).toBeGreaterThan(0.1);
    expect(beside).toBeLessThan(0.4);
  });

  it('is a plain shift of everything where all places are shifted', () => {
    const warp = landmarkWarp(
      places,
      places.map(([x, y, z]): Triple => [x + 1, y, z])
    );
    expect(far(warp([50, 50, 50]), [51, 50, 50])).toBeLessThan(1e-9);
  });
});
