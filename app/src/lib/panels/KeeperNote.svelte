<script lang="ts">
  import { resolve } from '$app/paths';
  import { goto } from '$app/navigation';
  import { Button } from 'carbon-components-svelte';
  import { exportJob, keepAsNew } from '$lib/document/export-job.svelte.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { restoreJob } from '$lib/platform/storage/job-store.ts';

  /** Says why this page cannot change its job, and what can be done; nothing where it can. */
  let { job }: { job: OpenJob } = $props();

  const { keeper } = $derived(job);
  let busy = $state(false);

  async function doing(work: () => Promise<unknown>) {
    busy = true;
    try {
      await work();
    } catch (error) {
      job.tell('error', error instanceof Error ? error.message : String(error));
    } finally {
      busy = false;
    }
  }
  const asNew = () => doing(async () => goto(resolve('/job/[id]', { id: await keepAsNew(job) })));
</script>

{#if keeper.saving.is === 'lost'}
  <div class="note" role="alert">
    {#if keeper.saving.to === 'the trash'}
      <span>This job was deleted. It is in the trash on the jobs page, and nothing is written to it.</span>
      <Button size="small" disabled={busy} on:click={() => doing(async () => (await restoreJob(job.record.id), keeper.resume()))}>Restore it</Button>
    {:else}
      <span>Another tab has changed this job. What you see here is not saved.</span>
      <Button size="small" disabled={busy} on:click={() => doing(() => keeper.reload())}>Show what is there now</Button>
    {/if}
    <Button size="small" kind="tertiary" disabled={busy} on:click={asNew}>Keep this as a new job</Button>
  </div>
{:else if !keeper.holds}
  <div class="note" role="status">
    <span>This job is open in another tab. Its changes are shown here.</span>
    <Button size="small" disabled={busy} on:click={() => doing(() => keeper.takeOver())}>Take over</Button>
  </div>
{:else if keeper.saving.is === 'failed'}
  <div class="note" role="alert">
    <span
      >{keeper.saving.full
        ? 'The browser’s storage is full: your last changes are not saved. Empty the trash or delete jobs to free room; they are saved automatically then.'
        : `Your last changes are not saved yet (${keeper.saving.why.replace(/\.$/, '')}). Saving is tried again automatically.`}</span
    >
    <Button size="small" disabled={busy} on:click={() => doing(() => keeper.save())}>Try again</Button>
    <Button size="small" kind="tertiary" on:click={() => exportJob(job)}>Export the job</Button>
    {#if keeper.saving.full}<Button size="small" kind="tertiary" href={resolve('/')} target="_blank">Free room</Button>{/if}
  </div>
{/if}

<style>
  .note {
    pointer-events: auto;
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
    padding: 8px 12px;
    background: var(--panel);
    border: 1px solid var(--line);
    border-left: 4px solid var(--brick);
    font-size: 13px;
  }
  .note span {
    flex: 1 1 100%;
  }
</style>
