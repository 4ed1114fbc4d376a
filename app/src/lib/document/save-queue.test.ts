import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { emptySelection, Logbook, selectVertices } from '@ulvrin/core';
import { JobChangedElsewhere, JobDeleted, type Writing } from '$lib/platform/storage/job-store.ts';
import { SaveQueue, type SaveState } from './save-queue.ts';

const PART = 'p';
let logbook: Logbook;
let queue: SaveQueue;
let states: SaveState['is'][];
let written: Writing[];
/** what the next writes do, in order; then they succeed */
let faults: (Error | Promise<void>)[];

beforeEach(() => {
  vi.useFakeTimers();
  logbook = new Logbook();
  [states, written, faults] = [[], [], []];
  const job = { id: 'a', name: 'Lamp', changed: '', counts: { faces: 0, quads: 0, triangles: 0 } };
  queue = new SaveQueue(
    { entries: [] },
    1,
    () => ({ job: { ...job, ...logbook.settings, cursor: logbook.cursor }, entries: logbook.entries, journal: logbook.journal }),
    async (writing, revision) => {
      const fault = faults.shift();
      if (fault instanceof Error) throw fault;
      await fault;
      written.push(writing);
      return revision + 1;
    },
    (state) => states.push(state.is)
  );
  logbook.add({
    operation: 'start-shape',
    part: PART,
    params: { shape: 'box' },
    selection: emptySelection(),
    makes: { name: 'Box', kind: 'cage' }
  });
});
afterEach(() => {
  queue.end();
  vi.useRealTimers();
});
const move = () => logbook.add({ operation: 'move', part: PART, params: { x: 1 }, selection: selectVertices([0]) });
const ids = (w: Writing) => w.entries.map((e) => e.id);

describe('saving as it happens', () => {
  it('writes each entry and step once, and those that changed again', async () => {
    await queue.save();
    move();
    await queue.save();
    logbook.edit(1, { x: 5 }, true);
    await queue.save();
    expect(written.map(ids)).toEqual([[1], [2], [2]]);
    expect(written.map((w) => w.steps.map(({ seq }) => seq))).toEqual([[0], [1], [1]]);
    logbook.undo();
    logbook.undo();
    logbook.add({ operation: 'start-shape', part: 'q', params: {}, selection: emptySelection(), makes: { name: 'Box', kind: 'cage' } });
    await queue.save();
    expect(written[3]).toMatchObject({ gone: [1, 2], goneSteps: [1], job: { order: [3], cursor: 1, position: 1 } });
    expect(states.at(-1)).toBe('saved');
  });

  it('counts as saved what was committed, no more: what failed is written again, by itself and with the next change', async () => {
    faults = [new Error('disk full of fog'), new Error('still')];
    await queue.save();
    expect(queue.state).toEqual({ is: 'failed', why: 'disk full of fog', full: false });
    expect(queue.isSaved).toBe(false);
    move();
    await queue.save();
    expect(queue.state.is).toBe('failed');
    await vi.advanceTimersByTimeAsync(2100);
    expect([states.at(-1), written.map(ids), written[0].steps.length]).toEqual(['saved', [[1, 2]], 2]);
  });

  it('knows a storage that is full', async () => {
    faults = [Object.assign(new Error('The transaction was aborted.'), { inner: Object.assign(new Error(), { name: 'QuotaExceededError' }) })];
    await queue.save();
    expect(queue.state).toMatchObject({ is: 'failed', full: true });
  });

  it('writes one state after the other; what changes meanwhile goes into the next', async () => {
    let go!: () => void;
    faults = [new Promise<void>((r) => (go = r))];
    const first = queue.save();
    move();
    const second = queue.save();
    expect([written.length, queue.state.is]).toEqual([0, 'saving']);
    go();
    await Promise.all([first, second]);
    expect([written.map(ids), queue.state.is]).toEqual([[[1], [2]], 'saved']);
  });

  it.each([
    ['another page', new JobChangedElsewhere()],
    ['the trash', new JobDeleted()]
  ])('writes nothing more once the job belongs to %s', async (to, error) => {
    faults = [error];
    await queue.save();
    await queue.save();
    await vi.advanceTimersByTimeAsync(100_000);
    expect([queue.state, written]).toEqual([{ is: 'lost', to }, []]);
  });
});
