<script lang="ts">
  import { isEmpty, finds } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';

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

<details>
  <summary>Find and pick, sets, loops</summary>
  <div class="line">
    <select aria-label="What to find" bind:value={findId}>
      {#each finds as t (t.id)}<option value={t.id}>{t.label}</option>{/each}
    </select>
    {#if find.number}
      <input
        class="number"
        type="number"
        aria-label="Number to find by"
        min={find.number.min}
        max={find.number.max}
        step={find.number.step}
        bind:value={number}
      /><span class="quiet">{find.number.unit}</span>
    {/if}
    <button onclick={() => pick('instead')}>Pick</button>
    <button onclick={() => pick('add')}>Add</button>
  </div>
  <div class="line">
    <label
      >Loops stop at turns over <input
        class="number"
        type="number"
        min="1"
        max="180"
        step="5"
        value={job.view.mostTurn}
        onchange={(e) => changeTurn(e.currentTarget.valueAsNumber)}
      /> °</label
    >
  </div>
  <div class="line">
    <input aria-label="Name of the set" placeholder="Name of a set" bind:value={setName} />
    <button onclick={() => (job.keepSet(setName), (setName = ''))}>Keep the selection</button>
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
  details {
    border-top: 1px solid var(--line);
    margin-top: 8px;
    padding-top: 6px;
    font-size: 12px;
  }
  summary {
    cursor: pointer;
  }
  .line {
    display: flex;
    gap: 4px;
    align-items: center;
    margin-top: 6px;
  }
  select {
    flex: 1;
    min-width: 0;
  }
  select,
  input,
  .line button {
    height: 24px;
    border: 1px solid var(--line);
    background: var(--paper);
    color: inherit;
    font: inherit;
    padding: 0 6px;
  }
  .line button {
    cursor: pointer;
  }
  input[type='number'] {
    width: 56px;
  }
  input:not([type='number']) {
    flex: 1;
    min-width: 0;
  }
  ul {
    margin-top: 6px;
  }
  li {
    display: flex;
    justify-content: space-between;
  }
</style>
