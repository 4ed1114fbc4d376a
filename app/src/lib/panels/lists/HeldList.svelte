<script lang="ts">
  import { locksOf, operationById, savedMasks, selectVertices, type CageOperation, type Params } from '@ulvrin/core';
  import type { ListProps } from './list.ts';

  let { job, onframe }: ListProps = $props();
  const locks = $derived(job.active?.cage ? locksOf(job.active.cage) : []);
  const masks = $derived(job.active?.cage ? savedMasks(job.active.cage) : []);

  function show(vertices: readonly number[], more: boolean) {
    job.pickMany(selectVertices(vertices), more ? 'add' : 'instead');
    onframe();
  }
  function begin(id: string, params: Params) {
    job.start(operationById(id) as CageOperation);
    job.setParams(params);
  }
  function unlock(vertices: readonly number[]) {
    job.pickMany(selectVertices(vertices), 'instead');
    begin('lock', { held: 'free' });
  }
</script>

{#if locks.length + masks.length > 0}
  <ul class="things" aria-label="Locks and saved masks">
    {#each locks as { id, kind, vertices } (id)}
      <li>
        <button class="plain" title="Pick and frame it (Shift adds)" onclick={(e) => show(vertices, e.shiftKey)}
          >held {kind} <span class="quiet number">{vertices.length.toLocaleString('en')} vertices</span></button
        >
        <button class="plain act" aria-label="Unlock what is held {kind}" onclick={() => unlock(vertices)}>Unlock</button>
      </li>
    {/each}
    {#each masks as name (name)}
      <li>
        <span>{name} <span class="quiet">mask</span></span>
        <button class="plain act" aria-label="Use the mask {name}" onclick={() => begin('set-mask', { by: 'saved', name })}>Use</button>
      </li>
    {/each}
  </ul>
{:else}
  <p class="quiet nothing">Nothing is locked, and no mask is saved.</p>
{/if}
