<script lang="ts">
  import { Modal, OverflowMenu, OverflowMenuItem, TextInput } from 'carbon-components-svelte';
  import ChevronDown from 'carbon-icons-svelte/lib/ChevronDown.svelte';
  import { goto } from '$app/navigation';
  import { resolve } from '$app/paths';
  import { call } from '$lib/commands/registry.ts';
  import type { Workshop } from '$lib/commands/command.ts';
  import { exportStored } from '$lib/document/export-job.svelte.ts';

  /** The name of the job, and what can be done with the job as a whole. */
  let { workshop }: { workshop: Workshop } = $props();
  const job = $derived(workshop.job);
  let renaming = $state(false);
  let wished = $state('');

  async function exportJob() {
    try {
      await job.save();
      await exportStored(job.record.id);
    } catch (error) {
      job.tell('error', error instanceof Error ? error.message : String(error));
    }
  }
</script>

<div class="name">
  <strong title={job.name}>{job.name}</strong>
  <OverflowMenu size="sm" icon={ChevronDown} iconDescription="Job menu" aria-label="Job menu">
    <OverflowMenuItem text="Rename" disabled={job.lookingOn !== undefined} on:click={() => ((wished = job.name), (renaming = true))} />
    <OverflowMenuItem text="Export the job" on:click={exportJob} />
    <OverflowMenuItem text="Keys" on:click={() => call('keys', workshop)} />
    <OverflowMenuItem text="All jobs" hasDivider on:click={() => goto(resolve('/'))} />
  </OverflowMenu>
</div>

<Modal
  bind:open={renaming}
  modalHeading="Rename the job"
  primaryButtonText="Rename"
  secondaryButtonText="Cancel"
  size="xs"
  primaryButtonDisabled={wished.trim() === ''}
  on:click:button--secondary={() => (renaming = false)}
  on:submit={() => {
    job.rename(wished.trim());
    renaming = false;
  }}
>
  <TextInput labelText="Name" bind:value={wished} maxlength={200} />
</Modal>

<style>
  .name {
    display: flex;
    align-items: center;
    gap: 2px;
    min-width: 0;
  }
  strong {
    font-size: 14px;
    font-weight: 600;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    max-width: 190px;
  }
  .name :global(.bx--overflow-menu) {
    width: 30px;
    height: 30px;
    min-height: 0;
  }
</style>
