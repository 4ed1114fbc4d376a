import fc from 'fast-check';
import { strFromU8 } from 'fflate';
import { describe, expect, it } from 'vitest';
import { assertValid } from '../mesh/assert-valid.ts';
import { OperationRefused } from '../operations/refusal.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices } from '../select/selection.ts';
import { quadSphere } from '../shapes/start-shapes.ts';
import { REMOVE_PART, type Entry } from './entry.ts';
import { writeJobFile } from './job-file.ts';
import { Logbook } from './logbook.ts';

const PART = 'p1';

/** A logbook with a box of the given segment counts. */
function begun(across = 2): Logbook {
  const logbook = new Logbook();
  logbook.add({
    operation: 'start-shape',
    part: PART,
    params: { shape: 'box', across, up: 2, deep: 2 },
    selection: emptySelection(),
    makes: { name: 'Box', kind: 'cage' }
  });
  return logbook;
}
const cageOf = (logbook: Logbook) => logbook.part(PART)!.cage!;
const move = (logbook: Logbook, v: number, x: number) =>
  logbook.add({ operation: 'move', part: PART, params: { x }, selection: selectVertices([v]) });
const xOf = (logbook: Logbook, v: number) => cageOf(logbook).position(v)[0];

describe('logbook', () => {
  it('undoes and redoes everything, and a new entry takes the place of what was undone', () => {
    const logbook = begun();
    const before = xOf(logbook, 0);
    move(logbook, 0, 5);
    move(logbook, 0, 7);
    expect(xOf(logbook, 0)).toBeCloseTo(before + 12);
    logbook.undo();
    expect(xOf(logbook, 0)).toBeCloseTo(before + 5);
    logbook.redo();
    expect(xOf(logbook, 0)).toBeCloseTo(before + 12);
    logbook.undo();
    logbook.undo();
    move(logbook, 0, 1);
    expect([logbook.entries.length, logbook.redoes]).toEqual([2, undefined]);
    expect(xOf(logbook, 0)).toBeCloseTo(before + 1);
    logbook.undo();
    logbook.undo();
    expect(logbook.state.parts).toEqual([]);
    expect(logbook.undoes).toBeUndefined();
  });

  it('takes no entry of what would change nothing, and says so', () => {
    const logbook = begun();
    const e = [...cageOf(logbook).edges()][0];
    const add = (operation: string, params: Record<string, unknown>) => logbook.add({ operation, part: PART, params, selection: selectEdges([e]) });
    for (const [operation, params] of [
      ['move', {}],
      ['crease', { sharpness: 0 }],
      ['level-plan', {}],
      ['crease-by-angle', { angle: 180 }]
    ] as const)
      expect(() => add(operation, params)).toThrow(/would change nothing here, so nothing was done/);
    expect(logbook.entries).toHaveLength(1);
    add('crease', { sharpness: 3 });
    expect(() => add('crease', { sharpness: 3 })).toThrow(/change nothing/);
    // an entry that is there stays when its numbers make it one that does nothing
    logbook.edit(1, { sharpness: 0 });
    expect(logbook.entries).toHaveLength(2);
  });

  it('keeps how a part is subdivided as an entry, and hands the last reference to operations that look at it', () => {
    const logbook = begun();
    logbook.add({ operation: 'level-plan', part: PART, params: { level1: 'divide', borderCorners: 'rounded' }, selection: emptySelection() });
    expect(logbook.part(PART)).toMatchObject({ plan: { steps: ['divide'] }, borderCorners: 'rounded' });
    logbook.undo();
    expect(logbook.part(PART)!.plan).toBeUndefined();
    logbook.redo();
    expect(() => logbook.add({ operation: 'fit-reference', part: PART, params: {}, selection: emptySelection() })).toThrow(/no reference/);
    logbook.add({
      operation: 'bring-in',
      part: 'ball',
      params: {},
      selection: emptySelection(),
      cast: quadSphere(20, 12),
      makes: { name: 'Ball', kind: 'reference' }
    });
    const entry = logbook.add({ operation: 'fit-reference', part: PART, params: {}, selection: emptySelection() });
    expect(entry.notes[0]).toContain('Smooth surface to reference');
    expect(logbook.part(PART)!.plan).toEqual({ steps: ['divide'] });
  });

  it('any walk through undo, redo and edits ends where a fresh replay ends', () => {
    const step = fc.record({
      kind: fc.constantFrom('move', 'move', 'delete', 'dissolve', 'mirror', 'undo', 'redo', 'edit'),
      at: fc.nat(1000),
      by: fc.integer({ min: -5, max: 5 })
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 20 }), (list) => {
        const logbook = begun(3);
        for (const { kind, at, by } of list) {
          const cage = logbook.part(PART)?.cage;
          const pickFrom = (ids: Iterable<number>) => [...ids][at % Math.max(1, [...ids].length)];
          try {
            if (kind === 'undo') logbook.undo();
            else if (kind === 'redo') logbook.redo();
            else if (!cage || cage.faceCount === 0) continue;
            else if (kind === 'move') move(logbook, pickFrom(cage.vertices()), by);
            else if (kind === 'delete')
              logbook.add({ operation: 'delete', part: PART, params: {}, selection: selectFaces([pickFrom(cage.faces())]) });
            else if (kind === 'dissolve')
              logbook.add({ operation: 'dissolve', part: PART, params: {}, selection: selectEdges([pickFrom(cage.edges())]) });
            else if (kind === 'mirror') logbook.add({ operation: 'mirror', part: PART, params: { axis: 'X' }, selection: emptySelection() });
            else if (logbook.cursor > 1 && logbook.last!.operation === 'move') logbook.edit(logbook.cursor - 1, { x: by + 1 });
          } catch (error) {
            if (!(error instanceof OperationRefused)) throw error;
          }
          const now = logbook.part(PART)?.cage;
          if (now) assertValid(now);
        }
        const fresh = new Logbook(structuredClone(logbook.entries), logbook.cursor);
        expect(fresh.part(PART)?.cage?.toPolygons()).toEqual(logbook.part(PART)?.cage?.toPolygons());
      }),
      { numRuns: 60 }
    );
  });

  it('an entry changed later is replayed, and those after it find their elements by place', () => {
    const logbook = begun(2);
    const cage = cageOf(logbook);
    const corner = [...cage.vertices()].find((v) => cage.position(v).every((x) => x > 0 && Math.abs(x - 20) < 1e-9))!;
    move(logbook, corner, 3);
    logbook.edit(0, { ...logbook.entries[0].params, across: 5 });
    expect(cageOf(logbook).faceCount).toBe(2 * (5 * 2 + 5 * 2 + 2 * 2));
    expect(logbook.entries[1].problem).toBeUndefined();
    assertValid(cageOf(logbook));
  });

  it('an entry that cannot be replayed is flagged with the reason and kept', () => {
    const logbook = begun(4);
    const cage = cageOf(logbook);
    const [far] = [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => cage.position(v)[1] > 19));
    logbook.add({ operation: 'delete', part: PART, params: {}, selection: selectFaces([far]) });
    logbook.edit(0, { ...logbook.entries[0].params, shape: 'vertex' });
    void logbook.state;
    expect(logbook.entries).toHaveLength(2);
    expect(logbook.entries[1].problem).toMatch(/its face is not there any more \(it lay at .* mm\)/);
    logbook.edit(0, { ...logbook.entries[0].params, shape: 'box' });
    void logbook.state;
    expect(logbook.entries[1].problem).toBeUndefined();
  });

  it('refuses without changing anything', () => {
    const logbook = begun();
    const state = logbook.state;
    expect(() => logbook.add({ operation: 'delete', part: PART, params: {}, selection: emptySelection() })).toThrow(/Nothing is picked/);
    expect(() => logbook.add({ operation: 'move', part: PART, params: { x: 'far' }, selection: selectVertices([0]) })).toThrow(/X/);
    expect(() => logbook.edit(0, { across: 0 })).toThrow(/Faces across/);
    expect(logbook.state).toBe(state);
    expect(logbook.entries).toHaveLength(1);
  });

  it('an edit is undone by itself, to identical bytes, and what follows is flagged and whole again', () => {
    const logbook = begun(4);
    const cage = cageOf(logbook);
    const side = [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => cage.position(v)[1] > 19));
    logbook.add({ operation: 'extrude', part: PART, params: { distance: 5 }, selection: selectFaces(side) });
    move(logbook, 0, 2);
    const bytes = () => strFromU8(writeJobFile({ ...logbook.settings, cursor: logbook.cursor, entries: logbook.entries }), true);
    void logbook.state;
    const [before, last] = [bytes(), logbook.undoes];
    logbook.edit(0, { ...logbook.entries[0].params, across: 5 });
    void logbook.state;
    expect([logbook.undoes, logbook.entries[1].problem]).toEqual(['Edit Start shape', expect.stringContaining('not there any more')]);
    expect(bytes()).not.toBe(before);
    logbook.undo();
    void logbook.state;
    expect([bytes() === before, logbook.undoes]).toEqual([true, last]);
    logbook.redo();
    void logbook.state;
    expect(logbook.entries[1].problem).toBeDefined();
  });

  it('what is typed into the open card is one step with what it adds or edits, and another card is another step', () => {
    const logbook = begun();
    const at = xOf(logbook, 0);
    move(logbook, 0, 1);
    logbook.edit(1, { x: 2 }, true);
    logbook.edit(1, { x: 3 }, true);
    expect([xOf(logbook, 0), logbook.journal.position]).toEqual([at + 3, 2]);
    logbook.edit(0, { ...logbook.entries[0].params, deep: 3 });
    logbook.edit(0, { ...logbook.entries[0].params, deep: 4 }, true);
    expect(logbook.journal.position).toBe(3);
    logbook.undo();
    expect(logbook.entries[0].params.deep).toBe(2);
    logbook.undo();
    expect(xOf(logbook, 0)).toBe(at);
    logbook.redo();
    expect(xOf(logbook, 0)).toBe(at + 3);
  });

  it('names, sets and hidden parts are steps of the same journal, and an entry that took the place of others gives it back', () => {
    const logbook = begun();
    move(logbook, 0, 1);
    logbook.change('Rename', { name: 'Horn' });
    logbook.change('Hide part', { hidden: [PART] });
    logbook.goTo(1);
    move(logbook, 0, 9);
    expect([logbook.entries.length, logbook.settings]).toEqual([2, { name: 'Horn', sets: [], hidden: [PART], locked: [], doneWhen: [] }]);
    logbook.undo();
    expect(logbook.entries.map((e) => e.params.x)).toEqual([undefined, 1]);
    logbook.undo();
    expect(logbook.cursor).toBe(2);
    logbook.undo();
    logbook.undo();
    expect(logbook.settings).toEqual({ name: '', sets: [], hidden: [], locked: [], doneWhen: [] });
    for (let i = 0; i < 4; i++) logbook.redo();
    expect([logbook.settings.name, logbook.entries[1].params.x, logbook.redoes]).toEqual(['Horn', 9, undefined]);
  });

  it('an entry that is removed comes back in its place, and no number is used twice', () => {
    const logbook = begun();
    move(logbook, 0, 1);
    move(logbook, 0, 2);
    const at = xOf(logbook, 0);
    logbook.remove(1);
    expect([xOf(logbook, 0), logbook.cursor]).toEqual([at - 1, 2]);
    move(logbook, 0, 5);
    expect(logbook.entries.map((e) => e.id)).toEqual([1, 3, 4]);
    logbook.undo();
    logbook.undo();
    expect([xOf(logbook, 0), logbook.entries.slice(0, logbook.cursor).map((e) => e.id)]).toEqual([at, [1, 2, 3]]);
    logbook.redo();
    logbook.redo();
    expect(logbook.entries.map((e) => e.id)).toEqual([1, 3, 4]);
  });

  it('takes up its journal again after a visit, and makes one for documents that have none', () => {
    const logbook = begun();
    move(logbook, 0, 1);
    logbook.change('Rename', { name: 'Horn' });
    logbook.undo();
    const again = new Logbook(logbook.entries, logbook.cursor, logbook.settings, logbook.journal);
    expect([again.undoes, again.redoes]).toEqual(['Move', 'Rename']);
    again.redo();
    expect(again.settings.name).toBe('Horn');
    const old = new Logbook(logbook.entries, 1);
    expect([old.undoes, old.redoes]).toEqual(['Start shape', 'Move']);
  });

  it('whatever an operation throws flags its entry, and the job opens', () => {
    const logbook = begun();
    move(logbook, 0, 1);
    const broken: Entry = {
      ...logbook.entries[1],
      id: 9,
      params: { x: 2 },
      selection: { vertices: [0] } as never,
      places: undefined,
      topology: undefined
    };
    const opened = new Logbook([...logbook.entries, broken, { ...broken, id: 10, operation: 'from-a-newer-version' }]);
    expect(opened.state.parts).toHaveLength(1);
    expect(opened.entries[2].problem).toMatch(/^Move failed unexpectedly: /);
    expect(opened.entries[3].problem).toMatch(/not known to this version/);
  });

  it('refuses results that are no numbers or run off, with the name of the operation', () => {
    const logbook = begun();
    const far = () => logbook.add({ operation: 'scale', part: PART, params: { x: 1e12, y: 1e12, z: 1e12 }, selection: selectVertices([0, 1]) });
    expect(far).toThrow(OperationRefused);
    expect(far).toThrow(/Scale/);
    expect(logbook.entries).toHaveLength(1);
  });

  it('a part can be taken out and brought back', () => {
    const logbook = begun();
    logbook.add({ operation: REMOVE_PART, part: PART, params: {}, selection: emptySelection() });
    expect(logbook.state.parts).toHaveLength(0);
    logbook.undo();
    expect(logbook.state.parts).toHaveLength(1);
  });
});
