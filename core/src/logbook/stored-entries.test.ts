import { describe, expect, it } from 'vitest';
import { bytesOf } from '../mesh/cage-arrays.ts';
import { selectFaces, emptySelection } from '../select/selection.ts';
import { readJobFile, writeJobFile } from './job-file.ts';
import { Logbook, type NewEntry } from './logbook.ts';
import { plane } from '../shapes/start-shapes.ts';
import { perform, plainParts, takenUp } from './perform.ts';

const box = (across = 4): NewEntry => ({
  operation: 'start-shape',
  part: 'a',
  params: { shape: 'box', width: 40, height: 40, depth: 40, across, up: 4, deep: 4 },
  selection: emptySelection(),
  makes: { name: 'Block', kind: 'cage' }
});
const extrude = (face: number): NewEntry => ({ operation: 'extrude', part: 'a', params: { distance: 5 }, selection: selectFaces([face]) });
const crease = (): NewEntry => ({ operation: 'crease-by-angle', part: 'a', params: { angle: 40 }, selection: emptySelection() });
const polygons = (logbook: Logbook) => logbook.state.parts[0].cage!.toPolygons();

function started(): Logbook {
  const logbook = new Logbook();
  for (const entry of [box(), crease(), extrude(3), extrude(9)]) logbook.add(entry);
  return logbook;
}

/** A plane of one face that is brought in. */
const sheet = (width: number): NewEntry => ({
  operation: 'bring-in',
  part: 'sheet',
  params: { file: 'sheet.obj', as: 'cage' },
  selection: emptySelection(),
  cast: plane(width, 10, 1, 1),
  makes: { name: 'Sheet', kind: 'cage' }
});

describe('an entry of an earlier version', () => {
  it('keeps its own mesh where its number was given again, and so does the later one', () => {
    const logbook = new Logbook();
    logbook.add(sheet(10));
    const version = { ...logbook.settings, entries: [...logbook.entries], cursor: 1 };
    logbook.undo();
    const [later] = [logbook.add(sheet(50))];
    logbook.restore('Restore', { ...version, entries: version.entries.map((e) => ({ ...e, id: later.id })) });
    expect(logbook.entries[0].id).not.toBe(later.id);
    expect(Math.max(...polygons(logbook).positions)).toBe(5);
    logbook.undo();
    expect(Math.max(...polygons(logbook).positions)).toBe(25);
    // what is the same stays one entry, with one mesh
    logbook.restore('Restore again', { ...version, entries: [{ ...later, cast: plane(50, 10, 1, 1) }] });
    expect(logbook.entries[0].id).toBe(later.id);
    expect(logbook.entries[0].cast).toBe(later.cast);
  });
});

describe('a stored result', () => {
  it('is not computed again whatever comes before it, and is once it is released', () => {
    const logbook = started();
    const before = polygons(logbook);
    logbook.store(2);
    expect(polygons(logbook)).toEqual(before);
    const { replays } = logbook;
    // a block of other proportions: what is stored stays, and what comes after it works on that
    logbook.edit(0, { shape: 'box', width: 80, height: 40, depth: 40, across: 4, up: 4, deep: 4 });
    expect(polygons(logbook)).toEqual(before);
    expect(logbook.entries.map(({ problem }) => problem)).toEqual([undefined, undefined, undefined, undefined]);
    // only the creases before it were looked at again
    expect(logbook.replays - replays).toBeLessThanOrEqual(3);
    logbook.release(2);
    const wide = Math.max(...polygons(logbook).positions);
    expect(wide).toBeGreaterThanOrEqual(40);
    logbook.undo();
    logbook.undo();
    logbook.undo();
    expect(polygons(logbook)).toEqual(before);
    expect(logbook.entries[2].result).toBeUndefined();
  });

  it('goes through the job file bit for bit, with its marks and ids; a damaged one is refused with its place', () => {
    const logbook = started();
    logbook.store(3);
    const written = writeJobFile({ ...logbook.settings, name: 'Job', cursor: 4, entries: logbook.entries });
    const read = readJobFile(written);
    expect(read.entries[3].result).toEqual(logbook.entries[3].result);
    const again = new Logbook(read.entries, 4);
    expect(polygons(again)).toEqual(polygons(logbook));
    expect([...again.state.parts[0].cage!.faces()]).toEqual([...logbook.state.parts[0].cage!.faces()]);
    expect(bytesOf(read.entries[3].result!)).toBeGreaterThan(1000);
    const next = Int32Array.from(read.entries[3].result!.arrays.next);
    next[0] = next[2];
    const broken = { ...read.entries[3], result: { ...read.entries[3].result!, arrays: { ...read.entries[3].result!.arrays, next } } };
    const file = writeJobFile({ name: 'Job', cursor: 4, entries: [...read.entries.slice(0, 3), broken] });
    expect(() => readJobFile(file)).toThrow(/stored result of entry 4 .* is broken/);
    const { arrays } = read.entries[3].result!;
    const taken = { ...arrays, freeVertices: Int32Array.of(...arrays.freeVertices, 0) };
    const reused = { ...read.entries[3], result: { ...read.entries[3].result!, arrays: taken } };
    const reusing = writeJobFile({ name: 'Job', cursor: 4, entries: [...read.entries.slice(0, 3), reused] });
    expect(() => readJobFile(reusing)).toThrow(/stored result of entry 4 .* do not fit each other/);
  });

  it('is kept by itself where the entry took long in another thread, and that is told', () => {
    const logbook = started();
    const entry = logbook.prepared(extrude(12));
    const performed = perform(plainParts(logbook.state), entry);
    const made = takenUp(logbook.state, performed);
    expect(made.seconds).toBeLessThan(5);
    const heavy = logbook.add(entry, undefined, { ...made, seconds: 12 });
    expect(heavy.notes.at(-1)).toMatch(/^It took 12 s, so its result is stored \(0\.\d MB\)/);
    logbook.release(4);
    expect(logbook.entries[4].result).toBeUndefined();
    expect(new Logbook([...logbook.entries]).state.parts[0].cage!.faceCount).toBe(logbook.state.parts[0].cage!.faceCount);
  });

  it('is refused where there is nothing to store, and goes when its entry gets other numbers', () => {
    const logbook = started();
    expect(() => logbook.store(0)).toThrow('Only what changes one cage');
    logbook.store(2);
    expect(() => logbook.store(2)).toThrow('stored already');
    logbook.edit(2, { distance: 9 });
    expect(logbook.entries[2].result).toBeUndefined();
  });
});
