<script lang="ts">
  import { Button } from 'carbon-components-svelte';
  import { isEmpty, type Layer, type Part } from '@ulvrin/core';
  import { addLayer, changeLayer, moveToLayer, partsByLayer } from '$lib/job/layers.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import RenameDialog from '../RenameDialog.svelte';
  import LayerHead from './LayerHead.svelte';
  import PartRows from './PartRows.svelte';

  /** The parts of a job by their layers; they are dragged from one to another. */
  let { job }: { job: OpenJob } = $props();
  const groups = $derived(partsByLayer(job.document));
  let renaming: { part: Part } | { layer: Layer } | undefined = $state.raw();

  /** Makes a part of picked faces, in a layer. */
  function take(layer: Layer) {
    const before = new Set(job.parts.map(({ id }) => id));
    const part = job.active!.id;
    const selection = $state.snapshot(job.selection);
    if (!job.rework((logbook) => logbook.add({ operation: 'separate', part, params: {}, selection }))) return;
    for (const { id } of job.parts.filter((p) => !before.has(p.id)))
      moveToLayer(
        job.document,
        id,
        job.document.layers.find((l) => l.name === layer.name)
      );
  }
  function rename(name: string) {
    if (!renaming) return;
    if ('part' in renaming) job.document.renamePart(renaming.part.id, name);
    else changeLayer(job.document, renaming.layer, { name });
    renaming = undefined;
  }
</script>

{#each groups as { layer, parts } (layer?.name)}
  {#if layer}
    <LayerHead {job} {layer} ontake={isEmpty(job.selection) ? undefined : () => take(layer)} onrename={() => (renaming = { layer })} />
  {:else if groups.length > 1 && parts.length > 0}<p class="quiet">In no layer</p>{/if}
  <PartRows
    {job}
    {parts}
    label={layer?.name ?? 'Parts'}
    onrename={(part) => (renaming = { part })}
    onmove={(id, at) => moveToLayer(job.document, id, layer && job.document.layers.find((l) => l.name === layer.name), at)}
  />
{/each}
{#if job.parts.length === 0}<p class="quiet">No parts yet.</p>
{:else}<Button kind="ghost" size="small" on:click={() => addLayer(job.document)}>New layer</Button>{/if}

<RenameDialog
  what={renaming && 'layer' in renaming ? 'layer' : 'part'}
  name={renaming && ('part' in renaming ? renaming.part.name : renaming.layer.name)}
  onclose={() => (renaming = undefined)}
  onrename={rename}
/>

<style>
  p {
    padding: 4px 16px 0;
    font-size: 12px;
  }
</style>
