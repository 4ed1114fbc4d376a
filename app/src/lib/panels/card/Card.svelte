<script lang="ts">
  import { Button } from 'carbon-components-svelte';
  import { describeSelection, fieldsOf, isBrush, isEmpty, isStored, operationById, type Field, type Operation, type Params } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import PickPanel from '../PickPanel.svelte';
  import SteeringPanel from '../SteeringPanel.svelte';
  import { possibleFields, problemOf } from './fields/field.ts';
  import { fieldKinds } from './fields/registry.ts';
  import PickedList from './PickedList.svelte';
  import Pointing from './Pointing.svelte';
  import Proposals from './Proposals.svelte';
  import TaskProgress from '../TaskProgress.svelte';

  let { job, onframe, height = $bindable(0) }: { job: OpenJob; onframe: () => void; height?: number } = $props();

  const live = $derived(job.draft.liveEntry === undefined ? undefined : job.entries.find((e) => e.id === job.draft.liveEntry));
  const operation: Operation | undefined = $derived(job.running?.operation ?? (live && operationById(live.operation)));
  const params: Params = $derived(job.running?.params ?? live?.params ?? {});
  const fields: Field[] = $derived(operation && operation.kind !== 'file' ? fieldsOf(operation) : []);
  const possible = $derived(possibleFields(fields, (name) => params[name] ?? fields.find((f) => f.name === name)?.initial));
  let more = $state(false);
  /** seldom needed fields come on demand, and where one of them is set */
  const isSet = (f: Field) => f.more && params[f.name] !== undefined && params[f.name] !== f.initial;
  // the other part of an applied entry may be gone with it
  const shown = $derived(possible.filter((f) => (more || !f.more || isSet(f)) && (f.type !== 'part' || job.running)));
  const hidden = $derived(possible.filter((f) => f.more && !isSet(f)).length);
  const storedLive = $derived(!job.running && operation !== undefined && isStored(operation));
  /** settings of a stored result are tried out here and used only when it is laid again */
  let draft: Params = $state({});
  $effect(() => {
    if (live) draft = { ...live.params };
  });
  // what was refused is forgotten with its operation, and with its field
  $effect(() => {
    void [operation, job.draft.liveEntry];
    job.draft.refused = {};
  });
  $effect(() => {
    for (const name of Object.keys(job.draft.refused)) if (!shown.some((f) => f.name === name)) delete job.draft.refused[name];
  });
  /** counts up where a switch or choice has to go back to what it was */
  let shownAnew = $state(0);
  const value = (f: Field) => (storedLive ? draft[f.name] : params[f.name]) ?? f.initial;

  function set(field: Field, raw: unknown) {
    const why = problemOf(field, raw);
    if (why) {
      job.draft.refused[field.name] = { typed: String(raw), why };
      return job.tell('error', why);
    }
    const next = field.type === 'number' ? Number(raw) : raw;
    delete job.draft.refused[field.name];
    job.message = undefined;
    if (storedLive) draft = { ...draft, [field.name]: next };
    else job.setParams({ [field.name]: next });
    // what an applied entry refused is not shown as if it had been taken
    if (value(field) !== next) shownAnew++;
  }

  const duration = (seconds: number) => (seconds < 90 ? `${Math.ceil(seconds)} s` : `${Math.ceil(seconds / 60)} minutes`);
  $effect(() => {
    // a preview that takes long is begun once the pointer rests
    void [job.running, job.selection, job.version, job.draft.takesLong, job.preview];
    const timer = setTimeout(() => {
      job.draft.previewSlowly();
      if (!job.task) job.forecasts.measure();
    }, 250);
    return () => clearTimeout(timer);
  });
</script>

