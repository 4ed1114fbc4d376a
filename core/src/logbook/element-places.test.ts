import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { amount } from '../../testing/amount.ts';
import { anyCage } from '../../testing/random-meshes.ts';
import { Cage } from '../mesh/cage.ts';
import { unlessRefused } from '../operations/refusal.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices } from '../select/selection.ts';
import { box, plane } from '../shapes/start-shapes.ts';
import { describeLost, elementPlaces, fingerprint, foundAgain } from './element-places.ts';
import { Logbook } from './logbook.ts';

const PART = 'p';
const one = { x: 1, y: 1, z: 1 };
/** A box of so many segments, with what is done to it. */
function boxJob(across: number): Logbook {
  const logbook = new Logbook();
  logbook.add({
    operation: 'start-shape',
    part: PART,
    params: { shape: 'box', across, up: 4, deep: 4 },
    selection: emptySelection(),
    makes: { name: 'Box', kind: 'cage' }
  });
  return logbook;
}
const cageOf = (logbook: Logbook): Cage => logbook.part(PART)!.cage!;
const vertexAt = (cage: Cage, at: number[]) => [...cage.vertices()].find((v) => cage.position(v).every((x, k) => Math.abs(x - at[k]) < 1e-9))!;

describe('elements found again', () => {
  it('by place where ids changed: a corner stays the corner, and what lies elsewhere now is flagged with its place', () => {
    const logbook = boxJob(4);
    const corner = vertexAt(cageOf(logbook), [20, 20, 20]);
    const between = vertexAt(cageOf(logbook), [10, 20, 20]);
    for (const v of [corner, between]) logbook.add({ operation: 'move', part: PART, params: { z: 7 }, selection: selectVertices([v]) });
    logbook.edit(0, { ...logbook.entries[0].params, across: 5 });
    const moved = [...cageOf(logbook).vertices()].filter((v) => cageOf(logbook).position(v)[2] > 20.5);
    expect(moved.map((v) => cageOf(logbook).position(v))).toEqual([[20, 20, 27]]);
    expect(logbook.entries[1].problem).toBeUndefined();
    expect(logbook.outcome(1).found).toEqual({ of: 1, byPlace: 1 });
    expect(logbook.entries[2].problem).toMatch(/its vertex is not there any more \(it lay at 10, 20, 20 mm\)/);
  });

  it('an extrusion of sixteen faces takes those sixteen or none', () => {
    const logbook = boxJob(4);
    const cage = cageOf(logbook);
    const right = [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => cage.position(v)[0] > 19));
    const front = [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => cage.position(v)[2] > 19));
    expect([right.length, front.length]).toEqual([16, 16]);
    logbook.add({ operation: 'extrude', part: PART, params: { distance: 4 }, selection: selectFaces(right) });
    logbook.add({ operation: 'extrude', part: PART, params: { distance: 4 }, selection: selectFaces(front) });
    logbook.edit(0, { ...logbook.entries[0].params, across: 5 });
    void logbook.state;
    expect(logbook.entries[1].problem).toBeUndefined();
    expect(logbook.entries[2].problem).toMatch(/all 16 of its 16 faces|all of its 16 faces|16 of its 16/);
    const far = [...cageOf(logbook).vertices()].filter((v) => Math.abs(cageOf(logbook).position(v)[0] - 24) < 1e-9);
    expect(far).toHaveLength(25);
  });

  it('by id where the connectivity is what it was, wherever the elements went', () => {
    const logbook = boxJob(4);
    const corner = vertexAt(cageOf(logbook), [20, 20, 20]);
    logbook.add({ operation: 'move', part: PART, params: { x: 1 }, selection: selectVertices([corner]) });
    logbook.add({ operation: 'move', part: PART, params: { y: 1 }, selection: selectVertices([corner]) });
    logbook.edit(1, { x: 30 });
    expect([cageOf(logbook).position(corner), logbook.entries[2].problem]).toEqual([[50, 21, 20], undefined]);
  });

  it('places of a cut are followed too, whichever way its edges run now', () => {
    const logbook = boxJob(4);
    const cage = cageOf(logbook);
    const f = [...cage.faces()].find((g) => cage.faceVertices(g).every((v) => cage.position(v)[0] > 19))!;
    const sides = cage.loopOf(cage.faceEdge[f]);
    const points = [0, 2].map((i) => ({ edge: sides[i] >> 1, fraction: sides[i] % 2 === 0 ? 0.25 : 0.75 }));
    logbook.add({ operation: 'cut', part: PART, params: { points }, selection: emptySelection() });
    const cutAt = (now: Logbook) => now.selection.edges.flatMap((e) => [0, 1].map((k) => cageOf(now).position(cageOf(now).origin[2 * e + k]))).sort();
    const before = cutAt(logbook);
    logbook.edit(0, { ...logbook.entries[0].params, across: 5 });
    expect(cutAt(logbook)).toEqual(before);
    expect(logbook.outcome(1).found.byPlace).toBeGreaterThan(0);
    logbook.edit(0, { ...logbook.entries[0].params, up: 3 });
    void logbook.state;
    expect(logbook.entries[1].problem).toMatch(/of what it was pointed at/);
  });

  it('after an edit each entry moves vertices that lay where it was done, or is flagged, whatever came between', () => {
    const counts = fc.integer({ min: 1, max: 5 });
    const shape = fc.record({ across: counts, up: counts, deep: counts });
    const step = fc.record({ kind: fc.constantFrom('move', 'move', 'move', 'delete', 'extrude', 'add-loop'), at: fc.nat(1000) });
    let [kept, flagged] = [0, 0];
    fc.assert(
      fc.property(shape, shape, fc.array(step, { minLength: 1, maxLength: 8 }), (before, after, list) => {
        const logbook = boxJob(before.across);
        logbook.edit(0, { shape: 'box', ...before }, true);
        for (const { kind, at } of list) {
          const cage = cageOf(logbook);
          const any = (ids: Iterable<number>) => [...ids].sort((a, b) => ((a * 7919 + at) % 101) - ((b * 7919 + at) % 101))[0];
          if (cage.faceCount === 0) return;
          const selection =
            kind === 'move'
              ? selectVertices([any(cage.vertices())])
              : kind === 'add-loop'
                ? selectEdges([any(cage.edges())])
                : selectFaces([any(cage.faces())]);
          const params = kind === 'move' ? { x: 1 + at / 100, y: at / 77 } : {};
          unlessRefused(() => logbook.add({ operation: kind, part: PART, params, selection }));
        }
        logbook.edit(0, { shape: 'box', ...after });
        void logbook.state;
        logbook.entries.forEach((entry, i) => {
          if (entry.problem !== undefined) return void flagged++;
          if (entry.operation !== 'move') return;
          const [was, now] = [i, i + 1].map((n) => logbook.stateBefore(n).parts[0].cage!);
          const moved = [...was.vertices()].filter((v) => now.position(v).some((x, k) => x !== was.position(v)[k]));
          expect(moved).toHaveLength(1);
          const sameIds = JSON.stringify([before.across, before.up, before.deep]) === JSON.stringify([after.across, after.up, after.deep]);
          if (!sameIds) expect(was.position(moved[0])).toEqual([...entry.places!.vertices].map((x) => expect.closeTo(x, 0)));
          kept++;
        });
      }),
      { numRuns: amount(100, 5000) }
    );
    expect(Math.min(kept, flagged)).toBeGreaterThan(20);
  });

  it('two at one place are neither, and one is not taken for two', () => {
    const cage = Cage.fromPolygons(plane(10, 10, 2, 2));
    const places = elementPlaces(cage, selectVertices([0, 1]));
    places.vertices.set(places.vertices.subarray(0, 3), 3);
    const other = Cage.fromPolygons(box(one, one));
    expect(foundAgain(cage, selectVertices([0, 1]), places, false).lost[0]).toMatchObject({ lost: 1, of: 2 });
    expect(describeLost(foundAgain(other, selectEdges([400]), { ...places, edges: new Float64Array(6) }, false).lost)).toMatch(
      /its edge is not there any more/
    );
  });

  it('are the same elements in any cage that was packed, or none', () => {
    fc.assert(
      fc.property(anyCage, fc.nat(1000), (cage, at) => {
        const packed = cage.packed();
        const [v, e, f] = [[...cage.vertices()], [...cage.edges()], [...cage.faces()]].map((ids) => ids[at % ids.length]);
        const s = { vertices: [v], edges: [e], faces: [f] };
        const { selection } = foundAgain(packed, s, elementPlaces(cage, s), false);
        const there = elementPlaces(packed, selection);
        const here = elementPlaces(cage, s);
        if (selection.vertices.length > 0) expect([...there.vertices]).toEqual([...here.vertices]);
        if (selection.edges.length > 0) expect([...there.edges].sort()).toEqual([...here.edges].sort());
        if (selection.faces.length > 0)
          expect([...there.faces.subarray(0, 3)]).toEqual([...here.faces.subarray(0, 3)].map((x) => expect.closeTo(x, 6)));
      })
    );
  });

  it('fingerprints differ where connectivity does, and not where only places do', () => {
    const cage = Cage.fromPolygons(box(one, { x: 2, y: 2, z: 2 }));
    const moved = cage.clone();
    moved.positions[0] += 1;
    expect(fingerprint(moved)).toBe(fingerprint(cage));
    expect(fingerprint(Cage.fromPolygons(box(one, { x: 2, y: 3, z: 1 })))).not.toBe(fingerprint(cage));
  });
});
