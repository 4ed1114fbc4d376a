import { describe, expect, it } from 'vitest';
import { type Act, type Place, there } from '../../hand/acts.ts';
import { cornerClicked, intentAt, openRow, pendingOf, pulledOut, slidTo } from '../../hand/intents.ts';
import { SurfaceWalk } from '../../hand/surface-walk.ts';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { faceNormal } from '../../mesh/normals.ts';
import { borderLoops } from '../../mesh/topology.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { emptySelection } from '../../select/selection.ts';
import { cylinder, plane } from '../../shapes/start-shapes.ts';
import { denseSphere } from '../../shapes/sample-surfaces.ts';
import { applyOperation, validParams } from '../apply.ts';
import { type Params } from '../operation.ts';
import { layByHand } from './lay-by-hand.ts';

const sheet = plane(40, 40, 40, 40);
const around = (reference = sheet) => ({ surface: { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const }, reference });
const laid = (cage: Cage, acts: Act[], params: Params = {}) => {
  const made = applyOperation(layByHand, cage, emptySelection(), { acts, weld: 0.5, ...params }, around());
  assertValid(made.cage);
  return made;
};
const empty = () => new Cage();
/** One quad of 4 mm about a place of the sheet, looking up. */
const square = (x: number, z: number): Act => ({
  do: 'faces',
  places: [
    [x - 2, 0, z - 2],
    [x - 2, 0, z + 2],
    [x + 2, 0, z + 2],
    [x + 2, 0, z - 2]
  ],
  faces: [[0, 1, 2, 3]]
});
const walk = SurfaceWalk.over(Reference.of(sheet));
const vertexOf = (cage: Cage, x: number, z: number) =>
  [...cage.vertices()].find((v) => Math.hypot(cage.position(v)[0] - x, cage.position(v)[2] - z) < 1e-6)!;
const halfBetween = (cage: Cage, a: [number, number], b: [number, number]) => {
  const h = cage.findHalfEdge(vertexOf(cage, ...a), vertexOf(cage, ...b));
  return cage.face[h] === NONE ? h : h ^ 1;
};

describe('laying by hand', () => {
  it('places vertices and makes quads of them; what is there is joined, not doubled', () => {
    const one = laid(empty(), [{ do: 'point', at: [1, 0, 1] }, square(0, 0)]);
    expect([one.cage.vertexCount, one.cage.faceCount, one.notes]).toEqual([5, 1, ['+1 face, +5 vertices.']]);
    const beside = laid(one.cage, [square(4, 0)]);
    expect([beside.cage.vertexCount, beside.cage.faceCount, borderLoops(beside.cage).length]).toEqual([7, 2, 1]);
  });

  it('turns new faces as those beside them are turned', () => {
    const one = laid(empty(), [square(0, 0)]).cage;
    const other = square(4, 0) as Extract<Act, { do: 'faces' }>;
    const { cage } = laid(one, [{ ...other, faces: [[3, 2, 1, 0]] }]);
    expect(borderLoops(cage)[0]).toHaveLength(6);
  });

  it('slides, welds and erases', () => {
    const two = laid(empty(), [square(0, 0), square(5, 0)]).cage;
    expect(two.vertexCount).toBe(8);
    const welded = laid(two, [
      {
        do: 'weld',
        from: [
          [3, 0, 2, 1],
          [3, 0, -2, 1]
        ],
        onto: [
          [2, 0, 2, 1],
          [2, 0, -2, 1]
        ]
      }
    ]).cage;
    expect([welded.vertexCount, borderLoops(welded).length]).toEqual([6, 1]);
    expect(() => laid(two, [{ do: 'weld', from: [[3, 0, 2, 1]], onto: [[2, 0, 2, 1]] }])).toThrow('touch in a corner only');
    const slid = laid(welded, [{ do: 'move', from: [[2, 0, 2, 1]], to: [[2.5, 0, 2.5]] }]).cage;
    expect(vertexOf(slid, 2.5, 2.5)).toBeDefined();
    const corners: Place[] = slid.faceVertices([...slid.faces()][0]).map((v) => there(slid.position(v)));
    expect(laid(slid, [{ do: 'erase', faces: [corners], vertices: [] }]).cage.faceCount).toBe(1);
  });

  it('knows vertices by their places, also where one that went has made room for another', () => {
    const two = laid(empty(), [square(0, 0), square(8, 0)]).cage;
    const corners = two.faceVertices([...two.faces()][0]).map((v) => there(two.position(v)));
    const again: Act[] = [{ do: 'erase', faces: [corners], vertices: [] }, square(0, 8), square(0, 0)];
    const { cage } = laid(two, again);
    expect([cage.faceCount, cage.vertexCount]).toEqual([3, 12]);
    expect(cage.position(vertexOf(cage, -2, -2))).toEqual([-2, 0, -2]);
  });

  it('does both sides of a mirror, with what lies near it on it', () => {
    const acts: Act[] = [
      {
        ...square(2, 0),
        places: [
          [0.2, 0, -2],
          [0.2, 0, 2],
          [4, 0, 2],
          [4, 0, -2]
        ]
      } as Act
    ];
    const { cage } = laid(empty(), acts, { mirrored: 'X' });
    expect([cage.faceCount, cage.vertexCount]).toEqual([2, 6]);
    expect([...cage.vertices()].filter((v) => cage.position(v)[0] === 0)).toHaveLength(2);
    expect([...cage.vertices()].map((v) => cage.position(v)[0]).sort((a, b) => a - b)).toEqual([-4, -4, 0, 0, 4, 4]);
  });

  it('is undone a step at a time, and comes to the same at once', () => {
    const acts = [square(0, 0), square(4, 0), square(8, 0)];
    const params = (n: number) => validParams(layByHand, { acts: acts.slice(0, n), weld: 0.5 });
    const edit = layByHand.live!.begin(empty(), emptySelection(), params(0));
    for (const [n, faces] of [
      [1, 1],
      [3, 3],
      [2, 2],
      [3, 3]
    ]) {
      edit.step(params(n));
      expect(edit.cage.faceCount).toBe(faces);
    }
    expect(edit.cage.positions.subarray(0, 24)).toEqual(laid(empty(), acts).cage.positions.subarray(0, 24));
  });

  it('tells what cannot be done, and leaves what was there', () => {
    const one = laid(empty(), [square(0, 0), square(4, 0)]).cage;
    const up: Act = {
      do: 'faces',
      places: [
        [2, 0, -2, 1],
        [2, 0, 2, 1],
        [3, 1, 0]
      ],
      faces: [[0, 1, 2]]
    };
    expect(() => laid(one, [up])).toThrow('An edge there has faces on both sides already');
    expect(() => laid(one, [{ do: 'weld', from: [[9, 0, 9, 1]], onto: [[2, 0, 2, 1]] }])).toThrow(
      'The vertex at 9.00, 0.00, 9.00 mm is not there any more'
    );
    expect(() => applyOperation(layByHand, one, emptySelection(), { acts: [up] })).toThrow('The job has no reference to lay on.');
  });
});

