import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { borderLoops, operationById, selectFaces, spareOf, type Spare } from '@ulvrin/core';
import { createJob, loadJob, newJobId } from '$lib/platform/storage/job-store.ts';
import { OpenJob } from './open-job.svelte.ts';
import { placeSpare, spareOfPicked, type PlacedHow } from './spares.svelte.ts';

// tasks need a browser's workers; none is needed here
vi.mock('$lib/tasks/task-runner.svelte.ts', () => ({ RunningTask: class {}, TaskStopped: class extends Error {} }));

let job: OpenJob;
let stud: Spare;
const cage = () => job.active!.cage!;
const how = (own: Partial<PlacedHow> = {}): PlacedHow => ({ scale: 0.5, turn: 0, mirrored: false, along: 1, joins: false, ...own });
const said = () => job.notes.message?.text;

beforeEach(async () => {
  const { id } = await createJob({ id: newJobId(), name: 'Cleat' });
  job = new OpenJob((await loadJob(id))!);
  job.start(operationById('start-shape')!);
  job.setParams({ shape: 'box', width: 40, height: 40, depth: 40, across: 4, up: 4, deep: 4 });
  job.apply();
  // a box without its lower side
  const lower = (f: number) =>
    cage()
      .faceVertices(f)
      .every((v) => cage().position(v)[1] < -19.9);
  stud = spareOf(
    cage(),
    [...cage().faces()].filter((f) => !lower(f)),
    'Stud',
    []
  );
});

describe('a spare in a job', () => {
  it('stands on what is picked as a part of its own, or is joined: one step, closed, of quads alone', () => {
    job.selection = selectFaces([0]);
    expect(placeSpare(job, stud, how())).toBe(true);
    expect(job.parts.map(({ name }) => name)).toEqual(['Box', 'Stud']);
    job.undo();
    expect(job.parts).toHaveLength(1);
    job.selection = selectFaces([0]);
    expect(placeSpare(job, stud, how({ joins: true }))).toBe(true);
    expect(job.parts).toHaveLength(1);
    expect(borderLoops(cage())).toEqual([]);
    expect([...cage().faces()].every((f) => cage().faceVertices(f).length === 4)).toBe(true);
    job.undo();
    expect([job.parts.length, cage().faceCount]).toEqual([1, 96]);
  });

  it('that cannot be joined leaves the job, and what was undone before, as they were', () => {
    job.selection = selectFaces([0]);
    job.start(operationById('extrude')!);
    job.apply();
    job.undo();
    expect(job.redoes).toBe('Extrude');
    job.selection = selectFaces([0, 40]);
    expect(placeSpare(job, stud, how({ joins: true }))).toBe(false);
    expect(said()).toMatch(/^The picked faces must leave one hole/);
    job.selection = selectFaces([0]);
    expect(placeSpare(job, spareOf(cage(), [...cage().faces()], 'Closed', []), how({ joins: true }))).toBe(false);
    expect(said()).toMatch(/^Only a spare that is open at one border/);
    expect([job.undoes, job.redoes]).toEqual(['Start shape', 'Extrude']);
    expect([job.parts.length, cage().faceCount]).toEqual([1, 96]);
  });

  it('is what is picked, or the whole part', () => {
    job.selection = selectFaces([0, 1]);
    expect(spareOfPicked(job, 'Two', []).mesh.faceStart).toHaveLength(3);
    job.selection = selectFaces([]);
    expect(spareOfPicked(job, 'All', []).mesh.faceStart).toHaveLength(97);
  });
});
