import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { assertValid } from '../mesh/assert-valid.ts';
import { OperationRefused } from '../operations/operation.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices } from '../select/selection.ts';
import { quadSphere } from '../shapes/start-shapes.ts';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { JobFileError, readJobFile, writeJobFile, type JobFile } from './job-file.ts';
import { Logbook, REMOVE_PART } from './logbook.ts';

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
    expect([logbook.entries.length, logbook.canRedo]).toEqual([2, false]);
    expect(xOf(logbook, 0)).toBeCloseTo(before + 1);
    logbook.undo();
    logbook.undo();
    expect(logbook.state.parts).toEqual([]);
    expect(logbook.canUndo).toBe(false);
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
    expect(logbook.entries[1].problem).toMatch(/not there any more/);
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

  it('a part can be taken out and brought back', () => {
    const logbook = begun();
    logbook.add({ operation: REMOVE_PART, part: PART, params: {}, selection: emptySelection() });
    expect(logbook.state.parts).toHaveLength(0);
    logbook.undo();
    expect(logbook.state.parts).toHaveLength(1);
  });
});

describe('job file', () => {
  const job = (): JobFile => {
    const logbook = new Logbook();
    logbook.add({
      operation: 'bring-in',
      part: PART,
      params: { file: 'a.obj', as: 'cage' },
      selection: emptySelection(),
      makes: { name: 'Lamp', kind: 'cage' },
      cast: quadSphere(3, 3),
      notes: ['made up']
    });
    move(logbook, 2, 1.5);
    logbook.undo();
    return { name: 'Lamp housing', brief: 'Repair it.', cursor: logbook.cursor, entries: logbook.entries, view: { level: 3, camera: { zoom: 2 } } };
  };

  it('brings everything back, arrays bit for bit', () => {
    const before = job();
    const after = readJobFile(writeJobFile(before));
    expect(after).toEqual(before);
    const replayed = new Logbook(after.entries, 2);
    expect(cageOf(replayed).position(2)[0]).toBe(quadSphere(3, 3).positions[6] + 1.5);
  });

  const changed = (change: (manifest: Record<string, never>) => void, arrays?: (bytes: Uint8Array) => Uint8Array) => {
    const files = unzipSync(writeJobFile(job()));
    const manifest = JSON.parse(new TextDecoder().decode(files['manifest.json'])) as Record<string, never>;
    change(manifest);
    return zipSync({ 'manifest.json': strToU8(JSON.stringify(manifest)), 'arrays.bin': arrays ? arrays(files['arrays.bin']) : files['arrays.bin'] });
  };
  it.each([
    ['cut off', () => writeJobFile(job()).subarray(0, 400), /cannot be unpacked/],
    ['another zip', () => zipSync({ 'letter.txt': strToU8('hello') }), /manifest\.json is missing/],
    ['written by a newer version', () => changed((m) => Object.assign(m, { version: 99 })), /newer Ulvrin \(file version 99/],
    ['with a cursor beyond its entries', () => changed((m) => Object.assign(m, { cursor: 7 })), /damaged: "cursor"/],
    [
      'with a wrong selection',
      () => changed((m) => Object.assign((m.entries as { selection: object }[])[1], { selection: { vertices: [-1], edges: [], faces: [] } })),
      /damaged/
    ],
    [
      'with arrays that end early',
      () =>
        changed(
          () => undefined,
          (b) => b.slice(0, 64)
        ),
      /points outside arrays\.bin/
    ],
    [
      'with a corner that points nowhere',
      () =>
        changed(
          () => undefined,
          (b) => (new Int32Array(b.buffer, b.byteOffset, b.length / 4).forEach((x, i, all) => x === 17 && (all[i] = 5000)), b)
        ),
      /uses vertex 5000/
    ]
  ])('%s is refused with the reason', (_what, bytes, reason) => {
    expect(() => readJobFile(bytes())).toThrow(JobFileError);
    expect(() => readJobFile(bytes())).toThrow(reason);
  });
});