describe('what is seen through the reference', () => {
  it('is taken by the pointer as far inside as is asked for, and no farther', () => {
    const cage = laid(empty(), [square(0, 0)]).cage;
    for (const v of cage.vertices()) cage.positions[3 * v + 1] = -2;
    const seen = (deep: number) => intentAt(cage, walk, walk.nearest([2, 0, 2])!, { near: 0.3, weld: 0.8, sight: { way: [0, -1, 0], deep } }).over;
    expect([seen(0), seen(1), seen(2.5)]).toEqual(['surface', 'surface', 'vertex']);
  });
});

describe('what is meant by the pointer', () => {
  const reach = { near: 0.3, weld: 0.8 };
  const meant = (cage: Cage, x: number, z: number) => intentAt(cage, walk, walk.nearest([x, 0, z])!, reach);

  it('is a vertex, an edge, a quad from the edge beside, or a new vertex', () => {
    const cage = laid(empty(), [square(0, 0)]).cage;
    expect(meant(cage, 2.1, 2.1)).toEqual({ over: 'vertex', vertex: vertexOf(cage, 2, 2) });
    expect(meant(cage, 2.1, 0)).toMatchObject({ over: 'edge', half: halfBetween(cage, [2, -2], [2, 2]) });
    expect(meant(cage, 15, 15)).toEqual({ over: 'surface' });
    const quad = meant(cage, 6, 0);
    expect(quad).toMatchObject({ over: 'beside', welds: 0 });
    const corners = (quad as { corners: Place[] }).corners.map(([x, , z]) => [Math.round(x), Math.round(z)]);
    expect(corners).toEqual(
      expect.arrayContaining([
        [2, 2],
        [2, -2],
        [6, 2],
        [6, -2]
      ])
    );
    const made = laid(cage, [{ do: 'faces', places: (quad as { corners: Place[] }).corners, faces: [[0, 1, 2, 3]] }]).cage;
    expect([made.faceCount, borderLoops(made)[0].length]).toEqual([2, 6]);
  });

  it('fills a corner with what is there, and welds what comes near', () => {
    const cage = laid(empty(), [square(0, 0), square(4, 0), square(0, 4)]).cage;
    // in the corner between the quads: three corners are there
    const corner = meant(cage, 3.6, 3.2);
    expect(corner).toMatchObject({ over: 'beside' });
    expect((corner as { corners: Place[] }).corners.filter((p) => p[3] === 1).length).toBeGreaterThanOrEqual(3);
    // a lone square that a quad from another just misses
    const gap = laid(empty(), [square(0, 0), square(8.3, 0)]).cage;
    const across = meant(gap, 5.9, 0);
    expect(across).toMatchObject({ over: 'beside', welds: 2 });
  });

  it('pulls whole rows and rings of the border out, every vertex on its own side', () => {
    const tube = cylinder(3, 40, 48, 40, false);
    const over = SurfaceWalk.over(Reference.of(tube));
    const cage = Cage.fromPolygons(cylinder(3, 6, 12, 2, false));
    const half = borderLoops(cage)
      .flat()
      .find((h) => cage.position(cage.origin[h])[1] > 0)!;
    const ring = openRow(cage, half, true);
    expect([ring.halves.length, ring.closed]).toEqual([12, true]);
    const at = cage.position(cage.origin[ring.halves[0]]);
    const { act, welds } = pulledOut(cage, over, ring, 0, [at[0], at[1] + 4, at[2]] as Triple, 0.1);
    expect(welds).toBe(0);
    const made = applyOperation(layByHand, cage, emptySelection(), { acts: [act] }, around(tube)).cage;
    assertValid(made);
    expect(made.faceCount).toBe(cage.faceCount + 12);
    const top = [...made.vertices()].filter((v) => made.position(v)[1] > 6.5);
    expect(top).toHaveLength(12);
    for (const v of top) expect(Math.hypot(made.position(v)[0], made.position(v)[2])).toBeCloseTo(3, 1);
  });

  it('lies on a sphere too', () => {
    const ball = denseSphere(40);
    const over = SurfaceWalk.over(Reference.of(ball));
    const quad = [
      [-2, 20, -2],
      [-2, 20, 2],
      [2, 20, 2],
      [2, 20, -2]
    ].map((p) => over.nearest(p as Triple)!.at);
    const cage = applyOperation(
      layByHand,
      empty(),
      emptySelection(),
      { acts: [{ do: 'faces', places: quad, faces: [[0, 1, 2, 3]] }] },
      around(ball)
    ).cage;
    const beside = intentAt(cage, over, over.nearest([6, 19, 0])!, reach) as { corners: Place[] };
    for (const [x, y, z] of beside.corners) expect(Math.hypot(x, y, z)).toBeCloseTo(20, 1);
  });

  it('makes a quad of four clicked corners, looking up whichever way round they were clicked, and a triangle of three', () => {
    const clicked = (places: Place[]) => places.reduce<Act[]>((acts, place) => [...acts, ...cornerClicked(walk, acts, place)], []);
    const round: Place[] = [
      [0, 0, 0],
      [0, 0, 3],
      [3, 0, 3],
      [3, 0, 0]
    ];
    for (const places of [round, [...round].reverse()]) {
      const { cage } = laid(empty(), clicked(places));
      expect([cage.vertexCount, cage.faceCount]).toEqual([4, 1]);
      expect(faceNormal(cage, [...cage.faces()][0])[1]).toBeCloseTo(1, 9);
    }
    expect(pendingOf(clicked(round.slice(0, 3)))).toHaveLength(3);
    const triangle = laid(empty(), clicked([...round.slice(0, 3), round[0]])).cage;
    expect([triangle.vertexCount, triangle.faceCount]).toEqual([3, 1]);
    // the next corner begins another one
    expect(pendingOf(clicked([...round, [9, 0, 9]]))).toEqual([[9, 0, 9]]);
  });

  it('slides a vertex to the pointer, or welds it onto the nearest one within the weld distance', () => {
    const cage = laid(empty(), [square(0, 0), square(5, 0)]).cage;
    const at = vertexOf(cage, 3, 2);
    expect(slidTo(cage, at, [4, 0, 6], 0.5)).toEqual({ do: 'move', from: [[3, 0, 2, 1]], to: [[4, 0, 6]] });
    expect(slidTo(cage, at, [2.3, 0, 2.2], 0.5)).toEqual({ do: 'weld', from: [[3, 0, 2, 1]], onto: [[2, 0, 2, 1]] });
  });

  it('ends a row that is pulled out at corners of the border, wherever it is grabbed', () => {
    const cage = Cage.fromPolygons(plane(8, 8, 4, 4));
    for (const [a, b] of [
      [-4, -2],
      [0, 2],
      [2, 4]
    ]) {
      const row = openRow(cage, halfBetween(cage, [a, 4], [b, 4]), true);
      expect([row.halves.length, row.closed]).toEqual([4, false]);
      for (const h of row.halves) expect(cage.position(cage.origin[h])[2]).toBe(4);
    }
  });
});
