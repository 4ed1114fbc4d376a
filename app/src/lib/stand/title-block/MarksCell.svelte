<script lang="ts">
  import Checkmark from 'carbon-icons-svelte/lib/Checkmark.svelte';
  import ChevronUp from 'carbon-icons-svelte/lib/ChevronUp.svelte';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { standColours, theme } from '$lib/settings/theme.svelte.ts';
  import { cageOverlays } from '../marks/registry.ts';

  /** All marks with a switch each: the list is their legend, and tells how many there are. */
  let { job }: { job: OpenJob } = $props();
  let open = $state(false);
  let host: HTMLDivElement | undefined = $state();
  const on = $derived(cageOverlays.filter(({ id }) => job.view.overlays[id]));
  const colours = $derived(theme.night ? standColours.night : standColours.light);

  function toggle(id: string) {
    job.view.overlays[id] = !job.view.overlays[id];
    job.saveViewSoon();
  }
</script>

<svelte:window onpointerdowncapture={(e) => open && !host?.contains(e.target as Node) && (open = false)} />

<div class="cell" bind:this={host}>
  <button class="head" aria-expanded={open} aria-controls="marks" title="Marks over the part" onclick={() => (open = !open)}>
    <span class="quiet">marks</span>
    <span class="which">{on.length > 0 ? on.map(({ label }) => label).join(', ') : 'none'}</span>
    <ChevronUp />
  </button>
  {#if open}
    <!-- escape closes the list, wherever in it the focus is -->
    <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
    <div
      id="marks"
      class="list raised"
      role="group"
      aria-label="Overlays"
      onkeydown={(e) => {
        if (e.key !== 'Escape') return;
        e.stopPropagation();
        open = false;
        host?.querySelector('button')?.focus();
      }}
    >
      {#each cageOverlays as { id, label, help, colour, count } (id)}
        {@const many = job.active?.cage && count?.(job.active.cage)}
        <button aria-label={label} aria-pressed={job.view.overlays[id]} title={help} onclick={() => toggle(id)}>
          <span class="tick"
            >{#if job.view.overlays[id]}<Checkmark />{/if}</span
          >
          <span class="sample" style="background:{colours[colour]}"></span>
          <span class="label">{label}</span>
          {#if many !== undefined}<span class="number quiet">{many.toLocaleString('en')}</span>{/if}
        </button>
      {/each}
    </div>
  {/if}
</div>

<style>
  .cell {
    position: relative;
    flex: 1;
    min-width: 0;
  }
  .head {
    display: flex;
    align-items: center;
    gap: 6px;
    width: 100%;
    height: 24px;
    border: 0;
    background: none;
    color: inherit;
    font: inherit;
    padding: 0;
    cursor: pointer;
  }
  .which {
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    text-align: left;
  }
  .head :global(svg) {
    flex: none;
    margin-right: 4px;
  }
  .list {
    position: absolute;
    right: 0;
    bottom: 30px;
    width: 190px;
    padding: 4px;
    z-index: 5;
  }
  .list button {
    display: grid;
    grid-template-columns: 16px 14px 1fr auto;
    align-items: center;
    gap: 8px;
    width: 100%;
    min-height: 26px;
    border: 0;
    border-radius: 3px;
    background: none;
    color: inherit;
    font: inherit;
    text-align: left;
    cursor: pointer;
  }
  .list button:hover {
    background: var(--hover);
  }
  .tick {
    display: grid;
  }
  .sample {
    width: 14px;
    height: 10px;
    border-radius: 2px;
  }
</style>
