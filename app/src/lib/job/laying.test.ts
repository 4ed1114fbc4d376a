import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { operationById, plane, polygonMesh, withDab, type Act, type BroughtIn, type Operation } from '@ulvrin/core';
import { createJob, loadJob, newJobId } from '$lib/platform/storage/job-store.ts';
import { OpenJob } from './open-job.svelte.ts';

// tasks need a browser's workers; what they compute is tested in the core
vi.mock('$lib/tasks/task-runner.svelte.ts', () => ({ RunningTask: class {}, TaskStopped: class extends Error {} }));

const operation = (id: string): Operation => operationById(id)!;
const sheet = plane(40, 40, 20, 20);
const brought = (mesh: BroughtIn['mesh']): BroughtIn => ({ mesh, notes: [], facts: {} }) as unknown as BroughtIn;
let job: OpenJob;

/** A job with a reference and no cage. */
async function over(mesh = sheet): Promise<OpenJob> {
  const { id } = await createJob({ id: newJobId(), name: 'Lamp housing' });
  const opened = new OpenJob((await loadJob(id))!);
  opened.addBroughtIn(brought(mesh), 'sheet.ply', 'reference', {});
  return opened;
}
beforeEach(async () => void (job = await over()));

/** One quad of 4 mm about a place. */
const square = (x: number): Act => ({
  do: 'faces',
  places: [
    [x - 2, 0, -2],
    [x - 2, 0, 2],
    [x + 2, 0, 2],
    [x + 2, 0, -2]
  ],
  faces: [[0, 1, 2, 3]]
});

describe('laying by hand', () => {
  it('begins a part of its own where there is none, and is one entry', () => {
    job.start(operation('lay-by-hand'));
    expect([job.active?.name, job.active?.cage?.faceCount]).toEqual(['sheet cage', 0]);
    expect(job.preview?.refusal?.waits).toBe(true);
    job.setParams({ acts: [square(0), square(4)] });
    expect(job.preview?.cage?.faceCount).toBe(2);
    job.apply();
    expect([job.entries.map((e) => e.operation), job.active?.cage?.faceCount]).toEqual([['bring-in', 'start-shape', 'lay-by-hand'], 2]);
  });

  it('is undone step by step, then as a whole', () => {
    job.start(operation('lay-by-hand'));
    job.setParams({ acts: [square(0), square(4)] });
    job.undo();
    expect([job.preview?.cage?.faceCount, job.cursor]).toEqual([1, 2]);
    job.undo();
    expect(job.running?.params.acts).toEqual([]);
    job.undo();
    expect(job.cursor).toBe(1);
  });

  it('keeps what was laid when it is left by Esc or for another operation', () => {
    job.start(operation('lay-by-hand'));
    job.setParams({ acts: [square(0)] });
    expect(job.escape()).toBe(true);
    expect(job.active?.cage?.faceCount).toBe(1);
    job.start(operation('lay-by-hand'));
    expect(job.running?.params.acts).toEqual([]);
    job.setParams({ acts: [square(4)] });
    job.start(operation('relax-area'));
    expect([job.running?.operation.id, job.active?.cage?.faceCount]).toEqual(['relax-area', 2]);
  });

  it('tells what cannot be done, and has what was there before', () => {
    job.start(operation('lay-by-hand'));
    job.setParams({ acts: [{ do: 'weld', from: [[9, 0, 9, 1]], onto: [[0, 0, 0, 1]] }] });
    expect(job.preview?.refusal?.found).toBe('The vertex at 9.00, 0.00, 9.00 mm is not there any more.');
    job.setParams({ acts: [square(0)] });
    expect(job.preview?.cage?.faceCount).toBe(1);
  });
});

describe('a brush over a reference', () => {
  const dab = {
    at: [0, 0, 0] as [number, number, number],
    normal: [0, 1, 0] as [number, number, number],
    by: [0, 0, 0] as [number, number, number],
    pressure: 1
  };
  const high = (mesh: BroughtIn['mesh']) => Math.max(...mesh.positions.filter((_, i) => i % 3 === 1));

  it('waits for the first touch, previews every one, and makes one entry that is taken back at once', () => {
    job.start(operation('raise-brush'));
    job.setParams({ radius: 6 });
    expect(job.preview).toMatchObject({ moves: true, refusal: { waits: true } });
    job.setParams({ dabs: withDab([], dab) });
    const once = high(job.preview!.mesh!);
    job.setParams({ dabs: withDab(withDab([], dab), dab) });
    expect(high(job.preview!.mesh!)).toBeGreaterThan(1.5 * once);
    expect(job.forecast).toMatch(/^Moved by \S+ mm at most; spread /);
    job.apply(true);
    const made = job.reference!.mesh!;
    expect([high(made) > once, made.faceVertices === sheet.faceVertices || made.faceVertices.length === sheet.faceVertices.length]).toEqual([
      true,
      true
    ]);
    // the brush stays in hand
    expect(job.running?.operation.id).toBe('raise-brush');
    expect(job.running?.params.dabs).toEqual([]);
    job.undo();
    expect([high(job.reference!.mesh!), job.running?.operation.id]).toEqual([0, 'raise-brush']);
  });

  it('says on its card why a mesh cannot be brushed', async () => {
    const pinched = polygonMesh(
      [
        [0, 0, 0],
        [1, 0, 0],
        [0, 1, 0],
        [-1, 0, 0],
        [0, -1, 0]
      ],
      [
        [0, 1, 2],
        [0, 3, 4]
      ]
    );
    job = await over(pinched);
    expect(job.whyNot(operation('relax-brush'))).toBeUndefined();
    job.start(operation('relax-brush'));
    expect(job.preview?.refusal?.found).toContain('The dense mesh cannot be brushed. Vertex 0 is pinched');
    expect(job.whyNot(operation('relax-area'))).toContain('It needs a cage');
  });
});
