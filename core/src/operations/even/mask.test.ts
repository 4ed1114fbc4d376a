import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyCage } from '../../../testing/random-meshes.ts';
import { run } from '../../../testing/run-operation.ts';
import { someParams } from '../../../testing/some-params.ts';
import { withDab } from '../../even/dabs.ts';
import { withMask } from '../../even/mask.ts';
import { Cage } from '../../mesh/cage.ts';
import { sameTopology } from '../../mesh/topology.ts';
import { emptySelection, selectFaces, selectVertices } from '../../select/selection.ts';
import { box, plane, quadSphere } from '../../shapes/start-shapes.ts';
import { applyOperation, validParams } from '../apply.ts';
import { type CageOperation, type Params } from '../operation.ts';
import { OperationRefused } from '../refusal.ts';
import { operations } from '../registry.ts';

const cageOperations = operations.filter((o): o is CageOperation => o.kind === 'cage');
const masked = (cage: Cage, least = 1e-9) => [...cage.vertices()].filter((v) => cage.value('mask', v) >= least).length;

describe('masks', () => {
  it.each(cageOperations.map((o) => [o.name, o] as const))(
    'are respected by %s: what is masked lies where it lay, bit for bit',
    (_name, operation) => {
      fc.assert(
        fc.property(
          anyCage,
          fc.array(fc.nat(10_000), { minLength: 1, maxLength: 6 }),
          fc.constantFrom('vertices', 'edges', 'faces'),
          fc.nat(1000),
          (made, picks, kind, which) => {
            const isMasked = (v: number) => v % 2 === 0;
            const cage = withMask(
              made,
              Float64Array.from({ length: made.vertexSlots }, (_, v) => Number(isMasked(v)))
            );
            const ids = [...cage[kind as 'vertices']()];
            const selection = { ...emptySelection(), [kind]: [...new Set(picks.map((i) => ids[i % ids.length]))] };
            const params: Params = someParams(operation, which);
            if (operation.brushed) params.dabs = withDab(withDab([], touch(cage, picks[0])), { ...touch(cage, picks[0]), by: [0.5, 0.2, 0.1] });
            const outcomes: Cage[] = [];
            try {
              outcomes.push(applyOperation(operation, cage, selection, params).cage);
              if (operation.live && (operation.live.suits?.(params) ?? true)) {
                const edit = operation.live.begin(cage, selection, validParams(operation, params));
                edit.step(validParams(operation, params));
                // what is previewed is what is kept
                if (sameTopology(outcomes[0], edit.cage)) expect(edit.cage.positions).toEqual(outcomes[0].positions);
              }
            } catch (error) {
              if (!(error instanceof OperationRefused)) throw error;
            }
            for (const now of outcomes)
              if (sameTopology(cage, now)) for (const v of cage.vertices()) if (isMasked(v)) expect(now.position(v)).toEqual(cage.position(v));
          }
        ),
        { numRuns: 25 }
      );
    }
  );

  it('hold by shares, so that what is half masked goes half as far', () => {
    const cage = withMask(
      Cage.fromPolygons(plane(4, 4, 4, 4)),
      Float64Array.from({ length: 25 }, (_, v) => [0, 0.5, 1][v % 3])
    );
    const moved = run('move', cage, selectVertices([...cage.vertices()]), { y: 2 }).cage;
    for (const v of cage.vertices()) expect(moved.position(v)[1]).toBeCloseTo([2, 1, 0][v % 3], 12);
    const flat = run('flatten', moved, selectVertices([...cage.vertices()]), { onto: 'Y' }).cage;
    for (const v of cage.vertices()) if (v % 3 === 2) expect(flat.position(v)).toEqual(moved.position(v));
  });

  it('are set from picks, to, out of and in place of what is there; inverted, blurred, grown, shrunk and cleared', () => {
    const cage = Cage.fromPolygons(plane(8, 8, 8, 8));
    const set = (from: Cage, params: Params, faces: number[] = []) => run('set-mask', from, selectFaces(faces), params);
    const one = set(cage, {}, [0]);
    expect([masked(one.cage), one.notes[0]]).toEqual([4, 'Masked: 4 of 81 vertices.']);
    const two = set(one.cage, { how: 'add' }, [63]).cage;
    expect(masked(two)).toBe(8);
    expect(masked(set(two, { how: 'take' }, [0]).cage)).toBe(4);
    expect(masked(set(two, { by: 'invert' }).cage)).toBe(73);
    expect(masked(set(two, { by: 'clear' }).cage)).toBe(0);
    const grown = set(one.cage, { by: 'grow', times: 2 }).cage;
    expect(masked(grown)).toBeGreaterThan(4);
    expect(masked(set(grown, { by: 'shrink', times: 2 }).cage)).toBe(4);
    const blurred = set(one.cage, { by: 'blur' }).cage;
    expect([masked(blurred) > 4, masked(blurred, 1)]).toEqual([true, 1]);
    expect(set(cage, { by: 'height', axis: '+X', from: -99, to: -99 }).notes[0]).toContain('All of them: nothing moves');
    expect(() => set(cage, { by: 'blur' })).toThrow('Nothing is masked yet.');
    expect(() => set(cage, {})).toThrow('Nothing is picked.');
  });

  it('are set by the regions and colours of what is picked', () => {
    const cage = Cage.fromPolygons(plane(8, 8, 8, 8));
    const at = (f: number) => cage.faceVertices(f).reduce((sum, v) => sum + cage.position(v)[0] / 4, 0);
    for (const f of cage.faces()) cage.setValue('region', f, at(f) < -1 ? 1 : 2);
    const left = run('set-mask', cage, selectFaces([[...cage.faces()].find((f) => at(f) < -3)!]), { by: 'region' }).cage;
    for (const v of cage.vertices()) expect(left.value('mask', v)).toBe(Number(cage.position(v)[0] <= -1));
    expect(() => run('set-mask', cage, selectFaces([0]), { by: 'colour' })).toThrow('The part has no colours.');
    const colours = cage.layer('colour').data;
    for (const v of cage.vertices()) colours.set([cage.position(v)[2] > 0 ? 0.9 : 0.2, 0.5, 0.5], 3 * v);
    const [one] = [...cage.vertices()].filter((v) => cage.position(v)[2] > 0);
    const red = run('set-mask', cage, selectVertices([one]), { by: 'colour' }).cage;
    for (const v of cage.vertices()) expect(red.value('mask', v)).toBe(Number(cage.position(v)[2] > 0));
    expect(masked(run('set-mask', cage, selectVertices([one]), { by: 'colour', near: 80 }).cage)).toBe(81);
  });

  it('are saved by name, follow their vertices, and are set, put together and forgotten by it', () => {
    const sheet = Cage.fromPolygons(plane(8, 8, 8, 8));
    const set = (cage: Cage, params: Params, faces: number[] = []) => run('set-mask', cage, selectFaces(faces), params).cage;
    const saved = set(set(sheet, {}, [0]), { by: 'save', name: 'toe' });
    const cleared = set(saved, { by: 'clear' });
    expect([masked(cleared), masked(set(cleared, { by: 'saved', name: 'toe' }))]).toEqual([0, 4]);
    expect(masked(set(set(cleared, {}, [63]), { by: 'saved', name: 'toe', how: 'add' }))).toBe(8);
    // an edge cut between two masked vertices is masked as well
    const [a, b] = cleared.faceVertices(0);
    const cut = run('point-on-edge', cleared, { ...emptySelection(), edges: [cleared.findHalfEdge(a, b) >> 1] }, {}).cage;
    expect(masked(set(cut, { by: 'saved', name: 'toe' }))).toBe(5);
    expect(() => set(cleared, { by: 'saved', name: 'heel' })).toThrow('No mask is saved as heel. Saved: toe.');
    expect(() => set(set(saved, { by: 'forget', name: 'toe' }), { by: 'saved', name: 'toe' })).toThrow('Save one first.');
    expect(() => set(cleared, { by: 'save', name: 'none' })).toThrow('Nothing is masked yet.');
  });

  it('are set by height, by direction, on ridges and in hollows', () => {
    const ball = Cage.fromPolygons(quadSphere(10, 12));
    const set = (cage: Cage, params: Params) => run('set-mask', cage, emptySelection(), params).cage;
    const high = set(ball, { by: 'height', axis: '+Y', from: 0, to: 10 });
    for (const v of ball.vertices()) expect(high.value('mask', v)).toBeCloseTo(Math.max(0, ball.position(v)[1] / 10), 9);
    const up = set(ball, { by: 'direction', axis: '+Y', angle: 60 });
    for (const v of up.vertices()) {
      const angle = (Math.acos(ball.position(v)[1] / 10) * 180) / Math.PI;
      if (angle < 28) expect(up.value('mask', v)).toBe(1);
      if (angle > 62) expect(up.value('mask', v)).toBe(0);
    }
    const dented = Cage.fromPolygons(plane(8, 8, 8, 8));
    const at = (x: number) => [...dented.vertices()].find((v) => Math.hypot(dented.position(v)[0] - x, dented.position(v)[2]) < 1e-9)!;
    dented.positions[3 * at(-2) + 1] = 0.6;
    dented.positions[3 * at(2) + 1] = -0.6;
    const [ridges, hollows] = ['ridges', 'hollows'].map((by) => set(dented, { by, bend: 30 }));
    expect([ridges.value('mask', at(-2)), ridges.value('mask', at(2))]).toEqual([1, 0]);
    expect([hollows.value('mask', at(-2)), hollows.value('mask', at(2))]).toEqual([0, 1]);
    expect(masked(set(Cage.fromPolygons(box({ x: 4, y: 4, z: 4 }, { x: 2, y: 2, z: 2 })), { by: 'ridges', bend: 10 }), 1)).toBe(20);
  });
});

/** A touch of a brush on a vertex of a cage. */
function touch(cage: Cage, which: number) {
  const vertices = [...cage.vertices()];
  const v = vertices[which % vertices.length];
  const h = cage.spokes(v)[0];
  const normal: [number, number, number] = [0, 1, 0];
  return {
    at: h === undefined ? ([0, 0, 0] as [number, number, number]) : cage.position(v),
    normal,
    by: [0, 0, 0] as [number, number, number],
    pressure: 1
  };
}
