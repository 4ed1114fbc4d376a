<script lang="ts">
  import Checkmark from 'carbon-icons-svelte/lib/Checkmark.svelte';
  import ChevronUp from 'carbon-icons-svelte/lib/ChevronUp.svelte';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { standColours, theme } from '$lib/settings/theme.svelte.ts';
  import { laysOn } from '../gestures/lay.ts';
  import { cageOverlays } from '../marks/registry.ts';
  import Raised from './Raised.svelte';

  /** All marks with a switch each: the list is their legend, and tells how many there are. */
  let { job }: { job: OpenJob } = $props();
  const on = $derived(cageOverlays.filter(({ id }) => job.view.overlays[id]));
  const colours = $derived(theme.night ? standColours.night : standColours.light);

  function seeThrough(field: HTMLInputElement) {
    const mm = field.valueAsNumber;
    // what is no depth is put back
    if (mm >= 0 && mm <= 1e6) job.view.seeThrough = mm;
    else field.value = String(job.view.seeThrough);
    job.saveViewSoon();
  }

  function toggle(id: string) {
    job.view.overlays[id] = !job.view.overlays[id];
    job.saveViewSoon();
  }
</script>

<Raised title="Marks over the part" sheet="Overlays">
  {#snippet head()}
    <span class="quiet">marks</span>
    <span class="which">{on.length > 0 ? on.map(({ label }) => label).join(', ') : 'none'}</span>
    <ChevronUp />
  {/snippet}
  {#each cageOverlays as { id, label, help, colour, count } (id)}
    {@const many = job.active?.cage && count?.(job.active.cage)}
    <button class="row marked" aria-label={label} aria-pressed={job.view.overlays[id]} title={help} onclick={() => toggle(id)}>
      <span class="tick"
        >{#if job.view.overlays[id]}<Checkmark />{/if}</span
      >
      <span class="sample" style="background:{colours[colour]}"></span>
      <span class="label">{label}</span>
      {#if many !== undefined}<span class="number quiet">{many.toLocaleString('en')}</span>{/if}
    </button>
  {/each}
  {#if laysOn(job)}
    <label class="depth" title="What is laid is seen, and picked, so far inside the reference; 0: as far as drawing needs">
      <span class="label">seen inside it, mm</span>
      <input type="number" class="number" min="0" step="0.5" value={job.view.seeThrough} onchange={(e) => seeThrough(e.currentTarget)} />
    </label>
  {/if}
</Raised>

<style>
  .which {
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    text-align: left;
  }
  .depth {
    display: flex;
    align-items: center;
    justify-content: space-between;
    padding: 3px 8px;
  }
  .depth input {
    width: 64px;
    background: var(--field);
    color: inherit;
    border: 1px solid var(--line);
    border-radius: 3px;
    height: 24px;
  }
  .sample {
    width: 14px;
    height: 10px;
    border-radius: 2px;
  }
</style>