{#snippet findings()}
  {#if !isEmpty(job.selection)}<PickedList {job} {onframe} />{/if}
  <PickPanel {job} />
{/snippet}

<section aria-label="Card" bind:offsetHeight={height}>
  {#if job.task}
    <h3>{job.task.name}</h3>
    <TaskProgress task={job.task} />
    <Button kind="danger-tertiary" size="small" on:click={() => job.task?.stop()}>Stop</Button>
  {:else if operation && (job.running || live)}
    <h3>
      {operation.name}{#if !job.running}<span class="quiet"> applied, still open</span>{/if}
    </h3>
    {#if operation.kind === 'task' && job.running}<p class="quiet">over {job.document.underQuads?.name}</p>{/if}
    {#if job.pointing}<Pointing {job} pointing={job.pointing} />{/if}
    <div class="fields">
      {#each shown as field (`${field.name} ${field.type === 'number' ? '' : shownAnew}`)}
        {@const Control = fieldKinds[field.type]}
        <Control {field} {job} value={value(field)} onchange={(raw) => set(field, raw)} />
      {/each}
    </div>
    <Proposals {job} />
    {#if job.running?.operation.kind === 'cage' && job.running.operation.handle}
      <button class="plain" aria-pressed={job.draft.movingPivot} onclick={() => (job.draft.movingPivot = !job.draft.movingPivot)}
        >{job.draft.movingPivot ? 'Done: pivot placed' : 'Place the pivot'}</button
      >
    {/if}
    {#if hidden > 0 || more}
      <button class="plain" aria-expanded={more} onclick={() => (more = !more)}
        >{more ? 'Fewer settings' : `${hidden} more ${hidden === 1 ? 'setting' : 'settings'}`}</button
      >
    {/if}
    {#if job.running && operation.gestures}
      <details>
        <summary>What clicks and drags do</summary>
        <dl>
          {#each operation.gestures as [gesture, does] (gesture)}<dt>{gesture}</dt>
            <dd>{does}</dd>{/each}
        </dl>
      </details>
    {/if}
    {#if operation.kind === 'task'}
      <SteeringPanel {job} params={storedLive ? draft : params} onchange={(p) => (storedLive ? (draft = { ...draft, ...p }) : job.setParams(p))} />
    {/if}
    <div class="foot">
      {#if job.forecast}<p class="forecast" data-testid="forecast">{job.forecast}</p>{/if}
      {#if !job.running && job.laterFound}<p class="forecast" data-testid="later">{job.laterFound}</p>{/if}
      {#if job.draft.takesLong && !job.preview}<p class="forecast" data-testid="long">
          The preview may take {duration(job.draft.takesLong)}. Apply runs it in the background, where it can be stopped.
        </p>{/if}
      {#if job.preview?.refusal}
        {@const { found, instead = '', waits } = job.preview.refusal}
        <p class={waits ? 'quiet' : 'refusal'} role={waits ? 'status' : 'alert'}>{found} {instead}</p>
      {/if}
      {#if job.running && (isBrush(operation) || (operation.kind === 'cage' && operation.tries))}
        <div class="row"><Button size="small" kind="tertiary" on:click={() => job.discard()}>Done</Button></div>
      {:else if job.running}
        <div class="row">
          <Button size="small" disabled={job.preview?.refusal !== undefined} on:click={() => job.apply()}
            >{operation.kind === 'task' ? operation.verb : 'Apply'}</Button
          >
          <Button size="small" kind="ghost" on:click={() => job.discard()}>Discard</Button>
        </div>
      {:else if operation.kind === 'task'}
        <div class="row"><Button size="small" kind="tertiary" on:click={() => job.layAgain($state.snapshot(draft))}>{operation.again}</Button></div>
      {/if}
    </div>
    {#if !job.running && job.active?.cage}
      <p class="number picked" data-testid="selection">{describeSelection(job.active.cage, job.selection)}</p>
    {/if}
    {#if live && !job.running}<ul class="notes">
        {#each live.notes as note, i (i)}<li>{note}</li>{/each}
      </ul>{/if}
    {#if !job.running && job.active?.cage}{@render findings()}{/if}
  {:else if job.active?.cage}
    <h3>{isEmpty(job.selection) ? job.active.name : 'Picked'}</h3>
    <p class="number" data-testid="selection">{describeSelection(job.active.cage, job.selection)}</p>
    {#if isEmpty(job.selection)}<p class="quiet">
        Click on the cage to pick; Shift-click adds; double-click an edge for its loop; drag for a box, a lasso or a brush.
      </p>{/if}
    {@render findings()}
  {:else if job.reference}
    <h3>{job.reference.name}</h3>
    <p class="number">{(job.reference.mesh!.faceStart.length - 1).toLocaleString('en')} faces, a reference</p>
    <p class="quiet">Lay quads over it: bench 2, Auto quads (Z). Or brush over it: bench 6.</p>
  {:else}
    <h3>An empty job</h3>
    <p class="quiet">Bring in a file (Z), or begin with a start shape (X).</p>
  {/if}
</section>

<style>
  section {
    padding: 10px 12px 12px;
  }
  h3 {
    font-size: 14px;
    font-weight: 600;
    margin-bottom: 6px;
  }
  h3 .quiet {
    margin-left: 6px;
    font-weight: 400;
    font-size: 12px;
  }
  .fields {
    display: flex;
    flex-direction: column;
    gap: 4px;
    margin-bottom: 8px;
  }
  .row {
    display: flex;
    gap: 6px;
  }
  details {
    font-size: 12px;
    margin-bottom: 6px;
  }
  dl {
    display: grid;
    grid-template-columns: 86px 1fr;
    gap: 3px 8px;
    padding-top: 4px;
    line-height: 1.35;
  }
  dd {
    color: var(--soft);
  }
  /* what it would do, or why it cannot, is in view with the buttons, however many fields there are */
  .foot {
    position: sticky;
    bottom: 0;
    background: var(--panel);
    padding: 6px 0;
  }
  .forecast {
    font-size: 12px;
    line-height: 1.4;
    color: var(--soft);
    background: var(--rail);
    padding: 6px 8px;
    margin-bottom: 6px;
    /* a long one scrolls: fields and buttons stay in reach */
    max-height: 76px;
    overflow-y: auto;
  }
  .refusal {
    color: var(--brick);
    margin-bottom: 6px;
  }
  .picked {
    border-top: 1px solid var(--line);
    margin-top: 8px;
    padding-top: 6px;
  }
  .notes {
    margin-top: 8px;
    font-size: 12px;
    color: var(--soft);
  }
</style>
