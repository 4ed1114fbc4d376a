<script lang="ts">
  import {
    locksOf,
    operationById,
    regionList,
    savedMasks,
    selectFaces,
    selectVertices,
    type CageOperation,
    type Params,
    type Selection
  } from '@ulvrin/core';
  import type { ListProps } from './list.ts';

  let { job, onframe }: ListProps = $props();
  const cage = $derived(job.active?.cage);
  const regions = $derived(cage ? regionList(cage) : []);
  const locks = $derived(cage ? locksOf(cage) : []);
  const masks = $derived(cage ? savedMasks(cage) : []);
  const many = (n: number, what: string) => `${n.toLocaleString('en')} ${what}`;

  function show(picked: Selection, more: boolean) {
    job.pickMany(picked, more ? 'add' : 'instead');
    onframe();
  }
  function begin(id: string, params: Params, picked?: Selection) {
    if (picked) job.pickMany(picked, 'instead');
    job.start(operationById(id) as CageOperation);
    job.setParams(params);
  }
</script>

{#snippet entry(name: string, count: string, picked: Selection, act: string, label: string, run: () => void)}
  <li>
    <button class="plain" title="Pick and frame it (Shift adds)" onclick={(e) => show(picked, e.shiftKey)}
      >{name} <span class="quiet number">{count}</span></button
    >
    <button class="plain act" aria-label={label} onclick={run}>{act}</button>
  </li>
{/snippet}

{#if regions.length + locks.length + masks.length === 0}
  <p class="quiet nothing">No regions, locks or saved masks. Set region, Lock and Set mask make them.</p>
{/if}
{#if regions.length > 0}
  <ul class="things" aria-label="Regions">
    {#each regions as { id, name, faces } (id)}
      {@render entry(name, many(faces.length, 'faces'), selectFaces(faces), 'Rename', `Rename ${name}`, () =>
        begin('set-region', { by: 'name' }, selectFaces(faces))
      )}
    {/each}
  </ul>
{/if}
{#if locks.length > 0}
  <ul class="things" aria-label="Locks">
    {#each locks as { id, kind, vertices } (id)}
      {@render entry(`held ${kind}`, many(vertices.length, 'vertices'), selectVertices(vertices), 'Unlock', `Unlock what is held ${kind}`, () =>
        begin('lock', { held: 'free' }, selectVertices(vertices))
      )}
    {/each}
  </ul>
{/if}
{#if masks.length > 0}
  <ul class="things" aria-label="Saved masks">
    {#each masks as name (name)}
      <li>
        <span>{name} <span class="quiet">mask</span></span>
        <button class="plain act" aria-label="Use the mask {name}" onclick={() => begin('set-mask', { by: 'saved', name })}>Use</button>
      </li>
    {/each}
  </ul>
{/if}
