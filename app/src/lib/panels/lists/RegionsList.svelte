<script lang="ts">
  import { operationById, regionList, selectFaces, type CageOperation } from '@ulvrin/core';
  import type { ListProps } from './list.ts';

  let { job, onframe }: ListProps = $props();
  const shown = $derived(job.active?.cage ? regionList(job.active.cage) : []);
  const setRegion = operationById('set-region') as CageOperation;

  function show(faces: readonly number[], more: boolean) {
    job.pickMany(selectFaces(faces), more ? 'add' : 'instead');
    onframe();
  }
  function change(faces: readonly number[]) {
    job.pickMany(selectFaces(faces), 'instead');
    job.start(setRegion);
    job.setParams({ by: 'name' });
  }
</script>

{#if shown.length > 0}
  <ul class="things" aria-label="Regions">
    {#each shown as { id, name, faces } (id)}
      <li>
        <button class="plain" title="Pick and frame it (Shift adds)" onclick={(e) => show(faces, e.shiftKey)}
          >{name} <span class="quiet number">{faces.length.toLocaleString('en')} faces</span></button
        >
        <button class="plain act" aria-label="Rename {name}" onclick={() => change(faces)}>Rename</button>
      </li>
    {/each}
  </ul>
{:else}
  <p class="quiet nothing">No regions. Set region makes them of picks, panels or pieces; Paint region by hand.</p>
{/if}
