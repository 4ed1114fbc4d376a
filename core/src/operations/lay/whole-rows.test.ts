import { describe, expect, it } from 'vitest';
import { type Act } from '../../hand/acts.ts';
import { openRow, pulledOut } from '../../hand/intents.ts';
import { SurfaceWalk } from '../../hand/surface-walk.ts';
import { cutAcross, edgeNear, filledAlong, joinedBy, rowAcross, slidRow } from '../../hand/whole-rows.ts';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { borderLoops } from '../../mesh/topology.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { emptySelection } from '../../select/selection.ts';
import { denseSphere } from '../../shapes/sample-surfaces.ts';
import { cylinder, plane } from '../../shapes/start-shapes.ts';
import { applyOperation } from '../apply.ts';
import { type Params } from '../operation.ts';
import { layByHand } from './lay-by-hand.ts';

const sheet = plane(40, 40, 40, 40);
const limb = cylinder(3, 40, 48, 40, false);
const walk = SurfaceWalk.over(Reference.of(sheet));
const round = SurfaceWalk.over(Reference.of(limb));
const laid = (cage: Cage, acts: Act[], params: Params = {}, reference = sheet) => {
  const around = { surface: { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const }, reference };
  const made = applyOperation(layByHand, cage, emptySelection(), { acts, weld: 0.5, ...params }, around).cage;
  assertValid(made);
  return made;
};
const vertexAt = (cage: Cage, [x, y, z]: Triple) =>
  [...cage.vertices()].find((v) => Math.hypot(cage.position(v)[0] - x, cage.position(v)[1] - y, cage.position(v)[2] - z) < 1e-6)!;
const tube = () => Cage.fromPolygons(cylinder(3, 6, 12, 2, false));
/** A ring of quads flat round the middle of the sheet, from one radius to another. */
const flatRing = (inner: number, outer: number): Act => {
  const at = (i: number, r: number): Triple => [r * Math.sin((Math.PI * i) / 6), 0, r * Math.cos((Math.PI * i) / 6)];
  const many = [...Array(12).keys()];
  return {
    do: 'faces',
    places: [...many.map((i) => at(i, inner)), ...many.map((i) => at(i, outer))],
    faces: many.map((i) => [i, 12 + i, 12 + ((i + 1) % 12), (i + 1) % 12])
  };
};
const radii = (cage: Cage) => [...cage.vertices()].map((v) => Math.hypot(cage.position(v)[0], cage.position(v)[2]));

describe('whole rows', () => {
  it('grow out of themselves all round when one edge of a ring round an eye is pulled', () => {
    const cage = laid(new Cage(), [flatRing(4, 6)]);
    const outer = borderLoops(cage).find((loop) => Math.hypot(...cage.position(cage.origin[loop[0]])) > 5)!;
    const row = openRow(cage, outer[0], true);
    const [a, b] = [cage.position(cage.origin[row.halves[0]]), cage.position(cage.target(row.halves[0]))];
    const pointer = [0, 1, 2].map((k) => 1.3 * 0.5 * (a[k] + b[k])) as Triple;
    const { act } = pulledOut(cage, walk, row, 0, pointer, 0.1);
    const made = laid(cage, [act]);
    expect(made.faceCount).toBe(24);
    const far = radii(made).filter((r) => r > 6.5);
    expect(far).toHaveLength(12);
    for (const r of far) expect(r).toBeCloseTo(6 + 0.3 * 6 * Math.cos(Math.PI / 12), 6);
  });

  it('slide along a limb by one of their vertices, and round it', () => {
    const cage = tube();
    const from = [...cage.vertices()].find((v) => Math.abs(cage.position(v)[1]) < 1e-9)!;
    const [x, y, z] = cage.position(from);
    const row = rowAcross(cage, from, [0, 1.5, 0])!;
    expect([row.vertices.length, row.closed]).toEqual([12, true]);
    const up = laid(cage, [slidRow(cage, round, row, from, [x, y + 1.5, z], 'outwards')], {}, limb);
    expect([...up.vertices()].filter((v) => Math.abs(up.position(v)[1] - 1.5) < 0.01)).toHaveLength(12);
    // along itself it turns
    const turn = (p: Triple, by: number): Triple => [p[0] * Math.cos(by) + p[2] * Math.sin(by), p[1], p[2] * Math.cos(by) - p[0] * Math.sin(by)];
    const turned = laid(cage, [slidRow(cage, round, row, from, turn([x, y, z], 0.1), 'outwards')], {}, limb);
    for (const v of row.vertices) {
      const goal = turn(cage.position(v), 0.1);
      expect(Math.hypot(...turned.position(v).map((q, k) => q - goal[k]))).toBeLessThan(0.05);
    }
  });

  it('go all the same way by choice, or grow', () => {
    const cage = laid(new Cage(), [flatRing(4, 6)]);
    const from = vertexAt(cage, [0, 0, 4]);
    const inner = rowAcross(cage, from, [0, 0, -1])!;
    expect([inner.vertices.length, inner.closed]).toEqual([12, true]);
    const shrunk = laid(cage, [slidRow(cage, walk, inner, from, [0, 0, 3], 'outwards')]);
    expect(radii(shrunk).filter((r) => Math.abs(r - 3) < 1e-6)).toHaveLength(12);
    const moved = laid(cage, [slidRow(cage, walk, inner, from, [0, 0, 3], 'same way')]);
    expect(inner.vertices.every((v) => Math.abs(moved.position(v)[2] - cage.position(v)[2] + 1) < 1e-6)).toBe(true);
  });
});

