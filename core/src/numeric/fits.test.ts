import fc from 'fast-check';
import { Matrix, solve } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { bestFitCircle, bestFitPlane, fromPlane, inPlane, planeAcross, Spread } from './best-fit.ts';
import { cheapestWay } from './cheapest-way.ts';
import { curveThrough, FramedCurve } from './curve.ts';
import { PlaceFit } from './place-fit.ts';
import { PointGrid } from './point-grid.ts';
import { randomNumbers } from './random.ts';
import { add, between, cross, dot, length, mean, scaled, subtract, unit, type Triple } from './vectors.ts';

const coordinate = fc.double({ min: -10, max: 10, noNaN: true });
const anyPoint = fc.tuple(coordinate, coordinate, coordinate) as fc.Arbitrary<Triple>;
const anyDirection = anyPoint.filter((d) => length(d) > 0.5).map(unit);

describe('planes and circles through points', () => {
  it('are found again with their centre, and take a point there and back', () => {
    const spread = fc.array(fc.tuple(coordinate, coordinate), { minLength: 4, maxLength: 30 });
    fc.assert(
      fc.property(anyPoint, anyDirection, spread, (centre, normal, places) => {
        const plane = planeAcross(centre, normal);
        expect(dot(cross(plane.u, plane.v), normal)).toBeCloseTo(1, 9);
        // a box of points that spreads both ways, whatever else there is
        const all = [...places, [-9, -7], [9, -7], [9, 7], [-9, 7]];
        const points = all.map(([a, b]) => fromPlane(plane, [a, b, 0]));
        const found = bestFitPlane(points);
        expect(Math.abs(dot(found.normal, normal))).toBeGreaterThan(1 - 1e-9);
        for (const p of points) {
          const [a, b, c] = inPlane(found, p);
          expect(Math.abs(c)).toBeLessThan(1e-7);
          expect(length(subtract(fromPlane(found, [a, b, c]), p))).toBeLessThan(1e-7);
        }
      })
    );
  });

  it('circles of any size and place come from a part of them, and lines have none', () => {
    fc.assert(
      fc.property(
        coordinate,
        coordinate,
        fc.double({ min: 1e-3, max: 1e3, noNaN: true }),
        fc.double({ min: 0.5, max: 6, noNaN: true }),
        (x, y, radius, arc) => {
          const points = Array.from({ length: 12 }, (_, i) => [
            x * radius + radius * Math.cos((arc * i) / 11),
            y * radius + radius * Math.sin((arc * i) / 11)
          ]);
          const circle = bestFitCircle(points)!;
          expect(circle.radius / radius).toBeCloseTo(1, 4);
          expect(circle.x / radius).toBeCloseTo(x, 3);
          expect(circle.y / radius).toBeCloseTo(y, 3);
        }
      )
    );
    expect(bestFitCircle(Array.from({ length: 9 }, (_, i) => [i, 2 * i + 1]))).toBeUndefined();
  });
});

describe('how an area spreads', () => {
  it('does not depend on how it is parted into triangles', () => {
    const axesOf = (triangles: readonly Triple[][], centre: Triple) => {
      const spread = new Spread(centre);
      for (const [a, b, c] of triangles) spread.addTriangle([a, b, c].flat(), [0, 1, 2], 0, length(cross(subtract(b, a), subtract(c, a))) / 2);
      return spread.axes();
    };
    const quarters = ([a, b, c]: Triple[]) => {
      const [ab, bc, ca] = [between(a, b, 0.5), between(b, c, 0.5), between(c, a, 0.5)];
      return [
        [a, ab, ca],
        [ab, b, bc],
        [ca, bc, c],
        [ab, bc, ca]
      ];
    };
    fc.assert(
      fc.property(anyPoint, anyDirection, fc.double({ min: 2, max: 9, noNaN: true }), (centre, normal, long) => {
        const { u, v } = planeAcross(centre, normal);
        const corner = (x: number, y: number) => add(centre, add(scaled(u, x * long), scaled(v, y)));
        // half of a rectangle, which is longest along u, and a flat roof over it
        const triangles = [
          [corner(-1, -1), corner(1, -1), corner(1, 1)],
          [corner(-1, -1), corner(1, 1), add(corner(-1, 1), scaled(normal, 0.2))]
        ];
        const middle = mean(triangles.flat());
        const whole = axesOf(triangles, middle);
        const parts = axesOf(triangles.flatMap(quarters), middle);
        whole.forEach((axis, k) => expect(Math.abs(dot(axis, parts[k]))).toBeGreaterThan(1 - 1e-9));
        expect(Math.abs(dot(whole[0], normal))).toBeGreaterThan(0.95);
        expect(Math.abs(dot(whole[2], u))).toBeGreaterThan(0.8);
      })
    );
  });
});

