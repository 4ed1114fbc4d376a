import { describe, expect, it } from 'vitest';
import { Cage } from '../../mesh/cage.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { selectVertices } from '../../select/selection.ts';
import { denseSphere } from '../../shapes/sample-surfaces.ts';
import { quadSphere } from '../../shapes/start-shapes.ts';
import { applyOperation } from '../apply.ts';
import { type Params } from '../operation.ts';
import { landmarks } from './landmarks.ts';

const reference = denseSphere(48);
const around = { surface: { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const }, reference };
/** a small ball beside the reference */
const ball = () => {
  const cage = Cage.fromPolygons(quadSphere(4, 6));
  for (const v of cage.vertices()) cage.positions[3 * v] += 50;
  return cage;
};
const nearest = (cage: Cage, p: Triple) =>
  [...cage.vertices()].reduce((a, b) =>
    Math.hypot(...cage.position(b).map((x, k) => x - p[k])) < Math.hypot(...cage.position(a).map((x, k) => x - p[k])) ? b : a
  );
const fitted = (cage: Cage, vertices: number[], clicks: Triple[], params: Params = {}) =>
  applyOperation(landmarks, cage, selectVertices(vertices), { clicks, ...params }, around);

describe('fit by landmarks', () => {
  const cage = ball();
  const own = (
    [
      [54, 0, 0],
      [50, 4, 0],
      [50, 0, 4]
    ] as Triple[]
  ).map((p) => nearest(cage, p));
  const onto: Triple[] = [
    [0, 20, 0],
    [0, 0, 20],
    [20, 0, 0]
  ];

  it('takes picked vertices to the clicked places and the others along, every vertex by its number', () => {
    const { cage: made } = fitted(cage, own, onto, { passes: 0 });
    own.forEach((v, i) => expect(Math.hypot(...made.position(v).map((x, k) => x - onto[i][k]))).toBeLessThan(1e-9));
    for (const v of cage.vertices()) expect(Math.hypot(...made.position(v))).toBeCloseTo(20, 6);
    expect([made.vertexCount, [...made.faces()].map((f) => made.faceVertices(f)).join()]).toEqual([
      cage.vertexCount,
      [...cage.faces()].map((f) => cage.faceVertices(f)).join()
    ]);
  });

  it('is held to the reference afterwards, for good by choice', () => {
    const { cage: made, notes } = fitted(
      cage,
      own,
      onto.map(([x, y, z]): Triple => [1.2 * x, 1.2 * y, 1.2 * z]),
      { lasting: true }
    );
    for (const v of made.vertices()) expect(Math.abs(Math.hypot(...made.position(v)) - 20)).toBeLessThan(0.05);
    expect([...made.vertices()].every((v) => made.value('held', v) === 1)).toBe(true);
    expect(notes[0]).toBe('3 landmarks met; every vertex keeps its number.');
  });

  it('waits for clicks, and says what it lacks', () => {
    expect(() => fitted(cage, own.slice(1), onto)).toThrow(/2 vertices are picked; landmarks are three/);
    expect(() => fitted(cage, own, onto.slice(1))).toThrow(/Click where vertex 3 of 3 lies/);
    expect(() => fitted(cage, own, [onto[0], onto[1], [0, 10, 10]])).toThrow(/clicked places lie on one line/);
  });
});
