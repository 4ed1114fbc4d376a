<script lang="ts">
  import { isEmpty, traitPicks } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';

  let { job }: { job: OpenJob } = $props();
  let traitId = $state(traitPicks[0].id);
  let setName = $state('');
  const trait = $derived(traitPicks.find((t) => t.id === traitId)!);
  let number = $derived(trait.number?.initial ?? 0);

  function pick(how: 'instead' | 'add') {
    const cage = job.active?.cage;
    if (!cage) return;
    const picked = trait.pick(cage, job.selection, number);
    if (isEmpty(picked)) return job.tell('info', `${trait.label}: this part has none.`);
    job.pickMany(picked, how);
  }

  function changeTurn(value: number) {
    job.view.mostTurn = Number.isFinite(value) && value > 0 ? Math.min(180, value) : 180;
    job.saveViewSoon();
  }
</script>

<details>
  <summary>Pick by trait, sets, loops</summary>
  <div class="line">
    <select aria-label="Trait" bind:value={traitId}>
      {#each traitPicks as t (t.id)}<option value={t.id}>{t.label}</option>{/each}
    </select>
    {#if trait.number}
      <input
        class="number"
        type="number"
        aria-label="Value of the trait"
        min={trait.number.min}
        max={trait.number.max}
        step={trait.number.step}
        bind:value={number}
      /><span class="quiet">{trait.number.unit}</span>
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
          <button class="plain" onclick={(e) => job.takeSet(i, e.shiftKey)} title="Pick it; with Shift, add it">{set.name}</button>
          <button class="plain quiet" aria-label="Forget {set.name}" onclick={() => job.dropSet(i)}>forget</button>
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