describe('a dragged row', () => {
  it('joins what it meets within the weld distance, edges with both their ends', () => {
    const quads = (z: number): Act => ({
      do: 'faces',
      places: [0, 2].flatMap((dz) => [-4, 0, 4].map((x): Triple => [x, 0, z + dz])),
      faces: [
        [0, 3, 4, 1],
        [1, 4, 5, 2]
      ]
    });
    const cage = laid(new Cage(), [quads(0), quads(4)]);
    const from = vertexAt(cage, [0, 0, 2]);
    const row = rowAcross(cage, from, [0, 0, 1])!;
    expect([row.vertices.length, row.closed]).toEqual([3, false]);
    const act = slidRow(
      cage,
      walk,
      { vertices: row.vertices.filter((v) => cage.position(v)[2] === 2), closed: false },
      from,
      [0, 0, 3.8],
      'outwards'
    );
    expect(joinedBy(cage, act, 0.1)).toBeUndefined();
    const made = laid(cage, [act, joinedBy(cage, act, 0.3)!]);
    expect([made.vertexCount, made.faceCount, borderLoops(made).length]).toEqual([9, 4, 1]);
  });
});

describe('filling on between two rows', () => {
  /** Two strips beside each other, joined at one end. */
  const fork = (length: number, apart = 4) => {
    const quad = (x: number, z: number, w = 4): Act => ({
      do: 'faces',
      places: [
        [x, 0, z],
        [x, 0, z + 2],
        [x + w, 0, z + 2],
        [x + w, 0, z]
      ],
      faces: [[0, 1, 2, 3]]
    });
    const rows = Array.from({ length }, (_, i) => 2 * i);
    return laid(new Cage(), [quad(0, -2, apart), ...rows.flatMap((z) => [quad(-4, z), quad(apart, z)]), quad(-4, -2), quad(apart, -2)]);
  };
  const inside = (cage: Cage, apart = 4) =>
    borderLoops(cage)
      .flat()
      .find(
        (h) =>
          Math.abs(cage.position(cage.origin[h])[2]) + Math.abs(cage.position(cage.target(h))[2]) < 1e-9 &&
          [cage.origin[h], cage.target(h)].every((v) => cage.position(v)[0] >= 0 && cage.position(v)[0] <= apart)
      )!;

  it('goes on as long as both rows do, with vertices that are there alone', () => {
    const cage = fork(5);
    const act = filledAlong(cage, walk, inside(cage))!;
    expect(act.faces).toHaveLength(5);
    const made = laid(cage, [act]);
    expect([made.faceCount - cage.faceCount, made.vertexCount, borderLoops(made).length]).toEqual([5, cage.vertexCount, 1]);
  });

  it('is nothing where there are no two rows', () => {
    const cage = Cage.fromPolygons(plane(8, 8, 4, 4));
    expect(filledAlong(cage, walk, borderLoops(cage)[0][0])).toBeUndefined();
  });
});

describe('a cut across what is laid', () => {
  it('runs across every quad that follows, its vertices on the reference', () => {
    const cage = tube();
    const face = [...cage.faces()][0];
    const [a, b] = cage.faceVertices(face).map((v) => cage.position(v));
    const upright = cage.loopOf(cage.faceEdge[face]).find((h) => cage.position(cage.origin[h])[1] !== cage.position(cage.target(h))[1])!;
    const act = cutAcross(cage, round, upright, 0.25)!;
    expect([act.closed, act.edges.length]).toEqual([true, 12]);
    const made = laid(cage, [act], {}, limb);
    expect([made.faceCount, made.vertexCount]).toEqual([cage.faceCount + 12, cage.vertexCount + 12]);
    for (const p of act.at) expect(round.nearest(p as Triple)!.at).toEqual(p);
    expect(edgeNear(cage, face, [0, 1, 2].map((k) => 0.5 * (a[k] + b[k])) as Triple).share).toBeCloseTo(0.5);
  });

  it('is cut once where it runs through both sides of a mirror', () => {
    const cage = Cage.fromPolygons(plane(8, 8, 4, 4));
    const across = [...cage.edges()].find((e) => {
      const [p, q] = [cage.position(cage.origin[2 * e]), cage.position(cage.target(2 * e))];
      return p[0] === q[0] && p[0] === 2;
    })!;
    const made = laid(cage, [cutAcross(cage, walk, 2 * across, 0.5)!], { mirrored: 'X' });
    expect(made.faceCount).toBe(20);
  });

  it('is refused for an edge that is gone', () => {
    const ball = denseSphere(30);
    const over = SurfaceWalk.over(Reference.of(ball));
    const cage = tube();
    const act = cutAcross(cage, over, 0, 0.5)!;
    expect(() => laid(cage, [{ ...act, edges: [[[9, 9, 9, 1], act.edges[0][1]]], at: [act.at[0]] }], {}, ball)).toThrow('is not there any more');
  });
});
