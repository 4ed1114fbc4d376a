<script lang="ts">
  import { OverflowMenu, OverflowMenuItem } from 'carbon-components-svelte';
  import Locked from 'carbon-icons-svelte/lib/Locked.svelte';
  import View from 'carbon-icons-svelte/lib/View.svelte';
  import ViewOff from 'carbon-icons-svelte/lib/ViewOff.svelte';
  import type { Layer } from '@ulvrin/core';
  import { changeLayer, removeLayer, soloLayer, toggleLayer } from '$lib/job/layers.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';

  /** The head of a layer: its colour, whether it is shown, and what its menu does. */
  let { job, layer, ontake, onrename }: { job: OpenJob; layer: Layer; ontake: (() => void) | undefined; onrename: () => void } = $props();
  const isHidden = $derived(layer.parts.length > 0 && layer.parts.every((id) => job.hidden.includes(id)));
  const isLocked = $derived(layer.parts.length > 0 && layer.parts.every((id) => job.document.locked.includes(id)));
</script>

<div class="head">
  <button class="plain" aria-label="{isHidden ? 'Show' : 'Hide'} {layer.name}" onclick={() => toggleLayer(job.document, layer, 'hidden')}
    >{#if isHidden}<ViewOff />{:else}<View />{/if}</button
  >
  <input
    type="color"
    aria-label="Colour of {layer.name}"
    value={layer.colour ?? '#cbd5d8'}
    onchange={(e) => changeLayer(job.document, layer, { colour: e.currentTarget.value })}
  />
  <strong
    >{#if isLocked}<Locked aria-label="locked" />{/if}{layer.name}</strong
  >
  <OverflowMenu flipped size="sm" direction="top" iconDescription="Menu of {layer.name}" aria-label="Menu of {layer.name}">
    <OverflowMenuItem text={isLocked ? 'Unlock' : 'Lock'} on:click={() => toggleLayer(job.document, layer, 'locked')} />
    <OverflowMenuItem text="Alone, or all" on:click={() => soloLayer(job.document, layer)} />
    <OverflowMenuItem text="Move picked faces here" disabled={!ontake} on:click={() => ontake?.()} />
    <OverflowMenuItem text="Rename" on:click={onrename} />
    <OverflowMenuItem danger text="Remove the layer" on:click={() => removeLayer(job.document, layer)} />
  </OverflowMenu>
</div>

<style>
  .head {
    display: grid;
    grid-template-columns: 24px 22px minmax(0, 1fr) 26px;
    gap: 4px;
    align-items: center;
    min-height: 26px;
    padding: 0 8px;
    font-size: 12px;
    border-top: 1px solid var(--line);
  }
  .head :global(.bx--overflow-menu) {
    width: 26px;
    height: 24px;
    min-height: 0;
  }
  input {
    width: 20px;
    height: 20px;
    padding: 0;
    border: 1px solid var(--line);
    background: none;
  }
  strong {
    font-weight: 600;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
</style>
