import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { amount } from '../../testing/amount.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { uniformMesh } from '../mesh/polygon-mesh.ts';
import { randomNumbers } from '../numeric/random.ts';
import { length, subtract, type Triple } from '../numeric/vectors.ts';
import { Reference } from '../reference/reference.ts';
import { denseSphere } from '../shapes/sample-surfaces.ts';
import { box, cylinder, plane, torus } from '../shapes/start-shapes.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { marshNewt, newtLimbs } from '../shapes/marsh-newt.ts';
import { limbLoopAt } from './limb-loops.ts';
import { directionAt, partsOf, pulledRow, spreadRow } from './rows.ts';
import { type Anchor, SurfaceWalk } from './surface-walk.ts';

const walkOver = (mesh: PolygonMesh) => {
  const cut = uniformMesh(mesh.positions, Int32Array.from(triangulate(mesh).triangles), 3);
  return SurfaceWalk.over(Reference.of(cut));
};
const ball = walkOver(denseSphere(40));
const limb = walkOver(cylinder(3, 40, 48, 40, true));

describe('a walk over a reference', () => {
  it('goes along a great circle of a sphere, as far as it is told to', () => {
    const start = ball.nearest([0, 20, 0])!;
    for (const far of [5, 20, 20 * Math.PI]) {
      const { at } = ball.step(start, [far, 0, 0]);
      const angle = far / 20;
      expect(length(subtract(at, [20 * Math.sin(angle), 20 * Math.cos(angle), 0]))).toBeLessThan(0.02 * far + 0.1);
    }
  });

  it('goes round a cylinder and along it, straight', () => {
    const start = limb.nearest([0, 0, 3])!;
    const round = limb.step(start, [2 * Math.PI * 3 * 0.999, 0, 0]);
    expect(length(subtract(round.at, start.at))).toBeLessThan(0.1);
    const along = limb.step(start, [0, 12, 0]);
    expect(along.at[1]).toBeCloseTo(start.at[1] + 12, 9);
    expect(Math.hypot(along.at[0], along.at[2])).toBeCloseTo(3, 2);
  });

  it('ends at a border', () => {
    const sheet = walkOver(plane(10, 10, 5, 5));
    expect(sheet.step(sheet.nearest([0, 0, 0])!, [100, 0, 3]).at[0]).toBeCloseTo(5, 9);
  });

  it('never leaves the surface, nor goes farther than it is told to, on thin sheets, limbs and rings alike', () => {
    const walks = [ball, limb, walkOver(box({ x: 20, y: 0.2, z: 20 }, { x: 9, y: 1, z: 7 })), walkOver(torus(10, 1, 60, 10))];
    const number = fc.double({ min: -30, max: 30, noNaN: true });
    fc.assert(
      fc.property(
        fc.constantFrom(...walks),
        fc.tuple(number, number, number),
        fc.array(fc.tuple(number, number, number), { maxLength: 12 }),
        (walk, p, steps) => {
          let anchor: Anchor = walk.nearest(p as Triple)!;
          for (const step of steps) {
            const next = walk.step(anchor, step as Triple);
            // the chord is no longer than the way
            expect(length(subtract(next.at, anchor.at))).toBeLessThanOrEqual(length(step as Triple) + 1e-6);
            const found = walk.nearest(next.at)!;
            expect(length(subtract(found.at, next.at))).toBeLessThan(1e-6);
            anchor = next;
          }
        }
      ),
      { numRuns: 300 }
    );
  });
});

describe('a row that is pulled', () => {
  const ring = (y: number): Anchor[] =>
    Array.from({ length: 16 }, (_, i) => limb.nearest([3 * Math.sin((2 * Math.PI * i) / 16), y, 3 * Math.cos((2 * Math.PI * i) / 16)])!);

  it('goes along a limb as a ring, its far half on its own side', () => {
    const before = ring(0);
    const after = pulledRow(limb, before, true, 0, [0, 7, 0]);
    after.forEach(({ at }, i) => {
      expect(at[1]).toBeCloseTo(7, 2);
      expect(length(subtract([at[0], 0, at[2]], [before[i].at[0], 0, before[i].at[2]]))).toBeLessThan(0.05);
    });
  });

  it('keeps every place on its side of a thin sheet', () => {
    const sheet = walkOver(box({ x: 30, y: 0.1, z: 30 }, { x: 9, y: 1, z: 9 }));
    const row = Array.from({ length: 9 }, (_, i): Anchor => sheet.nearest([i - 4, i % 2 === 0 ? 0.05 : -0.05, 0])!);
    const sides = row.map(({ at }) => Math.sign(at[1]));
    const after = pulledRow(sheet, row, false, 4, [1, 0, 3]);
    expect(after.map(({ at }) => Math.sign(at[1]))).toEqual(sides);
  });

  it('goes no farther than it is pulled, round thin limbs, fingers and sheets, and stays on the surface', () => {
    const newt = SurfaceWalk.over(Reference.of(marshNewt(0.8)));
    const toes = newtLimbs().flatMap(({ from, to }) => {
      const middle = newt.nearest([0, 1, 2].map((k) => (from[k] + to[k]) / 2) as Triple)!;
      const loop = limbLoopAt(newt, middle);
      return loop ? [loop.line.filter((_, i) => i % 3 === 0).map((p) => newt.nearest(p)!)] : [];
    });
    expect(toes.length).toBeGreaterThan(10);
    const sheet = walkOver(box({ x: 30, y: 0.1, z: 30 }, { x: 9, y: 1, z: 9 }));
    const across = Array.from({ length: 12 }, (_, i): Anchor => sheet.nearest([i - 6, i % 2 === 0 ? 0.05 : -0.05, i / 3])!);
    const rings: [SurfaceWalk, Anchor[], boolean][] = [
      ...toes.map((ring): [SurfaceWalk, Anchor[], boolean] => [newt, ring, true]),
      [sheet, across, false]
    ];
    const random = randomNumbers(7);
    const step = (): Triple => [random() - 0.5, random() - 0.5, random() - 0.5];
    for (let pull = 0; pull < amount(300, 10_000); pull++) {
      const which = pull % rings.length;
      const [walk, ring, closed] = rings[which];
      const by = step();
      const pulled = Math.floor(ring.length * random());
      const parts = partsOf(by, walk.normalAt(ring[pulled]), directionAt(ring, closed, pulled));
      const after = pull % 2 === 0 ? pulledRow(walk, ring, closed, pulled, by) : spreadRow(walk, ring, closed, parts);
      after.forEach(({ at }, i) => {
        expect(length(subtract(at, ring[i].at))).toBeLessThanOrEqual(length(by) + 1e-6);
        expect(length(subtract(walk.nearest(at)!.at, at))).toBeLessThan(1e-6);
      });
      rings[which] = [walk, after, closed];
    }
  });
});
