<script lang="ts">
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import type { Deviations } from '$lib/tasks/task.worker.ts';
  import Card from './card/Card.svelte';
  import FailureNote from './FailureNote.svelte';
  import LogbookPanel from './LogbookPanel.svelte';
  import PartsPanel from './PartsPanel.svelte';
  import Readings from './Readings.svelte';

  let { job, deviations, onframe }: { job: OpenJob; deviations: Deviations | undefined; onframe: () => void } = $props();

  const tabs = [
    { id: 'logbook', label: 'Logbook', panel: LogbookPanel },
    { id: 'parts', label: 'Parts', panel: PartsPanel }
  ] as const;
  const tab = $derived(tabs.find(({ id }) => id === job.view.panel) ?? tabs[0]);
</script>

<div class="right" class:working={job.running !== undefined}>
  <svelte:boundary onerror={(error) => console.error(error)}>
    <div class="card"><Card {job} {onframe} /></div>
    <div class="readings"><Readings {job} {deviations} /></div>
    {#snippet failed(error, again)}<FailureNote what="These panels have failed." {error} {job} {again} />{/snippet}
  </svelte:boundary>
  <div class="book">
    <div class="tabs" role="tablist">
      {#each tabs as { id, label } (id)}
        <button role="tab" aria-selected={tab.id === id} onclick={() => (job.view.panel = id)}>{label}</button>
      {/each}
    </div>
    <tab.panel {job} />
  </div>
</div>

<style>
  .right {
    display: grid;
    grid-template-rows: minmax(150px, 41%) minmax(140px, 1fr) 21%;
    height: 100%;
    background: var(--panel);
  }
  /** a running operation has its fields, its ways and its forecast on the card */
  .working {
    grid-template-rows: minmax(150px, 56%) minmax(120px, 1fr) 15%;
  }
  .right > div {
    border-bottom: 1px solid var(--line);
    min-height: 0;
    overflow-y: auto;
  }
  .tabs {
    display: flex;
    position: sticky;
    top: 0;
    background: var(--panel);
  }
  .tabs button {
    flex: 1;
    border: 0;
    border-bottom: 2px solid transparent;
    background: none;
    color: inherit;
    font: inherit;
    font-size: 13px;
    padding: 4px;
    cursor: pointer;
  }
  .tabs [aria-selected='true'] {
    border-bottom-color: var(--cobalt);
    font-weight: 600;
  }
</style>
