<script lang="ts">
  import { Button, ProgressBar } from 'carbon-components-svelte';
  import { reportInWords } from '@ulvrin/core';
  import { isOver, type BatchState, type FileState } from '$lib/batch/state.ts';
  import { changedWhen } from '../jobs/wall.ts';

  /** One batch: how far it is, and what came of each file. */
  let { batch, onsave, onremove }: { batch: BatchState; onsave: () => void; onremove: () => void } = $props();

  const over = $derived(batch.files.filter(isOver).length);
  const failed = $derived(batch.files.filter((f) => f.is === 'failed').length);
  const awaited = $derived(batch.files.filter((f) => f.is === 'awaited').length);
  const isWhole = $derived(over === batch.files.length);
  const said = $derived(
    [
      `${over - failed} of ${batch.files.length} done`,
      ...(failed > 0 ? [`${failed} failed`] : []),
      ...(awaited > 0 ? [`${awaited} not sent yet`] : [])
    ].join(', ')
  );

  const waits = { awaited: 'not sent yet', waiting: 'waits', running: 'being done' };
  const told = (file: FileState): string => (file.is === 'done' ? reportInWords(file.report) : file.is === 'failed' ? file.problem : waits[file.is]);
  const details = (file: FileState): string =>
    file.is === 'done' ? [...file.report.notes, ...file.report.losses, file.report.gravest ?? ''].filter(Boolean).join('\n') : '';
</script>

<section aria-label={batch.name}>
  <div class="head">
    <h3>{batch.name}</h3>
    <span class="quiet number">{changedWhen(batch.at)}</span>
  </div>
  <ProgressBar size="sm" labelText={said} value={over} max={batch.files.length} status={isWhole ? (failed > 0 ? 'error' : 'finished') : 'active'} />
  <ul>
    {#each batch.files as file (file.name)}
      <li class={file.is}>
        <span class="name" title={file.name}>{file.name}</span>
        <span class:quiet={file.is !== 'failed'} title={details(file)}>{told(file)}</span>
      </li>
    {/each}
  </ul>
  <div class="row">
    <Button size="small" kind="tertiary" disabled={over === failed} on:click={onsave}>Save what was made</Button>
    <Button size="small" kind={isWhole ? 'ghost' : 'danger-tertiary'} on:click={onremove}>{isWhole ? 'Remove' : 'Stop and remove'}</Button>
  </div>
</section>

<style>
  section {
    padding: 12px 16px 16px;
    border: 1px solid var(--line);
    border-radius: var(--corner);
  }
  .head {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    margin-bottom: 8px;
  }
  h3 {
    font-size: 14px;
    font-weight: 600;
    overflow-wrap: anywhere;
  }
  ul {
    max-height: 220px;
    margin: 12px 0;
    overflow: auto;
    font-size: 13px;
  }
  li {
    display: grid;
    grid-template-columns: minmax(120px, 1fr) 2fr;
    gap: 12px;
    padding: 3px 0;
    border-top: 1px solid var(--line);
  }
  .name {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .failed span + span {
    color: var(--brick);
  }
  .row {
    display: flex;
    gap: 8px;
  }
</style>
