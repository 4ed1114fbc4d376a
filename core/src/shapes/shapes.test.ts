import { describe, expect, it } from 'vitest';
import { run } from '../../testing/run-operation.ts';
import { isMet } from '../brief/conditions.ts';
import { checkPart } from '../check/check-part.ts';
import { deviation, measure } from '../check/measures.ts';
import { assertValid } from '../mesh/assert-valid.ts';
import { Cage } from '../mesh/cage.ts';
import { boundsOf } from '../mesh/polygon-mesh.ts';
import { repairPolygons } from '../mesh/repair.ts';
import { borderLoops, enclosedVolume, genus, islands } from '../mesh/topology.ts';
import { applyOperation } from '../operations/apply.ts';
import { type CageOperation } from '../operations/operation.ts';
import { operationById } from '../operations/registry.ts';
import { Reference } from '../reference/reference.ts';
import { emptySelection } from '../select/selection.ts';
import { Subdivision } from '../subdivide/subdivision.ts';
import { channelBuoy } from './channel-buoy.ts';
import { demoJobs } from './demo-jobs.ts';
import { lampHousing } from './lamp-housing.ts';
import { lumpyFoot, marshNewt } from './marsh-newt.ts';
import { mooringCleat } from './mooring-cleat.ts';
import { doubleRing } from './sample-surfaces.ts';
import { box, boxUnion } from './start-shapes.ts';

describe('demo shapes', () => {
  it('are the same every time, and each has a brief', () => {
    expect(mooringCleat()).toEqual(mooringCleat());
    expect(marshNewt(1.2)).toEqual(marshNewt(1.2));
    for (const { brief, id } of demoJobs) expect([brief.length > 60, /^[a-z-]+$/.test(id)]).toEqual([true, true]);
  });
  it('newt: closed, one island, symmetric, with limbs far from its body', () => {
    const mesh = marshNewt(0.6);
    const cage = Cage.fromPolygons(mesh);
    assertValid(cage);
    expect([genus(cage), borderLoops(cage).length, islands(cage).count]).toEqual([0, 0, 1]);
    const { min, max } = boundsOf(mesh.positions);
    expect(max[0] + min[0]).toBeCloseTo(0, 1);
    expect(max[2] - min[2]).toBeGreaterThan(1.6 * (max[0] - min[0]));
    expect(enclosedVolume(cage)).toBeGreaterThan(10_000);
  });
  it("newt's foot: done by relaxing, and not by plain smoothing, which thins it", () => {
    const cage = Cage.fromPolygons(lumpyFoot());
    const { doneWhen } = demoJobs.find(({ id }) => id === 'newt-foot')!;
    const left = (made: Cage) => doneWhen.filter((c) => !isMet(c, { cage: made, measures: measure(made), delivered: ['obj'] }).done).map((c) => c.is);
    expect(left(cage)).toEqual(['spread']);
    const evened = (way: string, passes: number) => left(run('relax-area', cage, emptySelection(), { way, passes }).cage);
    expect(evened('relax', 10)).toEqual([]);
    expect(evened('smooth', 10)).toContain('volume');
  });
  it('cleat: a cage of quads, closed, with a hole under its horns', () => {
    const cage = Cage.fromPolygons(mooringCleat());
    assertValid(cage);
    expect([genus(cage), borderLoops(cage).length, [...cage.faces()].every((f) => cage.faceSize(f) === 4)]).toEqual([1, 0, true]);
  });
  it('buoy: needs all that its brief says', () => {
    const { mesh, report } = repairPolygons(channelBuoy(), { weld: true });
    const cage = Cage.fromPolygons(mesh);
    assertValid(cage);
    expect([report.weldedVertices > 0, report.turnedFaces > 0]).toEqual([true, true]);
    const sizes = borderLoops(cage).map((b) => b.length % 2);
    expect(sizes.filter((odd) => odd)).toHaveLength(2);
    expect(sizes.length).toBeGreaterThanOrEqual(6);
    expect([...cage.faces()].filter((f) => cage.faceSize(f) > 4).length).toBeGreaterThan(2);
  });
  it('double ring has two handles', () => {
    const cage = Cage.fromPolygons(doubleRing(1.2));
    assertValid(cage);
    expect(genus(cage)).toBe(2);
  });

  it('a box is the skin of all of its cells, in their order', () => {
    for (const [x, y, z] of [
      [1, 1, 1],
      [2, 3, 4],
      [5, 4, 1],
      [4, 5, 6]
    ]) {
      const lines = (length: number, n: number) => Array.from({ length: n + 1 }, (_, i) => (length * i) / n - length / 2);
      expect(box({ x: 1, y: 2, z: 3 }, { x, y, z })).toEqual(boxUnion(lines(1, x), lines(2, y), lines(3, z), () => true));
    }
  });

  it('vent elbow: the check names the cut that ends in the bend and the flange that nothing braces; its fixes meet the brief', () => {
    const { doneWhen, make } = demoJobs.find(({ id }) => id === 'vent-elbow')!;
    const settings = { scheme: 'catmull-clark', borderCorners: 'sharp' } as const;
    let cage = Cage.fromPolygons(make());
    const shows = () => checkPart({ cage, settings }).filter((f) => f.visible);
    expect(shows().map((f) => f.kind)).toEqual(['unbraced-corner', 'cut-end', 'cut-end']);
    for (const kind of ['cut-end', 'unbraced-corner'])
      for (let found = shows().find((f) => f.kind === kind); found; found = shows().find((f) => f.kind === kind)) {
        const [{ operation, params, pick }] = found.fixes;
        ({ cage } = applyOperation(operationById(operation) as CageOperation, cage, pick, params, { surface: settings }));
      }
    const facts = { cage, measures: measure(cage), visible: shows().length, delivered: ['obj'] };
    expect(doneWhen.map((condition) => [condition.is, isMet(condition, facts).done])).toEqual(doneWhen.map(({ is }) => [is, true]));
  });

  it('lamp housing: its surfaces read as faces, divided once and held, lie within 0.1 mm of it in five passes', () => {
    const { doneWhen } = demoJobs.find(({ id }) => id === 'lamp-housing')!;
    const reference = lampHousing();
    const around = { surface: { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const }, reference };
    const step = (id: string, cage: Cage, params = {}) =>
      applyOperation(operationById(id) as CageOperation, cage, emptySelection(), params, around).cage;
    const cage = step('hold', step('divide-once', step('cage-from-regions', new Cage())), { fit: 'surface', passes: 5 });
    const { surface } = around;
    const fine = new Subdivision(cage.toPolygons(), { ...surface, levels: 3, limit: true });
    const surfaceOff = deviation(Reference.of(reference), fine.evaluate(cage.toPolygons().positions)).most;
    const facts = { cage, measures: measure(cage), surfaceOff, delivered: ['obj'] };
    expect(doneWhen.map((condition) => [condition.is, isMet(condition, facts).done])).toEqual(doneWhen.map(({ is }) => [is, true]));
  });
});