describe('a curve through points', () => {
  const fourOrMore = fc.array(anyPoint, { minLength: 3, maxLength: 8 });

  it('goes through each of them, in order, and back the same way', () => {
    fc.assert(
      fc.property(fourOrMore, (points) => {
        const kept = points.filter((p, i) => i === 0 || length(subtract(p, points[i - 1])) > 1e-9);
        fc.pre(kept.length >= 3);
        const row = curveThrough(points, 8);
        kept.forEach((p, i) => expect(length(subtract(row[8 * i], p))).toBeLessThan(1e-9));
        const back = curveThrough([...points].reverse(), 8).reverse();
        row.forEach((p, i) => expect(length(subtract(p, back[i]))).toBeLessThan(1e-6));
      })
    );
  });

  it('has frames at right angles that turn no more than they must: in a plane not at all', () => {
    const flat = curveThrough([0, 1, 2, 3, 4].map((i): Triple => [4 * i, 3 * Math.sin(1.7 * i), 0]));
    const curve = new FramedCurve(flat, [0, 0, 1]);
    for (let way = -2; way <= curve.length + 2; way += 0.37) {
      const { tangent, side, up } = curve.at(way);
      expect(side[2]).toBeCloseTo(1, 9);
      expect(length(subtract(up, cross(tangent, side)))).toBeLessThan(1e-9);
      expect(Math.abs(dot(tangent, side))).toBeLessThan(1e-9);
    }
  });

  it('is as long as its points lie apart, and goes on straight beyond its ends', () => {
    const curve = new FramedCurve(
      [
        [0, 0, 0],
        [3, 0, 0],
        [3, 4, 0]
      ],
      [0, 0, 1]
    );
    expect(curve.length).toBe(7);
    expect(curve.at(5).point).toEqual([3, 2, 0]);
    expect(curve.at(-2).point).toEqual([-2, 0, 0]);
    expect(length(subtract(curve.at(9).point, [3, 6, 0]))).toBeLessThan(1e-9);
    // a wished side along the curve cannot be had
    expect(
      length(
        new FramedCurve(
          [
            [0, 0, 0],
            [0, 5, 0]
          ],
          [0, 1, 0]
        ).at(1).side
      )
    ).toBeCloseTo(1);
  });
});

describe('places that fulfil wishes best', () => {
  it('are those of the normal equations, and stay where points that stay hold them', () => {
    const random = randomNumbers(7);
    const places = Array.from({ length: 9 }, (): Triple => [random() * 4, random() * 4, random() * 4]);
    const movable = [0, 1, 2, 3, 4, 5];
    const wishes = Array.from({ length: 20 }, () => ({
      weight: 0.5 + random(),
      points: Array.from({ length: 3 }, (_, i): [number, number] => [(Math.floor(random() * 3) + 3 * i) % 9, random() - 0.3]),
      sum: [random(), random(), random()] as Triple
    }));
    const fit = new PlaceFit(movable, (p) => places[p]);
    for (const { weight, points, sum } of wishes) fit.wish(weight, points, sum);
    const rows = new Matrix(
      wishes.map(({ weight, points }) => movable.map((p) => Math.sqrt(weight) * points.reduce((s, [q, w]) => (q === p ? s + w : s), 0)))
    );
    const rest = wishes.map(({ weight, points, sum }) =>
      scaled(
        subtract(
          sum,
          points.reduce<Triple>((s, [q, w]) => (movable.includes(q) ? s : add(s, scaled(places[q], w))), [0, 0, 0])
        ),
        Math.sqrt(weight)
      )
    );
    const expected = solve(rows.transpose().mmul(rows), rows.transpose().mmul(new Matrix(rest))).to2DArray();
    const found = fit.places();
    expect(found.map(([p]) => p)).toEqual(movable);
    found.forEach(([, place], i) => place.forEach((c, k) => expect(c).toBeCloseTo(expected[i][k], 6)));
  });

  it('can be asked for again with other sums, and are none where nothing is wished of a point', () => {
    const fit = new PlaceFit([0, 1], () => [10, 0, 0]);
    /** That point 0 is at point 2, which stays, and point 1 off it by so much. @returns where point 1 is then */
    const placed = (off: Triple) => {
      const from = (point: number, other: number): [number, number][] => [
        [point, 1],
        [other, -1]
      ];
      fit.wish(1, from(0, 2));
      fit.wish(1, from(1, 0), off);
      return new Map(fit.places()).get(1)!.map((c) => Math.round(c * 1e6) / 1e6);
    };
    expect(placed([1, 2, 3])).toEqual([11, 2, 3]);
    fit.again();
    expect(placed([-1, 0, 0])).toEqual([9, 0, 0]);
    const loose = new PlaceFit([0, 1], () => [0, 0, 0]);
    loose.wish(1, [[0, 1]]);
    expect(loose.places()).toEqual([]);
  });
});

describe('the cheapest way', () => {
  it('costs what relaxing every step again and again comes to, and leads where it should', () => {
    const step = fc.record({ from: fc.nat(11), to: fc.nat(11), cost: fc.double({ min: 0, max: 5, noNaN: true }) });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
        const least = new Float64Array(12).fill(Infinity);
        least[0] = 0;
        for (let round = 0; round < 12; round++) for (const s of steps) least[s.to] = Math.min(least[s.to], least[s.from] + s.cost);
        const way = cheapestWay(0, 11, (at) => steps.flatMap((s, by) => (s.from === at ? [{ to: s.to, cost: s.cost, by }] : [])));
        expect(way === undefined).toBe(least[11] === Infinity);
        if (!way) return;
        expect(way.reduce((at, by) => (steps[by].from === at ? steps[by].to : NaN), 0)).toBe(11);
        expect(way.reduce((sum, by) => sum + steps[by].cost, 0)).toBeCloseTo(least[11], 9);
      })
    );
    expect(cheapestWay(3, 3, () => [])).toEqual([]);
  });
});

describe('points in cells', () => {
  it('are all found within reach of a place, whatever the size of the cells', () => {
    fc.assert(
      fc.property(
        fc.array(anyPoint, { maxLength: 60 }),
        anyPoint,
        fc.constantFrom(0.5, 3),
        fc.constantFrom(0.2, 1, 7),
        (points, place, reach, size) => {
          const grid = new PointGrid(reach, size);
          points.forEach((p, i) => grid.put(i, ...p));
          const found = new Set<number>();
          grid.visitNear(...place, (i) => found.add(i));
          points.forEach((p, i) => {
            if (length(subtract(p, place)) <= reach) expect(found.has(i)).toBe(true);
          });
        }
      )
    );
  });
});
