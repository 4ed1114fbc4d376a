import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { noisySphere } from '../../../testing/noisy-shapes.ts';
import { run } from '../../../testing/run-operation.ts';
import { heedLocks, locksOf } from '../../even/locks.ts';
import { Cage } from '../../mesh/cage.ts';
import { bestFitCircle, bestFitPlane, inPlane } from '../../numeric/best-fit.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { edgeLoop } from '../../select/loops.ts';
import { emptySelection, selectEdges, selectVertices, verticesOf } from '../../select/selection.ts';
import { cylinder, plane } from '../../shapes/start-shapes.ts';
import { validParams } from '../apply.ts';
import { type CageOperation } from '../operation.ts';
import { operationById } from '../registry.ts';

const placesOf = (cage: Cage, vertices: readonly number[]): Triple[] => vertices.map((v) => cage.position(v));

/** How far some vertices lie off their best plane, and off their best circle in it, mm at most. */
function off(cage: Cage, vertices: readonly number[]): { plane: number; circle: number } {
  const places = placesOf(cage, vertices);
  const flat = places.map((p) => inPlane(bestFitPlane(places), p));
  const circle = bestFitCircle(flat)!;
  return {
    plane: Math.max(...flat.map(([, , z]) => Math.abs(z))),
    circle: Math.max(...flat.map(([x, y]) => Math.abs(Math.hypot(x - circle.x, y - circle.y) - circle.radius)))
  };
}

/** A loop round a noisy sphere, picked. */
function loopOn(cage: Cage) {
  const equator = [...cage.edges()].find((e) => edgeLoop(cage, e).closed && edgeLoop(cage, e).edges.length === 48)!;
  return selectEdges(edgeLoop(cage, equator).edges);
}

describe('locks', () => {
  it('bring vertices onto a plane, a line or a circle, and tell how far these went', () => {
    const cage = noisySphere(12);
    const loop = loopOn(cage);
    const vertices = verticesOf(cage, loop);
    const flat = run('lock', cage, loop, { held: 'flat' });
    expect(off(flat.cage, vertices).plane).toBeLessThan(1e-9);
    expect(flat.notes[0]).toMatch(/^48 vertices locked flat, brought there by .* mm at most\.$/);
    const round = run('lock', cage, loop, { held: 'round' }).cage;
    expect(off(round, vertices)).toMatchObject({ plane: expect.closeTo(0, 9), circle: expect.closeTo(0, 9) });
    expect(locksOf(round)).toEqual([{ id: expect.any(Number), kind: 'round', vertices: expect.arrayContaining(vertices) }]);
    expect(run('lock', round, loop, { held: 'free' }).cage.positions).toEqual(round.positions);
    expect(locksOf(run('lock', round, loop, { held: 'free' }).cage)).toEqual([]);
  });

  it('survive relaxing, brushes, moves and holding: flat stays flat, round round, still where it is', () => {
    const cage = noisySphere(12);
    const loop = loopOn(cage);
    const vertices = verticesOf(cage, loop);
    for (const held of ['flat', 'round', 'still']) {
      const locked = run('lock', cage, loop, { held }).cage;
      const relaxed = run('relax-area', locked, emptySelection(), { passes: 5 }).cage;
      const pulled = run('move', relaxed, selectVertices([vertices[3]]), { x: 1, y: 2, z: 3, falloff: 'space', radius: 6 }).cage;
      for (const made of [relaxed, pulled]) {
        const { plane: p, circle } = off(made, vertices);
        if (held !== 'still') expect(p).toBeLessThan(1e-6);
        if (held === 'round') expect(circle).toBeLessThan(1e-6);
        if (held === 'still') for (const v of vertices) expect(made.position(v)).toEqual(locked.position(v));
      }
      // others have moved
      expect(relaxed.positions).not.toEqual(locked.positions);
    }
  });

  it('hold the same live as at once', () => {
    const cage = run('lock', noisySphere(12), loopOn(noisySphere(12)), { held: 'flat' }).cage;
    const operation = operationById('move') as CageOperation;
    const [v] = locksOf(cage)[0].vertices;
    const params = (x: number) => validParams(operation, { x, y: 2 * x, falloff: 'space', radius: 8 });
    const edit = operation.live!.begin(cage, selectVertices([v]), params(0));
    const moved = new Set<number>();
    for (const x of [3, 1, 2]) for (const w of edit.step(params(x)).moved) moved.add(w);
    const done = run('move', cage, selectVertices([v]), params(2)).cage;
    for (const w of cage.vertices()) edit.cage.position(w).forEach((x, k) => expect(x).toBeCloseTo(done.position(w)[k], 9));
    expect(locksOf(cage)[0].vertices.every((w) => moved.has(w))).toBe(true);
  });

  it('go along where all of a lock is moved, and stay on their plane where some of it is', () => {
    const sheet = Cage.fromPolygons(plane(8, 8, 8, 8));
    const row = [...sheet.vertices()].filter((v) => sheet.position(v)[0] === 0);
    const locked = run('lock', sheet, selectVertices(row), { held: 'straight' }).cage;
    const all = run('move', locked, selectVertices(row), { y: 3 }).cage;
    for (const v of row) expect(all.position(v)[1]).toBeCloseTo(3, 9);
    const one = run('move', locked, selectVertices([row[2]]), { y: 3 }).cage;
    for (const v of row) expect(one.position(v)[1]).toBeCloseTo(0, 9);
  });

  it('are heeded twice as once', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('flat', 'round', 'straight'),
        fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 60, maxLength: 60 }),
        (held, by) => {
          const tube = Cage.fromPolygons(cylinder(5, 10, 12, 4, false));
          const cage = run('lock', tube, selectVertices([...tube.vertices()].slice(0, 9)), { held }).cage;
          const now = cage.clone();
          by.forEach((x, i) => (now.positions[i] += x));
          heedLocks(cage, now);
          const once = now.positions.slice();
          heedLocks(cage, now);
          once.forEach((x, i) => expect(now.positions[i]).toBeCloseTo(x, 6));
        }
      ),
      { numRuns: 40 }
    );
  });

  it('are refused with a sentence where there is nothing to hold', () => {
    const sheet = Cage.fromPolygons(plane(8, 8, 2, 2));
    expect(() => run('lock', sheet, emptySelection(), {})).toThrow('Nothing is picked.');
    expect(() => run('lock', sheet, selectVertices([0, 1, 2]), { held: 'flat' })).toThrow('3 vertices are always flat.');
    expect(() => run('lock', sheet, selectVertices([0]), { held: 'free' })).toThrow('None of the picked vertices is locked.');
  });
});
