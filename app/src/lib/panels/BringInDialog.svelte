<script lang="ts">
  import { resolve } from '$app/paths';
  import { untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import {
    Button,
    Checkbox,
    InlineNotification,
    Modal,
    NumberInput,
    RadioButton,
    RadioButtonGroup,
    Select,
    SelectItem
  } from 'carbon-components-svelte';
  import {
    counted,
    millimetres,
    stemOf,
    tooLarge,
    JobFileError,
    readJobFile,
    emptySelection,
    type BroughtIn,
    type Entry,
    type JobFile
  } from '@ulvrin/core';
  import { RunningTask, TaskStopped } from '$lib/tasks/task-runner.svelte.ts';
  import { jobFromFile } from '$lib/document/export-job.svelte.ts';
  import { messageOf } from '$lib/job/refusal-of.ts';
  import { createJob, newJobId } from '$lib/platform/storage/job-store.ts';
  import { noteFile } from '$lib/platform/storage/recent-files.ts';
  import { askToKeep } from '$lib/platform/storage/storage-state.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import TaskProgress from './TaskProgress.svelte';

  let { file, job = undefined, onclose }: { file: File; job?: OpenJob; onclose: () => void } = $props();

  let task: RunningTask<BroughtIn> | undefined = $state.raw();
  let result: BroughtIn | undefined = $state.raw();
  let problem = $state('');
  let as: 'reference' | 'cage' = $state('cage');
  let unit = $state('file');
  let other = $state(1);
  let up: 'file' | 'Y' | 'Z' = $state('file');
  let weld = $state(true);
  let chosen = false;
  /** what of a damaged job file is whole */
  let rescued: JobFileError['whole'] = $state.raw();

  const units: Record<string, number | undefined> = { file: undefined, mm: 1, cm: 10, m: 1000, inch: 25.4 };

  $effect(() => {
    const settings = [file, unit, other, up, weld] as const;
    // reading starts and stops tasks: only the settings shall call it again
    untrack(() => void read(...settings));
  });

  async function read(source: File, unitName: string, millimetres: number, axis: typeof up, welding: boolean) {
    task?.stop();
    problem = '';
    const refusal = tooLarge(source.name, source.size);
    if (refusal) return void (problem = refusal);
    let mine: RunningTask<BroughtIn> | undefined;
    try {
      const bytes = new Uint8Array(await source.arrayBuffer());
      if (/\.ulvrin$/i.test(source.name)) return await openJobFile(bytes);
      const options = {
        weld: welding,
        millimetresPerUnit: unitName === 'other' ? millimetres : units[unitName],
        upAxis: axis === 'file' ? undefined : axis
      };
      mine = new RunningTask(`Reading ${source.name}`, (tasks, tell) => tasks.bringIn(bytes, source.name, options, tell));
      task = mine;
      result = await mine.result;
      if (!chosen) as = result.suggestion;
    } catch (error) {
      if (error instanceof TaskStopped && task !== mine) return;
      problem = messageOf(error);
      result = undefined;
    } finally {
      if (task === mine) task = undefined;
    }
  }

  async function openJobFile(bytes: Uint8Array) {
    try {
      await openAsNew(readJobFile(bytes));
    } catch (error) {
      problem = messageOf(error);
      if (error instanceof JobFileError) rescued = error.whole;
    }
  }

  async function openAsNew(stored: JobFile) {
    const record = await jobFromFile(stored);
    void askToKeep();
    onclose();
    await goto(resolve('/job/[id]', { id: record.id }));
  }

  const name = $derived(stemOf(file.name));

  async function take(intoOpen: boolean) {
    if (!result) return;
    // where there is no room for it, it is only not offered again
    void noteFile(file).catch(() => undefined);
    const settings = { unit: units[unit] ?? other, upAxis: up === 'Z' ? 'Z' : 'Y', weld };
    if (intoOpen && job) {
      job.addBroughtIn(result, file.name, as, settings);
      return onclose();
    }
    const scheme = result.scheme === 'loop' ? ('loop' as const) : ('catmull-clark' as const);
    const entry: Entry = {
      id: 1,
      operation: 'bring-in',
      part: newJobId(),
      params: { ...settings, file: file.name, as },
      selection: emptySelection(),
      cast: result.mesh,
      notes: result.notes,
      at: new Date().toISOString(),
      makes: { name, kind: as, scheme, borderCorners: result.borderCorners }
    };
    const { facts } = result;
    const counts =
      as === 'cage' ? { faces: facts.faces, quads: facts.quads, triangles: facts.triangles } : { faces: 0, quads: 0, triangles: facts.triangles };
    const record = await createJob({ id: newJobId(), name, counts }, [entry], { bench: as === 'reference' ? 2 : 3 });
    void askToKeep();
    onclose();
    await goto(resolve('/job/[id]', { id: record.id }));
  }

  function close() {
    task?.stop();
    onclose();
  }

  const size = $derived.by(() => {
    if (!result) return '';
    const { min, max } = result.facts.bounds;
    const extents = max.map((x, k) => x - min[k]);
    return extents.map((x) => millimetres(x, Math.max(...extents))).join(' × ');
  });
</script>

<Modal open passiveModal modalHeading="Bring in {file.name}" size="sm" on:close={close}>
  {#if problem}
    <InlineNotification kind="error" lowContrast hideCloseButton title="It could not be brought in." subtitle={problem} />
    <p class="quiet">Nothing was changed.</p>
    {#if rescued}
      <p class="rescue">{rescued.job.entries.length} of {rescued.of} entries are whole.</p>
      <Button size="small" kind="tertiary" on:click={() => openAsNew(rescued!.job).catch((e) => (problem = String(e)))}
        >Open these as a new job</Button
      >
    {/if}
  {:else if task}
    <TaskProgress {task} />
    <Button kind="danger-tertiary" size="small" on:click={() => task?.stop()}>Stop</Button>
  {:else if result}
    <p class="number facts">
      {result.formatName}: {result.facts.vertices.toLocaleString('en')} vertices, {result.facts.faces.toLocaleString('en')} faces ({result.facts.triangles.toLocaleString(
        'en'
      )} triangles,
      {result.facts.quads.toLocaleString('en')} quads, {result.facts.ngons.toLocaleString('en')} n-gons)<br />
      {size} mm, {counted(result.facts.borders, 'border')}, {counted(result.facts.islands, 'island')}, genus {result.facts.genus}
    </p>
    {#if result.notes.length > 0}
      <ul class="notes" aria-label="What was found and done">
        {#each result.notes as note, i (i)}<li>{note}</li>{/each}
      </ul>
    {:else}<p class="quiet">Nothing had to be repaired.</p>{/if}
    {#if result.likelyUnit && unit === 'file'}
      <p class="unit" role="note">
        That is small. If a unit is a {result.likelyUnit.name}, it is {millimetres(result.likelyUnit.extent)} mm long.
        <Button size="small" kind="ghost" on:click={() => (unit = 'm')}>Use {result.likelyUnit.name}s</Button>
      </p>
    {/if}
    <div class="settings">
      <RadioButtonGroup legendText="Use it as" bind:selected={as} on:change={() => (chosen = true)}>
        <RadioButton labelText="a reference (to lay quads over)" value="reference" />
        <RadioButton labelText="a cage (to work on)" value="cage" />
      </RadioButtonGroup>
      <Select labelText="A unit of the file is" size="sm" bind:selected={unit}>
        <SelectItem value="file" text="as the file says, or 1 mm" />
        <SelectItem value="mm" text="1 mm" /><SelectItem value="cm" text="1 cm" /><SelectItem value="m" text="1 m" />
        <SelectItem value="inch" text="1 inch" /><SelectItem value="other" text="another length" />
      </Select>
      {#if unit === 'other'}<NumberInput labelText="Millimetres" size="sm" min={0.000001} bind:value={other} />{/if}
      <Select labelText="Up in the file is" size="sm" bind:selected={up}>
        <SelectItem value="file" text="as the file says, or Y" /><SelectItem value="Y" text="Y" /><SelectItem value="Z" text="Z" />
      </Select>
      <Checkbox labelText="Weld vertices at the same place" bind:checked={weld} />
    </div>
    <div class="actions">
      {#if job}<Button size="small" on:click={() => take(true)}>Into this job</Button>{/if}
      <Button size="small" kind={job ? 'tertiary' : 'primary'} on:click={() => take(false)}>As a new job</Button>
    </div>
  {/if}
</Modal>

<style>
  .rescue {
    margin: 8px 0;
  }
  .unit {
    border-left: 3px solid var(--sea);
    padding-left: 8px;
  }
  .facts {
    margin-bottom: 8px;
  }
  .notes {
    list-style: disc;
    padding-left: 18px;
    margin-bottom: 12px;
    max-height: 130px;
    overflow: auto;
  }
  .settings {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px;
    margin: 12px 0;
  }
  .actions {
    display: flex;
    gap: 8px;
    justify-content: flex-end;
  }
</style>
