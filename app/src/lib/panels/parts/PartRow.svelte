<script lang="ts">
  import { OverflowMenu, OverflowMenuItem } from 'carbon-components-svelte';
  import Draggable from 'carbon-icons-svelte/lib/Draggable.svelte';
  import Locked from 'carbon-icons-svelte/lib/Locked.svelte';
  import TrashCan from 'carbon-icons-svelte/lib/TrashCan.svelte';
  import View from 'carbon-icons-svelte/lib/View.svelte';
  import ViewOff from 'carbon-icons-svelte/lib/ViewOff.svelte';
  import { bringInFile, type Part } from '@ulvrin/core';
  import { moveToLayer } from '$lib/job/layers.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import type { OwnLook } from '$lib/job/view.ts';

  /** One part in the list: shown or not, worked on, and what its menu does. */
  let { job, part, onrename }: { job: OpenJob; part: Part; onrename: () => void } = $props();
  const hidden = $derived(job.hidden.includes(part.id));
  const isBroughtIn = $derived(job.entries.some(({ part: id, operation }) => id === part.id && operation === bringInFile.id));
  const other = $derived(part.kind === 'cage' ? 'reference' : 'cage');
  const locked = $derived(job.document.locked.includes(part.id));
  const { layers } = $derived(job.document);
  const own = $derived(layers.find(({ parts }) => parts.includes(part.id)));

  /** Ways to show one part, whatever the title block says. */
  const LOOKS: { text: string; look: OwnLook | undefined }[] = [
    { text: 'As all others', look: undefined },
    { text: 'Cage alone', look: { cage: true, smooth: false } },
    { text: 'Smooth alone', look: { cage: false, smooth: true } },
    { text: 'Cage and smooth', look: { cage: true, smooth: true } },
    ...[1, 2, 3, 4].map((level) => ({ text: `Smooth at level ${level}`, look: { cage: false, smooth: true, level } }))
  ];
  function lookAs(id: string, look: OwnLook | undefined) {
    const { [id]: _before, ...others } = job.view.own;
    job.view.own = look ? { ...others, [id]: look } : others;
    job.saveViewSoon();
  }
</script>

<div class="row" class:active={part.id === job.view.activePart}>
  <span class="grip" title="Drag it to another layer"><Draggable /></span>
  <button class="plain" title={hidden ? 'Show' : 'Hide'} aria-label="{hidden ? 'Show' : 'Hide'} {part.name}" onclick={() => job.toggleHidden(part)}>
    {#if hidden}<ViewOff />{:else}<View />{/if}
  </button>
  <button
    class="plain name"
    disabled={part.kind === 'reference'}
    title={part.kind === 'cage' ? 'Work on this part' : 'A reference'}
    onclick={() => job.workOn(part)}
    >{#if locked}<Locked aria-label="locked" />{/if}{part.name}{#if job.view.own[part.id]}<span class="quiet"> (own look)</span>{/if}</button
  >
  <span class="quiet number"
    >{part.kind === 'cage'
      ? `${part.cage!.faceCount.toLocaleString('en')} faces`
      : `reference, ${(part.mesh!.faceStart.length - 1).toLocaleString('en')}`}</span
  >
  <OverflowMenu flipped size="sm" direction="top" iconDescription="How {part.name} is shown" aria-label="How {part.name} is shown">
    <OverflowMenuItem text={locked ? 'Unlock' : 'Lock'} on:click={() => job.document.toggleLocked(part)} />
    <OverflowMenuItem text="Alone, or all" on:click={() => job.document.solo(part)} />
    <OverflowMenuItem text="Rename" on:click={onrename} />
    {#if isBroughtIn}<OverflowMenuItem text="Use as a {other}" on:click={() => job.document.useAs(part, other)} />{/if}
    {#each layers.filter((l) => l !== own) as layer (layer.name)}
      <OverflowMenuItem text="To {layer.name}" on:click={() => moveToLayer(job.document, part.id, layer)} />
    {/each}
    {#if own}<OverflowMenuItem text="Out of {own.name}" on:click={() => moveToLayer(job.document, part.id, undefined)} />{/if}
    {#each LOOKS as { text, look }, i (text)}
      <OverflowMenuItem {text} hasDivider={i === 0} disabled={part.kind === 'reference'} on:click={() => lookAs(part.id, look)} />
    {/each}
  </OverflowMenu>
  <button class="plain" title="Remove this part (undo brings it back)" aria-label="Remove {part.name}" onclick={() => job.removePart(part.id)}
    ><TrashCan /></button
  >
</div>

<style>
  .row {
    display: grid;
    grid-template-columns: 16px 24px minmax(0, 1fr) auto 26px 24px;
    min-height: 26px;
    align-items: center;
  }
  .active {
    background: var(--picked);
    box-shadow: inset 3px 0 0 var(--cobalt);
  }
  .row :global(.bx--overflow-menu) {
    width: 26px;
    height: 24px;
    min-height: 0;
  }
  .grip {
    color: var(--soft);
    cursor: grab;
  }
  .name {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .name:disabled {
    cursor: default;
    text-decoration: none;
  }
</style>
