<script lang="ts">
  import { isEmpty, finds } from '@ulvrin/core';
  import { Button, TextInput } from 'carbon-components-svelte';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import Choice from './Choice.svelte';
  import NumberEntry from './NumberEntry.svelte';

  let { job }: { job: OpenJob } = $props();
  let findId = $state(finds[0].id);
  let setName = $state('');
  const find = $derived(finds.find((t) => t.id === findId)!);
  let number = $derived(find.number?.initial ?? 0);

  function pick(how: 'instead' | 'add') {
    const cage = job.active?.cage;
    if (!cage) return;
    const picked = find.pick(cage, job.selection, number);
    const begins = find.fromPicks && isEmpty(job.selection);
    if (isEmpty(picked)) return job.tell('info', `${find.label}: ${begins ? 'pick where it begins first' : 'this part has none'}.`);
    job.pickMany(picked, how);
  }

  function changeTurn(value: number) {
    job.view.mostTurn = Number.isFinite(value) && value > 0 ? Math.min(180, value) : 180;
    job.saveViewSoon();
  }
</script>

<details class="fold">
  <summary>Find and pick, sets, loops</summary>
  <div class="line">
    <Choice
      label="What to find"
      hidesLabel
      value={findId}
      choices={finds.map(({ id, label }) => ({ value: id, label }))}
      onchange={(id) => (findId = id)}
    />
  </div>
  <div class="line">
    {#if find.number}
      <NumberEntry
        label="Number to find by"
        hidesLabel
        value={number}
        unit={find.number.unit}
        min={find.number.min}
        max={find.number.max}
        step={find.number.step}
        onchange={(typed) => (number = Number(typed))}
      />
    {/if}
    <Button size="small" kind="tertiary" on:click={() => pick('instead')}>Pick</Button>
    <Button size="small" kind="ghost" on:click={() => pick('add')}>Add</Button>
  </div>
  <div class="line">
    <NumberEntry
      label="Loops stop at turns over"
      value={job.view.mostTurn}
      unit="°"
      min={1}
      max={180}
      step={5}
      onchange={(typed) => changeTurn(typed === '' ? NaN : Number(typed))}
    />
  </div>
  <div class="line">
    <TextInput size="sm" hideLabel labelText="Name of the set" placeholder="Name of a set" bind:value={setName} />
    <Button size="small" kind="tertiary" on:click={() => (job.keepSet(setName), (setName = ''))}>Keep the selection</Button>
  </div>
  {#if job.sets.length > 0}
    <ul aria-label="Selection sets">
      {#each job.sets as set, i (set.part + set.name)}
        <li>
          <button class="plain" onclick={(e) => job.picked.takeSet(i, e.shiftKey)} title="Pick it; with Shift, add it">{set.name}</button>
          <button class="plain quiet" aria-label="Forget {set.name}" onclick={() => job.picked.dropSet(i)}>forget</button>
        </li>
      {/each}
    </ul>
  {/if}
</details>

<style>
  .line {
    display: flex;
    gap: 4px;
    align-items: center;
    margin-top: 6px;
  }
  .line > :global(:first-child) {
    flex: 1;
    min-width: 0;
  }
  .line :global(.bx--btn) {
    min-height: 28px;
    padding: 4px 10px;
    white-space: nowrap;
  }
  .line :global(.bx--text-input) {
    height: 28px;
  }
  ul {
    margin-top: 6px;
  }
  li {
    display: flex;
    justify-content: space-between;
    min-height: 24px;
  }
</style>
