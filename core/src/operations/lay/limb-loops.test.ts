import { describe, expect, it } from 'vitest';
import { type Act } from '../../hand/acts.ts';
import { crossingLoops, type LimbLoop, limbLoopAt, loopsAlong, tubeThrough } from '../../hand/limb-loops.ts';
import { SurfaceWalk } from '../../hand/surface-walk.ts';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { uniformMesh } from '../../mesh/polygon-mesh.ts';
import { repairPolygons } from '../../mesh/repair.ts';
import { borderLoops } from '../../mesh/topology.ts';
import { triangulate } from '../../mesh/triangulate.ts';
import { between, cross, dot, subtract, type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { emptySelection } from '../../select/selection.ts';
import { marshNewt, newtLimbs } from '../../shapes/marsh-newt.ts';
import { cylinder, plane, torus } from '../../shapes/start-shapes.ts';
import { applyOperation } from '../apply.ts';
import { type Params } from '../operation.ts';
import { limbLoops } from './limb-loops.ts';

const inTriangles = (mesh: ReturnType<typeof plane>) => uniformMesh(mesh.positions, Int32Array.from(triangulate(mesh).triangles), 3);
const limb = inTriangles(cylinder(3, 60, 64, 40, true));
const laid = (clicks: Triple[], params: Params = {}, reference = limb, cage = new Cage()) =>
  applyOperation(
    limbLoops,
    cage,
    emptySelection(),
    { clicks, weld: 0.2, ...params },
    { surface: { scheme: 'catmull-clark', borderCorners: 'sharp' }, reference }
  );

describe('limb loops', () => {
  const newt = repairPolygons(marshNewt(0.8), { weld: true }).mesh;

  it('run round a limb the shortest way, across its axis', () => {
    const walk = SurfaceWalk.over(Reference.of(limb));
    const loop = limbLoopAt(walk, walk.nearest([3, 4, 0.3])!)!;
    expect(Math.abs(loop.axis[1])).toBeGreaterThan(0.999);
    expect(loop.length).toBeCloseTo(2 * Math.PI * 3, 1);
    const ring = SurfaceWalk.over(Reference.of(inTriangles(torus(20, 4, 80, 24))));
    const round = limbLoopAt(ring, ring.nearest([24, 0, 0])!)!;
    // round the tube, not round the ring
    expect(round.length).toBeCloseTo(2 * Math.PI * 4, 0);
  });

  it('become a tube of quads, without twist, on the reference', () => {
    const { cage, notes } = laid([
      [3, -20, 0],
      [0, -4, 3],
      [-3, 12, 0],
      [3, 22, 0]
    ]);
    assertValid(cage);
    expect([cage.faceCount, borderLoops(cage).map((l) => l.length)]).toEqual([36, [12, 12]]);
    expect(notes[0]).toMatch(/^A tube of 36 quads through 4 loops, 18\.\d+ mm, /);
    // no edge along the tube goes round it by more than half an edge
    for (const e of cage.edges()) {
      const [p, q] = [cage.position(cage.origin[2 * e]), cage.position(cage.target(2 * e))];
      if (Math.abs(p[1] - q[1]) > 5) expect(Math.hypot(p[0] - q[0], p[2] - q[2])).toBeLessThan(0.9);
    }
    // faces look outwards
    for (const f of cage.faces()) {
      const [a, b, c] = cage.faceVertices(f).map((v) => cage.position(v));
      const [u, w] = [b.map((x, k) => x - a[k]), c.map((x, k) => x - b[k])];
      expect((u[1] * w[2] - u[2] * w[1]) * a[0] + (u[0] * w[1] - u[1] * w[0]) * a[2]).toBeGreaterThan(0);
    }
  });

  it("lay the newt's shins on both sides at once", () => {
    const { from, to } = newtLimbs().find(({ name }) => name === 'hind leg')!;
    const along = (t: number): Triple => [0, 1, 2].map((k) => from[k] + t * (to[k] - from[k])) as Triple;
    const reference = Reference.of(newt);
    const clicks = [0.35, 0.6, 0.8].map((t) => reference.closestPoint(along(t)));
    const { cage } = laid(clicks, { count: 10, mirrored: 'X' }, newt);
    assertValid(cage);
    expect([cage.faceCount, borderLoops(cage).length]).toEqual([40, 4]);
    for (const v of cage.vertices()) {
      const p = cage.position(v);
      expect(Math.hypot(...reference.closestPoint(p).map((x, k) => x - p[k]))).toBeLessThan(0.05);
    }
  });

  it('are told what is missing, and where none closes', () => {
    expect(() => laid([])).toThrow('Click on a limb for a loop round it.');
    expect(() => laid([[3, 0, 0]])).toThrow('One more click: loops become a tube.');
    expect(() =>
      laid(
        [
          [0, 0, 0],
          [1, 0, 1]
        ],
        {},
        inTriangles(plane(20, 20, 5, 5))
      )
    ).toThrow('Click 1: no closed line runs round the reference there.');
  });

  it('weld to what is there only as far as no edge closes up', () => {
    const body = Cage.fromPolygons(cylinder(3, 20, 12, 2, false));
    const { cage, notes } = laid(
      [
        [3, 11, 0],
        [3, 12, 0]
      ],
      { weld: 2.5, count: 12 },
      limb,
      body
    );
    assertValid(cage);
    expect(cage.faceCount).toBe(body.faceCount + 12);
    expect(notes.join(' ')).toMatch(/^A tube of 12 quads.*(\d+ vertices weld|Welded within)/);
  });

  it('are capped with quads on the reference where that is asked for', () => {
    const clicks: Triple[] = [
      [3, 20, 0],
      [3, 24, 0],
      [3, 27, 0]
    ];
    const open = laid(clicks, { count: 12 });
    const closed = laid(clicks, { count: 12, cap: 'both' });
    expect([borderLoops(open.cage).length, borderLoops(laid(clicks, { count: 12, cap: 'last' }).cage).length]).toEqual([2, 1]);
    assertValid(closed.cage);
    expect([borderLoops(closed.cage).length, [...closed.cage.faces()].every((f) => closed.cage.faceSize(f) === 4)]).toEqual([0, true]);
    expect(closed.notes[1]).toMatch(/^Capped with \d+ faces/);
  });

  it('run round it from a vertex as well, where a plane leaves the triangle to one side', () => {
    const walk = SurfaceWalk.over(Reference.of(limb));
    for (const y of [-21, 0, 12, 13.5]) {
      const loop = limbLoopAt(walk, walk.nearest([3, y, 0])!)!;
      expect(Math.abs(loop.axis[1])).toBeGreaterThan(0.999);
    }
  });

  it('turn towards each other where they would cross, at the inside of a knee: the tube does not cut itself', () => {
    const walk = SurfaceWalk.over(Reference.of(newt));
    // close together where the hind leg bends
    const clicks: Triple[] = [
      [19, 13.2, -18],
      [20.5, 10.7, -16.5],
      [21.5, 8.4, -15]
    ];
    const anchors = clicks.map((p) => walk.nearest(p)!);
    const round = (loops: (LimbLoop | undefined)[]) => tubeThrough(walk, loops as LimbLoop[], 10);
    const apart = anchors.map((at) => limbLoopAt(walk, at));
    expect([cutsItself(round(apart)), crossingLoops(apart).length > 0]).toEqual([true, true]);
    const together = loopsAlong(walk, anchors);
    expect([cutsItself(round(together)), crossingLoops(together)]).toEqual([false, []]);
    const { cage } = laid(clicks, { count: 10 }, newt);
    expect([cage.faceCount, borderLoops(cage).length]).toEqual([20, 2]);
    // one round the hip and one round the body there: no turn that keeps them short helps
    const across: Triple[] = [
      [9, 12, -17],
      [0, 22, -17]
    ];
    expect(() => laid(across, {}, newt)).toThrow('Loops 1 and 2 cross each other. Click farther along the limb.');
  });
});

/** Whether an edge of a tube's triangles goes through another of them. */
function cutsItself({ places, faces }: Extract<Act, { do: 'faces' }>): boolean {
  const at = places.map(([x, y, z]): Triple => [x, y, z]);
  const triangles = faces.flatMap(([a, b, c, d]) => [
    [a, b, c],
    [a, c, d]
  ]);
  const cuts = (p: Triple, q: Triple, [a, b, c]: readonly Triple[]) => {
    const n = cross(subtract(b, a), subtract(c, a));
    const [from, to] = [dot(n, subtract(p, a)), dot(n, subtract(q, a))];
    if (from * to >= 0) return false;
    const x = between(p, q, from / (from - to));
    return [
      [a, b],
      [b, c],
      [c, a]
    ].every(([u, w]) => dot(cross(subtract(w, u), subtract(x, u)), n) > 0);
  };
  return triangles.some((one) =>
    triangles.some(
      (two) =>
        !one.some((v) => two.includes(v)) &&
        one.some((v, k) =>
          cuts(
            at[v],
            at[one[(k + 1) % 3]],
            two.map((w) => at[w])
          )
        )
    )
  );
}
