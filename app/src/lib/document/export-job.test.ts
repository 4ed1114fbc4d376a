import 'fake-indexeddb/auto';
import { expect, it, vi } from 'vitest';
import { operationById, readJobFile, writeJobFile } from '@ulvrin/core';
import { addLayer, moveToLayer } from '$lib/job/layers.ts';
import { OpenJob } from '$lib/job/open-job.svelte.ts';
import { createJob, loadJob, newJobId } from '$lib/platform/storage/job-store.ts';
import { fileOf, jobFromFile } from './export-job.svelte.ts';

// tasks need a browser's workers; none is needed here
vi.mock('$lib/tasks/task-runner.svelte.ts', () => ({ RunningTask: class {}, TaskStopped: class extends Error {} }));

it('a job goes into a file, and out of it into another job, with its layers, its other ways, its locks and what it has to meet', async () => {
  const { id } = await createJob({ id: newJobId(), name: 'Lamp housing' });
  const job = new OpenJob((await loadJob(id))!);
  for (const shape of ['box', 'plane']) {
    job.start(operationById('start-shape')!);
    job.setParams({ shape });
    job.apply();
  }
  const { document } = job;
  addLayer(document);
  moveToLayer(document, job.parts[0].id, document.layers[0]);
  document.toggleLocked(job.parts[0]);
  document.finishWhen([{ is: 'closed' }]);
  job.rework((logbook) => logbook.branchOff(1, 'without the plane'));
  const file = readJobFile(writeJobFile(fileOf(job)));
  expect(file).toMatchObject({ name: 'Lamp housing', branch: 'without the plane', doneWhen: [{ is: 'closed' }], locked: [job.parts[0].id] });
  expect(file.layers?.map(({ parts }) => parts)).toEqual([[job.parts[0].id]]);
  expect(file.branches?.map(({ entries }) => entries.length)).toEqual([1]);
  const again = new OpenJob((await loadJob((await jobFromFile(file)).id))!);
  expect(again.document.layers).toEqual(document.layers);
  expect(again.document.branches).toEqual(file.branches);
});
