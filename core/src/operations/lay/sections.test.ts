import { describe, expect, it } from 'vitest';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { borderLoops, enclosedVolume } from '../../mesh/topology.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { emptySelection } from '../../select/selection.ts';
import { denseSphere } from '../../shapes/sample-surfaces.ts';
import { plane } from '../../shapes/start-shapes.ts';
import { applyOperation } from '../apply.ts';
import { type Params } from '../operation.ts';
import { sections } from './sections.ts';

const sheet = plane(60, 60, 30, 30);
const ball = denseSphere(60);
const around = (reference?: PolygonMesh) => ({ surface: { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const }, reference });
const laid = (strokes: Triple[][], params: Params = {}, reference: PolygonMesh = sheet) => {
  const made = applyOperation(sections, new Cage(), emptySelection(), { strokes, weld: 0.1, ...params }, around(reference));
  assertValid(made.cage);
  return made;
};
/** A stroke along z at an x, its places crowded towards one end. */
const across = (x: number, from = -6, to = 6, places = 9): Triple[] =>
  Array.from({ length: places }, (_, i): Triple => [x, 0, from + (to - from) * (i / (places - 1)) ** 2]);

describe('sections', () => {
  it('become a skin of even quads, however unevenly and from whichever end they were drawn', () => {
    const { cage, notes } = laid([across(-4), across(0, 6, -6, 30), across(4)], { along: 6, between: 2 });
    expect([cage.faceCount, cage.vertexCount, borderLoops(cage).length]).toEqual([24, 35, 1]);
    expect(notes[0]).toBe('A skin of 24 quads through 3 strokes.');
    for (const e of cage.edges()) expect(cage.edgeLength(e)).toBeCloseTo(2, 5);
  });

  it('lie on the reference between strokes too, and as many as make them about square', () => {
    const ring = (y: number): Triple[] =>
      Array.from({ length: 40 }, (_, i): Triple => {
        const [a, r] = [(2 * Math.PI * i) / 40, Math.sqrt(400 - y * y)];
        return [r * Math.cos(a), y, r * Math.sin(a)];
      });
    const { cage } = laid([ring(-8), [...ring(0)].reverse(), ring(8)], { along: 16, closed: true }, ball);
    expect([cage.faceCount % 16, borderLoops(cage).map((l) => l.length)]).toEqual([0, [16, 16]]);
    const reference = Reference.of(ball);
    for (const v of cage.vertices())
      expect(Math.hypot(...reference.closestPoint(cage.position(v)).map((x, k) => x - cage.position(v)[k]))).toBeLessThan(1e-6);
  });

  it('become a plate: walls all round, the outer side drawn in, the inner side by choice', () => {
    const strokes = [across(-6), across(6)];
    const plate = laid(strokes, { along: 6, between: 6, into: 'plate', thickness: 2 }).cage;
    expect([plate.faceCount, borderLoops(plate).length]).toEqual([36 + 36 + 24, 0]);
    expect(enclosedVolume(plate)).toBeCloseTo(12 * 12 * 2, 6);
    const drawnIn = laid(strokes, { along: 6, between: 6, into: 'plate', thickness: 2, rim: 0.5 }).cage;
    const outer = [...drawnIn.vertices()].map((v) => drawnIn.position(v)).filter((p) => p[1] > 1);
    expect(Math.max(...outer.map((p) => Math.max(Math.abs(p[0]), Math.abs(p[2]))))).toBeCloseTo(5.5, 6);
    expect(outer.filter((p) => Math.abs(Math.abs(p[0]) - 5.5) < 1e-6 && Math.abs(Math.abs(p[2]) - 5.5) < 1e-6)).toHaveLength(4);
    const open = laid(strokes, { along: 6, between: 6, into: 'plate', thickness: 2, inner: false }).cage;
    expect([open.faceCount, borderLoops(open).length]).toEqual([60, 1]);
  });

  it('are drawn as halves: the other side comes with them, and a plate has no wall in the middle', () => {
    const half = [across(0.02), across(6)];
    const skin = laid(half, { along: 4, between: 3, mirrored: 'X' }).cage;
    expect([skin.faceCount, borderLoops(skin).length]).toEqual([24, 1]);
    const plate = laid(half, { along: 4, between: 3, mirrored: 'X', into: 'plate', thickness: 2 }).cage;
    expect([plate.faceCount, borderLoops(plate).length]).toEqual([2 * (12 + 12 + 3 + 3 + 4), 0]);
    expect(enclosedVolume(plate)).toBeCloseTo(12 * 12 * 2, 0);
    // a weld distance longer than the quads closes none of them
    const along = [-6, 6].map((z): Triple[] => [
      [0.2, 0, z],
      [6, 0, z]
    ]);
    const fine = laid(along, { along: 12, between: 4, mirrored: 'X', weld: 1.5 }).cage;
    expect([fine.faceCount, borderLoops(fine).length]).toEqual([96, 1]);
  });

  it('say what is missing', () => {
    expect(() => laid([])).toThrow('Draw strokes across the shape, one after the other.');
    expect(() => laid([across(0)])).toThrow('One more stroke: strokes become a skin.');
    expect(() =>
      laid([
        [
          [0, 0, 0],
          [0, 0, 0]
        ],
        across(4)
      ])
    ).toThrow('Stroke 1 is too short to be a section.');
    expect(() => laid([across(0), across(4)], { closed: true, along: 2 })).toThrow('A ring has three quads or more.');
    expect(() => applyOperation(sections, new Cage(), emptySelection(), { strokes: [across(0), across(4)] }, around())).toThrow(
      'The job has no reference'
    );
  });
});
