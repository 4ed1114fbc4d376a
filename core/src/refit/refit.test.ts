import { describe, expect, it } from 'vitest';
import { run, vertexAt } from '../../testing/run-operation.ts';
import { changedSurface, largestMove } from '../check/forecast.ts';
import { Cage } from '../mesh/cage.ts';
import { borderLoops } from '../mesh/topology.ts';
import { emptySelection, selectEdges, selectFaces, type Selection } from '../select/selection.ts';
import { type Params } from '../operations/operation.ts';
import { plane, quadSphere } from '../shapes/start-shapes.ts';
import { keepSurface } from './limit-kept.ts';

const smooth = { scheme: 'catmull-clark', borderCorners: 'sharp' } as const;
const moved = (before: Cage, after: Cage) => largestMove(changedSurface(before, after, smooth));
const hilly = () => {
  const sheet = plane(8, 8, 8, 8);
  for (let i = 0; i < sheet.positions.length; i += 3)
    sheet.positions[i + 1] = 0.7 * Math.sin(sheet.positions[i]) * Math.cos(0.7 * sheet.positions[i + 2]);
  return Cage.fromPolygons(sheet);
};

describe('keep surface', () => {
  it('is exact where the new cage can make the old surface: a cage divided without smoothing becomes its own first level', () => {
    for (const cage of [Cage.fromPolygons(quadSphere(5, 2)), hilly()]) {
      const divided = run('divide-once', cage, emptySelection(), { places: 'flat' }).cage;
      const kept = keepSurface(cage, divided, smooth)!;
      expect(kept.before).toBeGreaterThan(0.02);
      expect(kept.after).toBeLessThan(1e-5);
      expect(moved(cage, kept.cage)).toBeLessThan(0.003);
    }
  });

  it('is an option of operations that change edge flow, and leaves a fraction of what the surface would have moved', () => {
    const cage = hilly();
    const edge = (x: number, z: number, across: [number, number]) =>
      cage.findHalfEdge(vertexAt(cage, x, 0, z), vertexAt(cage, x + across[0], 0, z + across[1])) >> 1;
    const jobs: [string, Selection, Params][] = [
      ['add-loop', selectEdges([edge(0, 0, [1, 0])]), { fraction: 0.25 }],
      ['swing-edge', selectEdges([edge(0, 0, [1, 0])]), {}],
      ['dissolve', selectEdges([edge(1, 1, [0, 1])]), {}],
      ['slide', selectEdges([-4, -3, -2, -1, 0, 1, 2, 3].map((x) => edge(x, 0, [1, 0]))), { fraction: 0.3 }]
    ];
    for (const [id, selection, params] of jobs) {
      const without = moved(cage, run(id, cage, selection, params).cage)!;
      const { cage: kept, notes } = run(id, cage, selection, { ...params, keepSurface: true });
      expect(moved(cage, kept)).toBeLessThan(0.6 * without);
      expect(notes.at(-1)).toMatch(/Surface kept: .* mm off at most, instead of .* mm/);
    }
  });

  it('holds the surface beside a hole that is filled or bridged, which would draw back there', () => {
    const sphere = Cage.fromPolygons(quadSphere(5, 3));
    const near = (f: number, y: number) => sphere.faceVertices(f).reduce((sum, v) => sum + y * sphere.position(v)[1], 0) / 4 > 4;
    const open = (...sides: number[]) => run('delete', sphere, selectFaces([...sphere.faces()].filter((f) => sides.some((y) => near(f, y))))).cage;
    const jobs: [string, Cage, Params][] = [
      ['quad-grid', open(1), { swell: 0 }],
      ['ring-cap', open(1), {}],
      ['fill-between', open(1), { swell: 0 }],
      ['bridge', open(1, -1), { rows: 3 }],
      ['bridge', open(1, -1), { rows: 3, brace: 0.3 }]
    ];
    for (const [id, cage, params] of jobs) {
      const picked = id === 'fill-between' ? selectEdges(borderLoops(cage)[0].map((h) => h >> 1)) : emptySelection();
      const { notes } = run(id, cage, picked, { ...params, keepSurface: true });
      const [, left, moved] = /Surface kept: (?:less than )?(\S+) mm off at most, instead of (\S+) mm/.exec(notes.at(-1)!)!.map(Number);
      expect([id, moved > 0.05, left < 0.3 * moved]).toEqual([id, true, true]);
    }
  });

  it('does nothing where nothing changed', () => {
    const cage = hilly();
    expect(keepSurface(cage, cage.clone(), smooth)).toBeUndefined();
  });
});
