<script lang="ts">
  import { InlineNotification } from 'carbon-components-svelte';
  import type { DeviationMeter } from '$lib/job/deviation-meter.svelte.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { paints } from '$lib/stand/marks/registry.ts';
  import KeeperNote from './KeeperNote.svelte';

  let { job, meter }: { job: OpenJob; meter: DeviationMeter } = $props();
  let briefOpen = $state(true);
</script>

<div class="corner" class:beside={job.view.compare !== undefined}>
  <KeeperNote {job} />
  {#if job.record.brief && briefOpen}
    <div class="brief">
      <strong>Brief</strong>
      {job.record.brief}<button class="plain" onclick={() => (briefOpen = false)}>Close</button>
    </div>
  {/if}
  {#if !job.running}
    {#each paints.filter(({ id }) => job.view.overlays[id]) as paint (paint.id)}
      <div class="legend" role="note" aria-label={paint.name}>{paint.legend(meter, job.reference)}</div>
    {/each}
  {/if}
</div>
{#if job.section}
  <label class="section"
    >Section <input
      type="range"
      min="-100"
      max="100"
      step="0.5"
      value={job.section.offset}
      oninput={(e) => (job.section = { ...job.section!, offset: Number(e.currentTarget.value) })}
    /> <span class="number">{job.section.offset.toFixed(1)} mm</span></label
  >
{/if}
{#if job.isolated}<div class="badge">isolated: {job.isolated.length.toLocaleString('en')} faces (` shows all)</div>{/if}
{#if job.message}
  <div class="message">
    <InlineNotification kind={job.message.kind} lowContrast title="" subtitle={job.message.text} on:close={() => (job.message = undefined)} />
  </div>
{/if}

<style>
  .corner,
  .section,
  .badge {
    position: absolute;
    left: 10px;
  }
  .brief,
  .section,
  .legend,
  .badge {
    background: var(--panel);
    border: 1px solid var(--line);
    padding: 6px 10px;
    font-size: 12px;
  }
  .corner {
    top: 8px;
    max-width: min(380px, calc(100% - 190px));
    display: flex;
    flex-direction: column;
    gap: 6px;
    /* lets the pointer through beside them */
    pointer-events: none;
  }
  .brief {
    pointer-events: auto;
    border-left: 4px solid var(--sea);
  }
  .corner.beside {
    max-width: calc(50% - 190px);
    max-height: 60%;
  }
  .beside .brief {
    overflow-y: auto;
  }
  .section {
    bottom: 10px;
    display: flex;
    gap: 8px;
    align-items: center;
  }
  .badge {
    bottom: 48px;
  }
  .legend {
    border-left: 4px solid var(--deviation);
  }
  .message {
    position: absolute;
    left: 10px;
    right: 10px;
    bottom: 8px;
  }
  .message :global(.bx--inline-notification) {
    margin: 0;
    max-width: none;
    min-height: 0;
  }
</style>
