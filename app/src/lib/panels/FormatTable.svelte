<script lang="ts">
  import Checkmark from 'carbon-icons-svelte/lib/Checkmark.svelte';
  import { besides, formats, type Format, type PolygonMesh } from '@ulvrin/core';

  /** What each format carries of a mesh, and what is lost of it. */
  let { mesh, chosen }: { mesh: PolygonMesh; chosen: readonly Format[] } = $props();
  const carried = $derived(besides(mesh));
  const has = $derived(carried.filter(({ count }) => count > 0));
</script>

<table aria-label="What is carried">
  <thead>
    <tr>
      <th>Format</th>
      {#each has as { key, name, count } (key)}<th>{count.toLocaleString('en')} {name}</th>{/each}
      <th>numbers exact</th>
      <th>units</th>
    </tr>
  </thead>
  <tbody>
    {#each formats as format (format.id)}
      {@const { carries } = format}
      <tr class:chosen={chosen.includes(format)} title={format.othersSee}>
        <th>{format.short}</th>
        {#each [...has.map(({ key }) => carries[key]), carries.exactNumbers, carries.units] as kept, i (i)}
          <td
            >{#if kept}<Checkmark aria-label="kept" />{:else}<span class="lost">{i < has.length ? 'lost' : 'no'}</span>{/if}</td
          >
        {/each}
      </tr>
    {/each}
  </tbody>
</table>
{#each formats.filter((f) => f.othersSee) as { short, othersSee } (short)}<p class="quiet">{short}: {othersSee}</p>{/each}

<style>
  table {
    width: 100%;
    margin: 8px 0;
    font-size: 12px;
  }
  th,
  td {
    padding: 3px 6px 3px 0;
    border-bottom: 1px solid var(--line);
    text-align: left;
  }
  thead th {
    font-weight: 400;
    color: var(--soft);
    vertical-align: bottom;
  }
  .chosen {
    background: var(--picked);
  }
  .lost {
    color: var(--brick);
  }
</style>
