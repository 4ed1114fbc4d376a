<script lang="ts">
  import { onMount } from 'svelte';
  import Choice from '../Choice.svelte';
  import type { JobRecord } from '$lib/platform/storage/database.ts';
  import { describeRoom, dueForExport, isNearlyFull, remindAfter, reminderDays, reminders, type Room } from '$lib/platform/storage/storage-state.ts';

  /** How much room jobs take, whether the browser keeps them, and which are due to be exported. */
  let { jobs, room, onask, onexport }: { jobs: JobRecord[]; room: Room | undefined; onask: () => void; onexport: (id: string) => void } = $props();

  let days = $state(0);
  onMount(() => (days = reminderDays()));
  const due = $derived(dueForExport(jobs, days));
</script>

{#if room}
  <div class="quiet room" class:full={isNearlyFull(room)}>
    {describeRoom(room)}
    {#if !room.kept}<button class="plain" onclick={onask}>Ask the browser to keep them</button>{/if}
    <span class="remind"
      ><Choice
        label="Remind me to export"
        value={String(days)}
        choices={reminders.map((n) => ({ value: String(n), label: n === 0 ? 'never' : `every ${n} days` }))}
        onchange={(value) => remindAfter((days = Number(value)))}
      /></span
    >
  </div>
{/if}
{#if due.length > 0}
  <p class="quiet" role="note">
    Changed since they were last exported:
    {#each due as job (job.id)}<button class="plain" onclick={() => onexport(job.id)}>Export {job.name}</button>{/each}
  </p>
{/if}

<style>
  p,
  .room {
    font-size: 12px;
  }
  .remind {
    width: 310px;
  }
  .room {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 12px;
    align-items: center;
  }
  .full {
    color: var(--brick);
  }
</style>
