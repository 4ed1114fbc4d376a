import { describe, expect, it } from 'vitest';
import { type BandPoint } from '../../hand/band-way.ts';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { borderLoops } from '../../mesh/topology.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices } from '../../select/selection.ts';
import { denseSphere } from '../../shapes/sample-surfaces.ts';
import { box, cylinder, plane, quadSphere } from '../../shapes/start-shapes.ts';
import { applyOperation } from '../apply.ts';
import { type Params } from '../operation.ts';
import { addLoop } from '../flow/add-loop.ts';
import { move } from '../form/transform.ts';
import { band } from './band.ts';
import { hold } from './hold.ts';

const sheet = plane(60, 60, 30, 30);
const ball = denseSphere(48);
const around = (reference?: PolygonMesh) => ({ surface: { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const }, reference });
const laid = (stroke: Triple[], params: Params, reference = sheet, cage = new Cage()) => {
  const made = applyOperation(band, cage, emptySelection(), { stroke, ...params }, around(reference));
  assertValid(made.cage);
  return made;
};
const straight: Triple[] = [
  [-10, 0, 0],
  [0, 0, 0.001],
  [10, 0, 0]
];

describe('band', () => {
  it('is as many quads along and across as asked for, or about square, as wide as typed', () => {
    const { cage, notes, selection } = laid(straight, { along: 5, across: 2, width: 4, weld: 0.1 });
    expect([cage.faceCount, cage.vertexCount, selection.faces.length]).toEqual([10, 18, 10]);
    expect(notes).toEqual(['A band of 10 quads, 5 along.']);
    expect(Math.max(...[...cage.vertices()].map((v) => Math.abs(cage.position(v)[2])))).toBeCloseTo(2, 2);
    expect(laid(straight, { width: 4, weld: 0.1 }).cage.faceCount).toBe(5);
  });

  it('goes round a sphere closed, on its surface, turned the way it looks', () => {
    const round = Array.from({ length: 80 }, (_, i): Triple => {
      const a = (2 * Math.PI * i) / 80;
      return [18 * Math.cos(a), 8.7, 18 * Math.sin(a)];
    });
    const { cage } = laid(round, { along: 24, across: 2, width: 4, closed: true, weld: 0.1 }, ball);
    expect([cage.faceCount, borderLoops(cage).map((l) => l.length)]).toEqual([48, [24, 24]]);
    const reference = Reference.of(ball);
    for (const v of cage.vertices())
      expect(Math.hypot(...reference.closestPoint(cage.position(v)).map((x, k) => x - cage.position(v)[k]))).toBeLessThan(1e-6);
    const [f] = cage.faces();
    const [a, b, c] = cage.faceVertices(f).map((v) => cage.position(v));
    const [u, w] = [b.map((x, k) => x - a[k]), c.map((x, k) => x - b[k])];
    expect((u[1] * w[2] - u[2] * w[1]) * a[0] + (u[2] * w[0] - u[0] * w[2]) * a[1] + (u[0] * w[1] - u[1] * w[0]) * a[2]).toBeGreaterThan(0);
  });

  it('welds to what it comes near, and tells what it just misses', () => {
    const first = laid(straight, { along: 5, across: 1, width: 4, weld: 0.1 }).cage;
    const beside = (z: number) => straight.map(([x, y]): Triple => [x, y, z]);
    const welded = laid(beside(4.05), { along: 5, across: 1, width: 4, weld: 0.1 }, sheet, first);
    expect([welded.cage.vertexCount, borderLoops(welded.cage).length]).toEqual([18, 1]);
    expect(welded.notes[1]).toBe('6 vertices weld to what is there.');
    const missed = laid(beside(4.2), { along: 5, across: 1, width: 4, weld: 0.1 }, sheet, first);
    expect(missed.cage.vertexCount).toBe(24);
    expect(missed.notes[1]).toMatch(/^6 vertices miss by 0\.20 mm at most: weld within 0\.20 mm takes them\.$/);
  });

  it('comes on both sides of a mirror', () => {
    const beside = straight.map(([x, , z]): Triple => [z + 6, 0, x]);
    const { cage } = laid(beside, { along: 5, across: 2, width: 4, weld: 0.2, mirrored: 'X' });
    expect([cage.faceCount, borderLoops(cage).length]).toEqual([20, 2]);
    const places = new Set([...cage.vertices()].map((v) => cage.position(v).join()));
    for (const v of cage.vertices()) {
      const [x, y, z] = cage.position(v);
      expect(places.has([-x, y, z].join())).toBe(true);
    }
  });

  const point = (x: number, z: number, more: Partial<BandPoint> = {}): BandPoint => ({ at: [x, 0, z], wide: 1, turn: 0, kink: false, ...more });
  const clicked = (points: BandPoint[], params: Params = {}, cage = new Cage()) => laid([], { points, width: 4, weld: 0.1, ...params }, sheet, cage);

  it('goes through clicked points: wider at one, bent sharply at another', () => {
    const wide = clicked([point(-10, 0), point(0, 0, { wide: 2 }), point(10, 0)], { along: 4 }).cage;
    const at = (x: number) =>
      [...wide.vertices()]
        .map((v) => wide.position(v))
        .filter((p) => Math.abs(p[0] - x) < 1e-6)
        .map((p) => Math.abs(p[2]));
    expect(at(0).map((z) => Number(z.toFixed(6)))).toEqual([4, 4]);
    expect(at(-5)[0]).toBeCloseTo(3, 6);
    const bent = clicked([point(-10, 0), point(0, 0, { kink: true }), point(0, 10)], { along: 4 }).cage;
    expect(bent.faceCount).toBe(4);
    const corners = [...bent.vertices()]
      .map((v) => bent.position(v))
      .filter(([x, , z]) => Math.abs(Math.abs(x) - 2) < 1e-6 && Math.abs(x + z) < 1e-6);
    expect(corners).toHaveLength(2);
    expect(() => clicked([point(-10, 0), point(0, 0, { kink: true }), point(0, 10)], { along: 1 })).toThrow(
      '1 along is too few: it bends sharply once'
    );
    expect(() => clicked([point(0, 0)])).toThrow('Click the next point of the band.');
  });

  it('is turned at a point', () => {
    const [own, turned] = [0, 30].map((turn) => clicked([point(-10, 0), point(0, 0, { turn, kink: true }), point(10, 0)], { along: 2 }).cage);
    const middle = (cage: Cage) => [...cage.vertices()].map((v) => cage.position(v)).filter(([x]) => Math.abs(x) < 3);
    expect(middle(own).map(([x]) => x)).toEqual([0, 0].map((x) => expect.closeTo(x, 9)));
    for (const [x, , z] of middle(turned)) expect([Math.abs(x), Math.abs(z)]).toEqual([expect.closeTo(1, 6), expect.closeTo(Math.sqrt(3), 6)]);
  });

  it('tells the count of a chain that it ends on, and where it lies over itself; welds at its ends alone by choice', () => {
    const chain = Cage.fromPolygons(plane(4, 4, 3, 3));
    const ending = clicked([point(2, 0), point(12, 0)], { along: 3, across: 1 }, chain);
    expect(ending.notes.join(' ')).toContain('An end lies on 3 edges: 3 across would meet each of their vertices.');
    const fitting = clicked([point(2, 0), point(12, 0)], { along: 3, across: 3 }, chain);
    expect(fitting.notes).toEqual(['A band of 9 quads, 3 along.', '4 vertices weld to what is there.']);
    const over = laid(
      Array.from({ length: 60 }, (_, i): Triple => [10 * Math.cos(i / 6), 0, 6 * Math.sin(i / 3)]),
      { along: 40, width: 3, weld: 0.01 }
    );
    expect(over.notes.join(' ')).toContain('It comes to lie over itself');
    const first = laid(straight, { along: 5, across: 1, width: 4, weld: 0.1 }).cage;
    const beside = straight.map(([x, y]): Triple => [x, y, 4]);
    expect(laid(beside, { along: 5, across: 1, width: 4, weld: 0.1, welds: 'ends' }, sheet, first).notes[1]).toBe(
      '2 vertices weld to what is there.'
    );
  });

  it('across a mirror is its longer side, and joins its image in the middle', () => {
    const { cage } = laid(
      straight.map(([x, y, z]): Triple => [x + 4, y, z]),
      { along: 7, across: 2, width: 4, weld: 0.1, mirrored: 'X' }
    );
    expect([cage.faceCount, borderLoops(cage).length]).toEqual([28, 1]);
    expect(Math.max(...[...cage.vertices()].map((v) => cage.position(v)[0]))).toBeCloseTo(14, 2);
  });

  it('is refused with a sentence without a reference, a stroke, or length', () => {
    expect(() => applyOperation(band, new Cage(), emptySelection(), { stroke: straight }, around())).toThrow('The job has no reference to lay on.');
    expect(() => laid([], {})).toThrow('A band needs a stroke: drag over the reference, or click its points.');
    expect(() =>
      laid(
        [
          [0, 0, 0],
          [0.01, 0, 0]
        ],
        { width: 4 }
      )
    ).toThrow('too short for a band 4 mm wide');
  });
});

