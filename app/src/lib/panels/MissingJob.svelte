<script lang="ts">
  import { resolve } from '$app/paths';
  import type { Missing } from '$lib/job/open-stored.ts';
  import { Button, InlineNotification } from 'carbon-components-svelte';
  import { restoreJob } from '$lib/platform/storage/job-store.ts';
  import { describeClosed } from '$lib/platform/storage/storage-state.ts';
  import FailureNote from './FailureNote.svelte';

  let { why, error, id }: Missing & { id: string } = $props();

  const said = $derived(
    {
      closed: ['The job could not be read.', describeClosed(error)],
      deleted: ['This job is in the trash.', 'It was deleted, and can be restored.'],
      unknown: [
        'This job is not in this browser.',
        'It was deleted for good, or made in another browser: export it there to a file and bring that in here.'
      ],
      failed: ['This job could not be opened.', '']
    }[why]
  );
</script>

{#if why === 'failed'}
  <FailureNote what={said[0]} {error} {id} />
{:else}
  <div class="missing">
    <InlineNotification kind="error" lowContrast hideCloseButton title={said[0]} subtitle={said[1]} />
    {#if why === 'deleted'}<Button size="small" on:click={() => restoreJob(id).then(() => location.reload())}>Restore it</Button>{/if}
    <a href={resolve('/')}>To the jobs</a>
  </div>
{/if}

<style>
  .missing {
    padding: 32px;
  }
</style>
