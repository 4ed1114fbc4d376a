<script lang="ts">
  import { OverflowMenu, OverflowMenuItem } from 'carbon-components-svelte';
  import ChevronDown from 'carbon-icons-svelte/lib/ChevronDown.svelte';
  import { goto } from '$app/navigation';
  import { resolve } from '$app/paths';
  import { call } from '$lib/commands/registry.ts';
  import type { Workshop } from '$lib/commands/command.ts';
  import RenameDialog from '../RenameDialog.svelte';
  import { exportJob } from '$lib/document/export-job.svelte.ts';

  /** The name of the job, and what can be done with the job as a whole. */
  let { workshop }: { workshop: Workshop } = $props();
  const job = $derived(workshop.job);
  let renaming = $state(false);
</script>

<div class="name">
  <strong title={job.name}>{job.name}</strong>
  <OverflowMenu size="sm" icon={ChevronDown} iconDescription="Job menu" aria-label="Job menu">
    <OverflowMenuItem text="Rename" disabled={job.lookingOn !== undefined} on:click={() => (renaming = true)} />
    <OverflowMenuItem text="Export the job" on:click={() => exportJob(job)} />
    <OverflowMenuItem text="Versions" on:click={() => call('versions', workshop)} />
    <OverflowMenuItem text="Spares" on:click={() => call('spares', workshop)} />
    <OverflowMenuItem text="Routines" on:click={() => call('routines', workshop)} />
    <OverflowMenuItem text="Done when" disabled={job.lookingOn !== undefined} on:click={() => call('done-when', workshop)} />
    <OverflowMenuItem text="Settings" on:click={() => call('settings', workshop)} />
    <OverflowMenuItem text="Keys" on:click={() => call('keys', workshop)} />
    <OverflowMenuItem text="All jobs" hasDivider on:click={() => goto(resolve('/'))} />
  </OverflowMenu>
</div>

<RenameDialog name={renaming ? job.name : undefined} onclose={() => (renaming = false)} onrename={(name) => job.rename(name)} />

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
