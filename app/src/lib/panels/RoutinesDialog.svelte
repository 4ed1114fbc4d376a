<script lang="ts">
  import { untrack } from 'svelte';
  import { Button, FileUploaderButton, Modal, TextInput } from 'carbon-components-svelte';
  import { exampleRoutines, operationById, plainParts, type PlainStep, type Routine } from '@ulvrin/core';
  import { addSteps, routineOf } from '$lib/job/routines.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { problemOf } from '$lib/job/refusal-of.ts';
  import { fileStem, saveJson } from '$lib/platform/save-file.ts';
  import { forgetRoutine, keepRoutine, ownRoutines, routineIn } from '$lib/platform/storage/routines.ts';
  import { OwnTask } from '$lib/tasks/own-task.svelte.ts';
  import NumberEntry from './NumberEntry.svelte';
  import TaskProgress from './TaskProgress.svelte';

  /** Runs of steps, to be played on the active part; those that ship, and those the user has made. */
  let { job, onclose }: { job: OpenJob; onclose: () => void } = $props();

  let own: readonly Routine[] = $state.raw([]);
  let problem = $state('');
  const playing = new OwnTask<PlainStep[]>();
  let chosen: Routine = $state.raw(exampleRoutines[0]);
  let numbers: Record<string, number> = $state({});
  let made = $state(untrack(() => ({ name: '', from: Math.min(2, job.cursor), to: job.cursor })));
  const load = async () => (own = await ownRoutines());
  void load();

  const attempt = async (work: () => unknown) => (problem = await problemOf(work));
  function choose(routine: Routine) {
    chosen = routine;
    numbers = {};
    problem = playing.problem = '';
  }
  async function play() {
    const { active: part, parts } = job;
    if (!part?.cage) return;
    problem = '';
    const steps = await playing.run(chosen.name, (tasks, tell) =>
      tasks.playRoutine(plainParts({ parts }), part.id, $state.snapshot(chosen) as Routine, $state.snapshot(numbers), tell)
    );
    const told = steps && addSteps(job, part, chosen, steps);
    if (told === undefined) return;
    job.tell('info', told);
    onclose();
  }
  const make = (event: Event) => {
    event.preventDefault();
    void attempt(async () => {
      const routine = routineOf(job, made.name.trim() || 'My routine', made.from, made.to);
      await keepRoutine(routine);
      await load();
      choose(routine);
    });
  };
  const take = (file: File | undefined) =>
    file &&
    attempt(async () => {
      const routine = routineIn(await file.text());
      await keepRoutine(routine);
      await load();
      choose(routine);
    });
  const save = (routine: Routine) => saveJson(routine, `${fileStem(routine.name)}.json`);
  const isOwn = $derived(own.includes(chosen));
</script>

<Modal open passiveModal modalHeading="Routines" size="sm" on:close={onclose}>
  <div class="both">
    <ul aria-label="Routines">
      {#each [...exampleRoutines, ...own] as routine, i (i)}
        <li class:now={routine === chosen}><button class="plain" onclick={() => choose(routine)}>{routine.name}</button></li>
      {/each}
    </ul>
    <section aria-label="The routine">
      <h3>{chosen.name}</h3>
      {#if chosen.about}<p class="quiet">{chosen.about}</p>{/if}
      <ol>
        {#each chosen.steps as { operation, optional }, i (i)}
          <li>
            {operationById(operation)?.name ?? operation}{#if optional}<span class="quiet">, where it can</span>{/if}
          </li>
        {/each}
      </ol>
      {#each Object.entries(chosen.numbers) as [name, { label, value, unit }] (name)}
        <NumberEntry {label} {unit} value={numbers[name] ?? value} onchange={(typed) => (numbers[name] = Number(typed))} />
      {/each}
      {#if playing.running}<TaskProgress task={playing.running} />{/if}
      {#if problem || playing.problem}<p class="problem" role="alert">{problem || playing.problem}</p>{/if}
      <div class="row">
        <!-- one button for both: it keeps the focus -->
        <Button
          size="small"
          kind={playing.running ? 'danger-tertiary' : 'primary'}
          disabled={!job.active?.cage}
          on:click={() => (playing.running ? playing.stop() : play())}>{playing.running ? 'Stop' : `Play on ${job.active?.name ?? 'a cage'}`}</Button
        >
        <button class="plain act" onclick={() => save(chosen)}>Export</button>
        {#if isOwn}
          <button
            class="plain act"
            onclick={() =>
              attempt(async () => {
                await forgetRoutine(chosen.name);
                await load();
                choose(exampleRoutines[0]);
              })}>Remove</button
          >
        {/if}
      </div>
    </section>
  </div>
  <form novalidate onsubmit={make} aria-label="Make a routine of entries">
    <div class="wide">
      <TextInput labelText="Make one of entries, under the name" size="sm" maxlength={60} placeholder="My routine" bind:value={made.name} />
    </div>
    <NumberEntry label="From entry" value={made.from} min={1} max={job.cursor} onchange={(typed) => (made.from = Number(typed))} />
    <NumberEntry label="to entry" value={made.to} min={1} max={job.cursor} onchange={(typed) => (made.to = Number(typed))} />
    <div class="row wide">
      <Button kind="tertiary" size="small" type="submit" disabled={job.cursor === 0}>Make it</Button>
      <FileUploaderButton labelText="Import" kind="ghost" size="small" accept={['.json']} on:change={({ detail }) => take(detail[0])} />
    </div>
  </form>
</Modal>

<style>
  .both {
    display: grid;
    grid-template-columns: 140px 1fr;
    gap: 16px;
    min-height: 200px;
  }
  ul {
    border-right: 1px solid var(--line);
  }
  li button {
    width: 100%;
    padding: 4px 8px;
    text-align: left;
  }
  .now {
    background: var(--picked);
    box-shadow: inset 3px 0 0 var(--cobalt);
  }
  section {
    display: grid;
    gap: 8px;
    align-content: start;
  }
  h3 {
    font-size: 14px;
    font-weight: 600;
  }
  ol {
    list-style: decimal;
    padding-left: 20px;
  }
  form {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 8px 16px;
    margin-top: 16px;
    padding-top: 12px;
    border-top: 1px solid var(--line);
  }
  .wide {
    grid-column: 1 / -1;
  }
  .row {
    display: flex;
    align-items: center;
    gap: 8px;
  }
</style>
