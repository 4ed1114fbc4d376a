import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { operationById, performRoutine, plainParts, readRoutine, selectFaces, type Routine } from '@ulvrin/core';
import { createJob, loadJob, newJobId } from '$lib/platform/storage/job-store.ts';
import { OpenJob } from './open-job.svelte.ts';
import { addSteps, routineOf } from './routines.ts';

// tasks need a browser's workers; what they compute is done here
vi.mock('$lib/tasks/task-runner.svelte.ts', () => ({ RunningTask: class {}, TaskStopped: class extends Error {} }));

const routine = readRoutine({
  format: 'ulvrin-routine',
  version: 1,
  name: 'Firm and fine',
  steps: [
    { operation: 'crease', params: { sharpness: 3 }, on: [{ find: 'sharp', number: 45 }] },
    { operation: 'quad-grid', on: [{ find: 'borders' }], optional: true },
    { operation: 'divide-once' }
  ]
});
let job: OpenJob;
const play = (played: Routine) => {
  const part = job.active!;
  return addSteps(
    job,
    part,
    played,
    performRoutine(plainParts({ parts: job.parts }), part.id, played, {}, () => undefined)
  );
};

beforeEach(async () => {
  const { id } = await createJob({ id: newJobId(), name: 'Cleat' });
  job = new OpenJob((await loadJob(id))!);
  job.start(operationById('start-shape')!);
  job.setParams({ shape: 'box', across: 2, up: 2, deep: 2 });
  job.apply();
});

describe('a routine in a job', () => {
  it('adds an entry a step that can be undone and edited; what finds nothing is told', () => {
    expect(play(routine)).toMatch(
      /^Firm and fine: Crease on 24 edges.*; Quad grid on nothing picked was left out: .*; Divide once on the whole part\.$/
    );
    expect(job.entries.map(({ operation }) => operation)).toEqual(['start-shape', 'crease', 'divide-once']);
    expect(job.active!.cage!.faceCount).toBe(96);
    job.undo();
    expect(job.active!.cage!.faceCount).toBe(24);
  });

  it('goes on past a step that would change nothing, which makes no entry', () => {
    const crease = { ...routine, steps: routine.steps.slice(0, 1) };
    play(crease);
    expect(play(routine)).toMatch(/Crease on 24 edges.* was left out: it would change nothing\.; .*Divide once/);
    expect(job.entries.map(({ operation }) => operation)).toEqual(['start-shape', 'crease', 'divide-once']);
  });

  it('of a locked part is not played, and nothing of it is kept', () => {
    job.document.toggleLocked(job.active!);
    expect(play(routine)).toBeUndefined();
    expect(job.entries).toHaveLength(1);
  });

  it('is made of entries by their numbers; one that makes a part, or numbers that there are not, are told', () => {
    job.selection = selectFaces(job.active!.cage!.faces());
    job.start(operationById('divide-once')!);
    job.apply();
    expect(routineOf(job, 'Fine', 2, 2).steps.map(({ operation, on }) => [operation, on])).toEqual([['divide-once', [{ find: 'quads' }]]]);
    expect(() => routineOf(job, 'All', 1, 2)).toThrow('Entry 1 makes a part');
    for (const [from, to] of [
      [0, 1],
      [2, 1],
      [1, 9],
      [NaN, 2]
    ])
      expect(() => routineOf(job, 'None', from, to)).toThrow('There are entries 1 to 2');
  });
});
