<script lang="ts">
  import { differenceInWords } from '@ulvrin/core';
  import { changedWhen } from '../jobs/wall.ts';
  import type { ListProps } from './list.ts';

  let { job }: ListProps = $props();
  const records = $derived(job.view.deliveries);
</script>

{#if records.length === 0}
  <p class="quiet none">Nothing was delivered yet. What you save is listed here with its checksum, what was lost, and how far off it is.</p>
{:else}
  <p class="quiet none">{records.length} sent; B saves the sheet as a page.</p>
  <ul aria-label="Deliveries">
    {#each records.toReversed() as record (record.at)}
      <li>
        <strong>{record.file}</strong>
        <span class="quiet">{changedWhen(record.at)}</span>
        <div>{record.part}: {record.what}, {record.faces.toLocaleString('en')} faces{record.destination ? `, for ${record.destination}` : ''}</div>
        {#if record.destination}<div class="number">off there: {differenceInWords(record)}</div>{/if}
        {#each record.losses as sentence, i (i)}<div class="quiet">{sentence}</div>{/each}
        <div class="number quiet" title="SHA-256: {record.sha256}">{record.sha256.slice(0, 16)}…</div>
      </li>
    {/each}
  </ul>
{/if}

<style>
  .none {
    padding: 6px 12px;
    font-size: 12px;
  }
  li {
    padding: 6px 12px;
    border-top: 1px solid var(--line);
    font-size: 12px;
    line-height: 1.4;
  }
</style>