describe('hold to reference', () => {
  const held = (cage: Cage, params: Params, reference: PolygonMesh, selection = emptySelection()) =>
    applyOperation(hold, cage, selection, params, around(reference));

  it('brings vertices onto the reference, or over it, and the smooth surface if asked', () => {
    const cage = Cage.fromPolygons(quadSphere(17, 8));
    const onto = held(cage, {}, ball).cage;
    for (const v of onto.vertices()) expect(Math.hypot(...onto.position(v))).toBeCloseTo(20, 1);
    const over = held(cage, { offset: 1 }, ball).cage;
    for (const v of over.vertices()) expect(Math.hypot(...over.position(v))).toBeCloseTo(21, 1);
    const surface = held(cage, { fit: 'surface' }, ball);
    expect(surface.notes[0]).toMatch(/^Smooth surface to reference after \d passes: /);
    // the cage of a smooth surface lies outside it
    expect(Math.min(...[...surface.cage.vertices()].map((v) => Math.hypot(...surface.cage.position(v))))).toBeGreaterThan(20.02);
  });

  it('keeps vertices on their side of a thin sheet, however near the other is', () => {
    const thin = box({ x: 40, y: 0.4, z: 40 }, { x: 20, y: 1, z: 20 });
    const top = Cage.fromPolygons(plane(20, 20, 6, 6));
    for (const v of top.vertices()) top.positions[3 * v + 1] = 0.05;
    const onto = held(top, { even: false }, thin).cage;
    for (const v of onto.vertices()) expect(onto.position(v)[1]).toBeCloseTo(0.2, 9);
  });

  it('flags faces that bridge a gap, and holds what is picked alone', () => {
    const [left, right] = [cylinder(4, 30, 32, 12, true), cylinder(4, 30, 32, 12, true)];
    const shifted = right.positions.map((x, i) => (i % 3 === 0 ? x + 14 : x));
    const n = left.positions.length / 3;
    const two: PolygonMesh = {
      positions: Float64Array.from([...left.positions, ...shifted]),
      faceVertices: Int32Array.from([...left.faceVertices, ...right.faceVertices.map((v) => v + n)]),
      faceStart: Int32Array.from([...left.faceStart, ...right.faceStart.slice(1).map((s) => s + left.faceVertices.length)])
    };
    const across = Cage.fromPolygons(plane(22, 8, 4, 2));
    for (const v of across.vertices()) {
      const [x, , z] = across.position(v);
      across.positions.set([x + 7, z, 5], 3 * v);
    }
    const facing = applyOperation(hold, across, emptySelection(), { even: false }, around(two));
    expect(facing.notes.join(' ')).toMatch(/faces? bridge a gap/);
    expect(facing.selection.faces.length).toBeGreaterThan(0);
    const cage = Cage.fromPolygons(quadSphere(17, 4));
    const part = held(cage, {}, ball, selectFaces([0])).cage;
    const own = new Set(cage.faceVertices(0));
    for (const v of cage.vertices()) if (!own.has(v)) expect(part.position(v)).toEqual(cage.position(v));
  });

  it('lasts by choice: what moves held vertices later, or makes new ones between them, leaves them on the reference', () => {
    const onto = held(Cage.fromPolygons(quadSphere(17, 4)), { lasting: true }, ball).cage;
    const pulled = applyOperation(move, onto, selectVertices([0]), { x: 5, y: 1, z: 0 }, around(ball)).cage;
    expect(Math.hypot(...pulled.position(0))).toBeCloseTo(20, 1);
    expect(pulled.position(0)).not.toEqual(onto.position(0));
    const cut = applyOperation(addLoop, onto, selectEdges([0]), {}, around(ball)).cage;
    expect(cut.vertexCount).toBeGreaterThan(onto.vertexCount);
    for (const v of cut.vertices()) expect(Math.hypot(...cut.position(v))).toBeCloseTo(20, 1);
    // held once only, it is let go again
    const free = held(onto, {}, ball).cage;
    const loose = applyOperation(move, free, selectVertices([0]), { x: 5, y: 1, z: 0 }, around(ball)).cage;
    expect(Math.abs(Math.hypot(...loose.position(0)) - 20)).toBeGreaterThan(0.5);
    expect(() => held(onto, { lasting: true, offset: 1 }, ball)).toThrow('lies on the reference itself');
  });

  it('is refused where there is nothing to hold, or to hold to', () => {
    expect(() => applyOperation(hold, Cage.fromPolygons(plane(1, 1, 1, 1)), emptySelection(), {}, around())).toThrow('The job has no reference.');
    expect(() => held(new Cage(), {}, ball)).toThrow('The part has no faces to hold.');
  });
});
