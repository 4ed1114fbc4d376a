import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import {
  emptySelection,
  enclosedVolume,
  operationById,
  polygonMesh,
  selectEdges,
  selectFaces,
  selectVertices,
  type BroughtIn,
  type CageOperation,
  type Operation
} from '@ulvrin/core';
import { createJob, loadJob, newJobId } from '$lib/platform/storage/job-store.ts';
import { OpenJob } from './open-job.svelte.ts';

// tasks need a browser's workers; what they compute is tested in the core
vi.mock('$lib/tasks/task-runner.svelte.ts', () => ({ RunningTask: class {}, TaskStopped: class extends Error {} }));

const operation = (id: string): Operation => operationById(id)!;
let job: OpenJob;

beforeEach(async () => {
  const { id } = await createJob({ id: newJobId(), name: 'Lamp housing' });
  job = new OpenJob((await loadJob(id))!);
  job.start(operation('start-shape'));
  job.setParams({ shape: 'box', across: 2, up: 2, deep: 2 });
  job.apply();
});
const cage = () => job.active!.cage!;

/** The job as another visit would find it. */
async function reopened(): Promise<OpenJob> {
  await job.save();
  return new OpenJob((await loadJob(job.record.id))!);
}

describe('an open job', () => {
  it('previews an operation without changing anything until it is applied', () => {
    job.selection = selectFaces([0]);
    job.start(operation('extrude'));
    expect(job.preview!.cage!.faceCount).toBe(28);
    expect(job.forecast).toMatch(/^Forecast: poles of 3: .*1 face drawn out, 4 new ones round them\.$/);
    expect(cage().faceCount).toBe(24);
    job.setParams({ distance: 7 });
    job.discard();
    expect([job.entries.length, cage().faceCount]).toEqual([1, 24]);
    job.start(operation('extrude'));
    job.apply();
    expect([job.entries.length, cage().faceCount, job.selection.faces.length]).toEqual([2, 28, 1]);
  });

  it('keeps the last card live: changing it changes the entry, not the number of entries', () => {
    job.selection = selectVertices([0]);
    const x = cage().position(0)[0];
    job.start(operation('move'));
    job.setParams({ x: 4 });
    job.apply();
    job.setParams({ x: 1.5 });
    expect([job.entries.length, cage().position(0)[0]]).toEqual([2, x + 1.5]);
    job.undo();
    expect(cage().position(0)[0]).toBe(x);
    job.redo();
    expect(cage().position(0)[0]).toBe(x + 1.5);
  });

  it('goes on with the next extrusion when asked, and repeats the last operation elsewhere', () => {
    job.selection = selectFaces([0]);
    job.start(operation('extrude'));
    job.setParams({ distance: 3 });
    job.apply(true);
    expect(job.running!.params.distance).toBe(3);
    job.apply(true);
    job.escape();
    expect([job.entries.length, cage().faceCount]).toEqual([3, 32]);
    job.selection = selectFaces([5]);
    job.repeat();
    expect([job.entries.length, cage().faceCount, job.entries[3].params.distance]).toEqual([4, 36, 3]);
  });

  it('remembers numbers of an operation, but not of a typed shift', () => {
    job.selection = selectEdges([0]);
    job.start(operation('add-loop'));
    job.setParams({ fraction: 0.2 });
    job.apply();
    job.start(operation('add-loop'));
    expect(job.running!.params.fraction).toBe(0.2);
    job.discard();
    job.selection = selectVertices([0]);
    job.start(operation('move'));
    job.setParams({ x: 9 });
    job.apply();
    job.start(operation('move'));
    expect(job.running!.params.x).toBe(0);
  });

  it('takes up what was previewed, and nothing of it where other numbers are done', () => {
    job.selection = selectFaces([0]);
    job.start(operation('extrude'));
    job.setParams({ distance: 7 });
    const previewed = job.preview!.cage!;
    job.apply();
    expect([cage().faceCount, enclosedVolume(cage())]).toEqual([previewed.faceCount, enclosedVolume(previewed)]);
    // repeated while its card is open once more, with other numbers on it
    job.start(operation('extrude'));
    job.setParams({ distance: 2 });
    const shown = job.preview!.cage!;
    job.repeat();
    expect(job.entries.at(-1)!.params).toMatchObject({ distance: 7 });
    const volume = enclosedVolume(cage());
    expect(volume - enclosedVolume(previewed)).toBeCloseTo((7 / 2) * (enclosedVolume(shown) - enclosedVolume(previewed)), 6);
  });

  it('says why something cannot be done, and shows the place', () => {
    job.start(operation('dissolve'));
    expect(job.message).toMatchObject({ kind: 'error', text: expect.stringContaining('Nothing is picked') });
    job.selection = selectFaces(cage().faces());
    job.start(operation('extrude'));
    job.apply();
    expect(job.message!.text).toMatch(/closed shell/);
    expect(job.message!.where!.faces).toHaveLength(24);
    expect(job.entries).toHaveLength(1);
  });

  it('Esc discards the operation, then the selection, then the isolation, one at a time', () => {
    job.selection = selectFaces([0, 1]);
    job.isolate();
    job.start(operation('move'));
    expect(job.escape()).toBe(true);
    expect([job.running, job.selection.faces.length]).toEqual([undefined, 2]);
    job.escape();
    expect([job.selection, job.isolated?.length]).toEqual([emptySelection(), 2]);
    job.escape();
    expect([job.isolated, job.escape()]).toEqual([undefined, false]);
  });

  it('is the same after closing and opening it, undone entries and the view included', async () => {
    job.selection = selectFaces([0]);
    job.start(operation('delete'));
    job.undo();
    job.view.smooth = true;
    job.view.level = 3;
    const again = await reopened();
    expect([again.entries.length, again.cursor, again.view.smooth, again.view.level]).toEqual([2, 1, true, 3]);
    again.redo();
    expect(again.active!.cage!.faceCount).toBe(23);
  });

  it('takes files in as references or cages, and parts out again', async () => {
    const mesh = polygonMesh(
      [
        [0, 0, 0],
        [1, 0, 0],
        [0, 1, 0]
      ],
      [[0, 1, 2]]
    );
    const brought = { mesh, notes: ['Welded 3 vertices.'], scheme: 'catmull-clark', borderCorners: 'sharp' } as unknown as BroughtIn;
    job.addBroughtIn(brought, 'Box.obj', 'reference', {});
    job.addBroughtIn(brought, 'Box.obj', 'cage', {});
    expect(job.parts.map((p) => [p.name, p.kind])).toEqual([
      ['Box', 'cage'],
      ['Box 2', 'reference'],
      ['Box 3', 'cage']
    ]);
    expect(job.active!.name).toBe('Box 3');
    expect(job.message!.text).toContain('Welded 3 vertices.');
    job.removePart(job.active!.id);
    expect(job.active!.name).toBe('Box');
    job.undo();
    expect(job.parts).toHaveLength(3);
    job.document.useAs(job.parts[2], 'reference');
    expect(job.parts.map((p) => p.kind)).toEqual(['cage', 'reference', 'reference']);
    job.undo();
    expect(job.parts.map((p) => p.kind)).toEqual(['cage', 'reference', 'cage']);
    job.document.toggleLocked(job.parts[2]);
    job.document.useAs(job.parts[2], 'reference');
    expect(job.message!.text).toContain('locked');
    expect(job.parts.map((p) => p.kind)).toEqual(['cage', 'reference', 'cage']);
    expect((await reopened()).parts).toHaveLength(3);
  });

  it('undoes names, sets, hidden parts and edits in the order they were done, after a visit as well', async () => {
    job.selection = selectFaces([0]);
    job.keepSet('lid');
    job.toggleHidden(job.active!);
    job.rename('Lamp');
    job.reopen(job.entries[0].id);
    job.setParams({ deep: 3 });
    job.setParams({ deep: 4 });
    expect(job.undoes).toBe('Edit Start shape');
    const again = await reopened();
    expect([again.name, again.hidden.length, again.sets.length, again.undoes]).toEqual(['Lamp', 1, 1, 'Edit Start shape']);
    again.undo();
    expect([again.active!.cage!.faceCount, again.name]).toEqual([24, 'Lamp']);
    again.undo();
    again.undo();
    expect([again.name, again.hidden, again.sets.length]).toEqual(['Lamp housing', [], 1]);
    again.undo();
    expect(again.sets).toEqual([]);
    for (let i = 0; i < 4; i++) again.redo();
    expect([again.active!.cage!.faceCount, again.name, again.redoes]).toEqual([40, 'Lamp', undefined]);
  });

  it('tells what the entries after an edited one came to', () => {
    for (const v of [0, 5]) {
      job.selection = selectVertices([v]);
      job.start(operation('move'));
      job.setParams({ x: 1 });
      job.apply();
    }
    job.reopen(job.entries[0].id);
    job.setParams({ deep: 5 });
    expect(job.laterFound).toMatch(/^2 later entries: .*(as before|by place|flagged)/);
  });

  it('changes nothing, and says why, while another page holds the job', async () => {
    job.keeper.holds = false;
    job.selection = selectFaces([0]);
    job.start(operation('extrude'));
    expect([job.running, job.message!.text]).toEqual([undefined, expect.stringContaining('open in another tab')]);
    job.undo();
    job.rename('Other');
    expect([job.entries.length, job.cursor, job.name]).toEqual([1, 1, 'Lamp housing']);
  });

  it('tells what fails without meaning to, and changes nothing', () => {
    vi.spyOn(console, 'error').mockImplementation(() => undefined);
    const faulty = vi.spyOn(operation('extrude') as CageOperation, 'run').mockImplementation(() => {
      throw new TypeError('x is undefined');
    });
    job.selection = selectFaces([0]);
    job.start(operation('extrude'));
    expect(job.preview!.refusal!.found).toMatch(/failed unexpectedly \(x is undefined\)/);
    job.apply();
    expect([job.message!.kind, job.entries.length]).toEqual(['error', 1]);
    faulty.mockRestore();
  });

  it('opens the card of an earlier entry again', () => {
    job.selection = selectVertices([0]);
    job.start(operation('move'));
    job.setParams({ y: 2 });
    job.apply();
    job.reopen(job.entries[0].id);
    job.setParams({ deep: 4 });
    expect([job.entries.length, cage().faceCount]).toEqual([2, 40]);
    expect(job.entries[1].problem).toBeUndefined();
  });
});
