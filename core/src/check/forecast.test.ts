import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { amount } from '../../testing/amount.ts';
import { someParams } from '../../testing/some-params.ts';
import { Cage } from '../mesh/cage.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { applyOperation } from '../operations/apply.ts';
import { type CageOperation, type Params } from '../operations/operation.ts';
import { unlessRefused } from '../operations/refusal.ts';
import { operationById, operations } from '../operations/registry.ts';
import { Reference } from '../reference/reference.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices, type Selection } from '../select/selection.ts';
import { box, cylinder, plane, torus } from '../shapes/start-shapes.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { Subdivision } from '../subdivide/subdivision.ts';
import { changedSurface, describeForecast, describeLoops, describeMove, forecast, largestMove } from './forecast.ts';

const after = (id: string, cage: Cage, selection: Selection, params: Params = {}) =>
  applyOperation(operationById(id) as CageOperation, cage, selection, params).cage;
const smooth = { scheme: 'catmull-clark', borderCorners: 'sharp' } as const;
const moved = (before: Cage, changed: Cage, settings: SurfaceSettings = smooth, settingsAfter = settings) =>
  largestMove(changedSurface(before, changed, settings, settingsAfter));
/** The same, measured on the whole of both surfaces far down. */
function measured(before: Cage, changed: Cage, settings: SurfaceSettings, settingsAfter: SurfaceSettings, levels = 6): number {
  const [a, b] = [
    [before, settings],
    [changed, settingsAfter]
  ].map(([cage, rules]) => {
    const mesh = (cage as Cage).toPolygons();
    const surface = new Subdivision(mesh, { ...(rules as SurfaceSettings), levels, limit: true });
    return { positions: surface.evaluate(mesh.positions), faceStart: surface.last.faceStart, faceVertices: surface.last.faceVertices };
  });
  const far = (from: PolygonMesh, to: PolygonMesh) => new Reference(to).distances(from.positions).reduce((x, y) => Math.max(x, y), 0);
  return Math.max(far(a, b), far(b, a));
}
const valences = (poles: { valence: number }[]) => poles.map((p) => p.valence).sort();

/** Those whose numbers are dragged tell no distance; the others take what random picks do not give, or seconds. */
const HAVE_NONE = new Set([
  'move',
  'rotate',
  'scale',
  'pull-surface',
  'fit-reference',
  'creases-to-loops',
  'loops-to-creases',
  'bake-creases',
  'cut'
]);
const starts = [
  () => Cage.fromPolygons(box({ x: 3, y: 2, z: 2 }, { x: 3, y: 2, z: 2 })),
  () => Cage.fromPolygons(cylinder(2, 3, 7, 3, true)),
  () => Cage.fromPolygons(cylinder(2, 3, 6, 3, false)),
  () => Cage.fromPolygons(torus(4, 1.5, 6, 5)),
  () => Cage.fromPolygons(plane(4, 4, 4, 3))
];

