<script lang="ts">
  import Checkmark from 'carbon-icons-svelte/lib/Checkmark.svelte';
  import Compare from 'carbon-icons-svelte/lib/Compare.svelte';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { dividedInto, PANES, panesOf } from '../panes.ts';
  import Raised from './Raised.svelte';

  /** How the stand is divided. */
  let { job }: { job: OpenJob } = $props();
  const now = $derived(panesOf(job.view));
</script>

<div class="icon-cell">
  <Raised name="panes" title="Panes: compare versions, or look from several sides" sheet="Panes">
    {#snippet head()}<Compare />{/snippet}
    {#snippet children(close)}
      {#each PANES as panes (panes.id)}
        <button
          class="row"
          aria-pressed={panes === now}
          onclick={() => {
            Object.assign(job.view, dividedInto(panes));
            job.saveViewSoon();
            close();
          }}
          ><span class="tick"
            >{#if panes === now}<Checkmark />{/if}</span
          >{panes.label}</button
        >
      {/each}
    {/snippet}
  </Raised>
</div>

<style>
  .icon-cell {
    display: flex;
    width: 26px;
  }
  .icon-cell :global(.head svg) {
    margin: 0 5px;
  }
  .icon-cell :global(.sheet) {
    right: -52px;
  }
</style>
