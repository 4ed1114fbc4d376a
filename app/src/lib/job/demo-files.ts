import type { Condition, Entry } from '@ulvrin/core';
import { emptySelection } from '@ulvrin/core';
import { RunningTask } from '$lib/tasks/task-runner.svelte.ts';
import type { JobRecord } from '$lib/platform/storage/database.ts';
import { createJob, newJobId, replaceContent } from '$lib/platform/storage/job-store.ts';

/** A demo job as `static/demo/index.json` lists it. */
export interface DemoEntry {
  id: string;
  name: string;
  kind: 'reference' | 'cage';
  brief: string;
  /** in one or two sentences */
  teaches: string;
  /** how long it takes, about */
  minutes: number;
  /** when it is done */
  doneWhen: readonly Condition[];
  file: string;
}

export async function listDemos(): Promise<DemoEntry[]> {
  const response = await fetch('/demo/index.json');
  if (!response.ok) throw new Error('The demo jobs are missing: run "npm start" again, which makes them.');
  return (await response.json()) as DemoEntry[];
}

/** A new job from a demo. @param reset a job that becomes the demo again; what it was goes to the trash */
export async function openDemo(demo: DemoEntry, reset?: JobRecord): Promise<JobRecord> {
  const response = await fetch(`/demo/${demo.file}`);
  if (!response.ok) throw new Error(`The demo file ${demo.file} is missing: run "npm start" again, which makes it.`);
  const bytes = new Uint8Array(await response.arrayBuffer());
  const result = await new RunningTask(`Opening ${demo.name}`, (tasks, tell) => tasks.bringIn(bytes, demo.file, {}, tell)).result;
  const entry: Entry = {
    id: 1,
    operation: 'bring-in',
    part: newJobId(),
    params: { file: demo.file, as: demo.kind },
    selection: emptySelection(),
    cast: result.mesh,
    notes: result.notes,
    at: new Date().toISOString(),
    makes: { name: demo.name, kind: demo.kind }
  };
  const counts = { faces: demo.kind === 'cage' ? result.facts.faces : 0, quads: result.facts.quads, triangles: result.facts.triangles };
  const view = { bench: demo.kind === 'reference' ? 2 : 3 };
  if (reset) return replaceContent(reset.id, [entry], counts, view);
  return createJob({ id: newJobId(), name: demo.name, demo: demo.id, brief: demo.brief, doneWhen: demo.doneWhen, counts }, [entry], view);
}