describe('forecast', () => {
  it('tells the poles that an extrusion makes, and where', () => {
    const cage = Cage.fromPolygons(box({ x: 9, y: 9, z: 9 }, { x: 3, y: 3, z: 3 }));
    const middle = [...cage.faces()].find((f) => cage.faceVertices(f).every((v) => cage.valence(v) === 4))!;
    const drawn = after('extrude', cage, selectFaces([middle]), { distance: 3 });
    const { appear, cancel } = forecast(cage, drawn);
    expect([valences(appear), cancel]).toEqual([[3, 3, 3, 3, 5, 5, 5, 5], []]);
    for (const { vertex, valence } of appear) expect(drawn.valence(vertex)).toBe(valence);
    expect(moved(cage, drawn)).toBeGreaterThan(1);
  });

  it('finds none for a loop round a torus, and says how far the surface moves', () => {
    const cage = Cage.fromPolygons(torus(10, 3, 12, 8));
    const looped = after('add-loop', cage, selectEdges([0]));
    const change = forecast(cage, looped);
    expect([change.appear, change.cancel]).toEqual([[], []]);
    expect(describeForecast(change, moved(cage, looped))).toMatch(/^Forecast: poles unchanged; the smooth surface moves by up to 0\.\d+ mm\.$/);
  });

  it('measures the surface also where vertices go: a dissolved vertex on a bump', () => {
    const sheet = Cage.fromPolygons(plane(10, 10, 10, 10));
    const bump = after('move', sheet, selectVertices([60]), { y: 3 });
    // the limit surface lies 4/9 of its height up at the moved vertex
    expect(moved(sheet, bump)).toBeCloseTo(3 * (4 / 9), 1);
    const without = after('dissolve', bump, selectVertices([60]));
    const gone = forecast(bump, without);
    expect(moved(bump, without)).toBeGreaterThan(1.2);
    expect(valences(gone.cancel)).toEqual([]);
    expect(gone.ngons).toBe(1);
    expect(moved(sheet, after('connect', sheet, selectVertices([48, 60])))).toBe(0);
  });

  it('answers for large cages by what changes, and leaves the distance out where that is too much', () => {
    const cage = Cage.fromPolygons(torus(40, 15, 300, 200));
    expect(moved(cage, after('extrude', cage, selectFaces([500]), { distance: 1 }))).toBeGreaterThan(0.1);
    expect(moved(cage, after('move', cage, selectVertices(cage.vertices()), { x: 1 }))).toBeUndefined();
  });

  it('tells the loops before and after', () => {
    const cage = Cage.fromPolygons(torus(10, 3, 12, 8));
    expect(describeLoops(cage, [cage.findHalfEdge(0, 1) >> 1])).toBe('8 edges, closed');
    expect(describeLoops(cage, [])).toBeUndefined();
    expect(describeLoops(cage, [...cage.edges()])).toBeUndefined();
  });

  it('counts sharpness: creases and corners that are set, and what they become', () => {
    const cube = Cage.fromPolygons(box({ x: 10, y: 10, z: 10 }, { x: 2, y: 2, z: 2 }));
    const top = [...cube.faces()].filter((f) => cube.faceVertices(f).every((v) => cube.position(v)[1] > 4));
    const creased = after('crease', cube, selectFaces(top), { sharpness: 10 });
    const off = measured(cube, creased, smooth, smooth);
    expect(off).toBeGreaterThan(1);
    expect(moved(cube, creased)! / off).toBeCloseTo(1, 2);
    const corner = after('crease', cube, selectVertices([0]), { sharpness: 3.5 });
    expect(moved(cube, corner)! / measured(cube, corner, smooth, smooth)).toBeCloseTo(1, 2);
    expect(describeMove(moved(creased, creased.clone())!)).toBe('the smooth surface stays where it is');
  });

  it('counts folded quads and flat corners: a twisted bridge, a vertex slid onto a line', () => {
    const tube = Cage.fromPolygons(box({ x: 10, y: 20, z: 10 }, { x: 1, y: 3, z: 1 }));
    const middle = [...tube.faces()].filter((f) => tube.faceVertices(f).every((v) => Math.abs(tube.position(v)[1]) < 4));
    const open = after('delete', tube, selectFaces(middle));
    const straight = forecast(open, after('bridge', open, emptySelection()));
    const twisted = forecast(open, after('bridge', open, emptySelection(), { offset: 2 }));
    expect([straight.folded.length, twisted.folded.length]).toEqual([0, 4]);
    expect(describeForecast(twisted)).toContain('folded faces: 4');
    const quad = Cage.fromPolygons(plane(4, 4, 2, 2));
    const flat = after('move', quad, selectVertices([4]), { x: -1, z: -1 });
    expect([forecast(quad, flat).folded, forecast(quad, flat).flat.length]).toEqual([[], 1]);
    expect(describeForecast(forecast(quad, flat))).toContain('quads with a corner of 180°: 1');
  });

  it('counts the rule for borders and the level plan', () => {
    const sheet = Cage.fromPolygons(plane(10, 10, 3, 3));
    const plans: SurfaceSettings[] = [
      { ...smooth, borderCorners: 'rounded' },
      { ...smooth, plan: { steps: ['divide', 'divide'] } },
      { ...smooth, plan: { steps: [], creasesFrom: 3, creaseCap: 0.5 } }
    ];
    const bent = after('crease', after('move', sheet, selectVertices([5, 6]), { y: 4 }), selectEdges([...sheet.edges()].slice(6, 14)), {
      sharpness: 10
    });
    for (const plan of plans) {
      const off = measured(bent, bent, smooth, plan);
      expect(off).toBeGreaterThan(0.05);
      expect(Math.abs(moved(bent, bent, smooth, plan)! / off - 1)).toBeLessThan(0.02);
    }
  });

  it('is the measured distance of the limit surfaces, within 2 %, for random operations of every kind', { timeout: 900_000 }, () => {
    const kinds = operations.filter((o): o is CageOperation => o.kind === 'cage' && !HAVE_NONE.has(o.id));
    const done = new Set<string>();
    fc.assert(
      fc.property(
        fc.nat(starts.length - 1),
        fc.nat(kinds.length - 1),
        fc.constantFrom('vertices' as const, 'edges' as const, 'faces' as const),
        fc.array(fc.nat(10_000), { minLength: 1, maxLength: 4 }),
        fc.nat(1000),
        fc.constantFrom(0, 2.5, 10),
        (start, index, kind, picks, which, sharpness) => {
          const plain = starts[start]();
          const cage = sharpness > 0 ? after('crease', plain, selectEdges([...plain.edges()].slice(0, 4)), { sharpness }) : plain;
          const operation = kinds[index];
          const ids = [...cage[kind]()];
          const selection = { ...emptySelection(), [kind]: [...new Set(picks.map((i) => ids[i % ids.length]))] };
          const changed = unlessRefused(() => after(operation.id, cage, selection, someParams(operation, which)));
          if (!changed || changed.faceCount === 0 || changed.faceCount > 400) return;
          done.add(operation.id);
          const told = moved(cage, changed)!;
          const off = measured(cage, changed, smooth, smooth, changed.faceCount > 100 ? 5 : 6);
          if (Math.abs(told - off) > 0.02 * off + 5e-4)
            throw new Error(
              `${operation.id} ${JSON.stringify(selection)} ${JSON.stringify(someParams(operation, which))}: told ${told}, measured ${off}`
            );
        }
      ),
      { numRuns: amount(25, 300), endOnFailure: true }
    );
    expect(done.size).toBeGreaterThan(amount(4, 25));
  });
});
