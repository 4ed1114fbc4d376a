<script lang="ts">
  import { InlineNotification } from 'carbon-components-svelte';
  import type { DeviationMeter } from '$lib/job/deviation-meter.svelte.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { paints } from '$lib/stand/marks/registry.ts';
  import { measuredWith } from '$lib/stand/marks/overlay.ts';
  import Brief from './Brief.svelte';
  import { isBlockFolded } from '$lib/stand/title-block/folding.svelte.ts';
  import KeeperNote from './KeeperNote.svelte';

  /** What is laid over the stand beside the drawing: the brief, legends, the section, and notes of what was found or done. */
  let { job, meter }: { job: OpenJob; meter: DeviationMeter } = $props();
  /** a note is shown short at first; all of it stays with the logbook entry */
  let whole = $state(false);
  let text: HTMLElement | undefined = $state();
  /** more of it is there than is shown while it is short */
  let isCut = $state(false);
  $effect(() => {
    void job.message;
    whole = false;
  });
  $effect(() => {
    void [job.message, whole];
    if (text && !whole) isCut = text.scrollHeight > text.clientHeight + 1;
  });
</script>

<div class="over" class:folded={isBlockFolded(job.view)}>
  <div class="top">
    <KeeperNote {job} />
    <Brief {job} {meter} />
  </div>
  <div class="stack">
    {#if job.isolated}<div class="sheet raised">isolated: {job.isolated.length.toLocaleString('en')} faces (` shows all)</div>{/if}
    {#if job.section}
      <label class="sheet raised section"
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
    {#if !job.running}
      {#each paints.filter(({ id }) => job.view.overlays[id]) as paint (paint.id)}
        {@const why = paint.why(measuredWith(meter, job.compared), job.reference)}
        {#if why}<div class="sheet raised legend" role="note" aria-label={paint.name}>{why}</div>{/if}
      {/each}
    {/if}
    {#if job.message}
      <div class="message {job.message.kind}" class:short={!whole}>
        <InlineNotification kind={job.message.kind} lowContrast title="" on:close={() => (job.message = undefined)}>
          <span class="text" bind:this={text}>{job.message.text}</span>
          {#if isCut}
            <button class="plain more" aria-expanded={whole} onclick={() => (whole = !whole)}>{whole ? 'Less' : 'More'}</button>
          {/if}
        </InlineNotification>
      </div>
    {/if}
  </div>
</div>

<style>
  /* lets the pointer through beside them */
  .over {
    position: absolute;
    inset: 8px auto 8px 52px;
    width: min(270px, calc(100% - 60px));
    display: flex;
    flex-direction: column;
    justify-content: space-between;
    gap: 8px;
    pointer-events: none;
  }
  /* a narrow stand: notes above the title block */
  @container (max-width: 670px) {
    .over {
      bottom: 178px;
    }
    .over.folded {
      bottom: 46px;
    }
  }
  .top,
  .stack {
    display: flex;
    flex-direction: column;
    gap: 6px;
    align-items: flex-start;
  }
  .stack {
    max-width: 100%;
    min-height: 0;
    justify-content: flex-end;
  }
  .top > :global(*),
  .stack > * {
    pointer-events: auto;
    max-width: 100%;
  }
  .sheet {
    padding: 6px 10px;
    font-size: 12px;
  }
  .section {
    display: flex;
    gap: 8px;
    align-items: center;
  }
  .legend {
    border-left: 4px solid var(--deviation);
  }
  .message {
    box-shadow: var(--shadow);
    max-height: 40vh;
    overflow-y: auto;
    font-size: 12px;
    line-height: 1.4;
  }
  .short .text {
    display: -webkit-box;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 3;
    line-clamp: 3;
    overflow: hidden;
  }
  .more {
    color: var(--cobalt);
    padding: 0;
  }
  .message.info :global(.bx--inline-notification) {
    background: var(--panel);
    border: 1px solid var(--line);
    border-left: 3px solid var(--sea);
    color: var(--ink);
  }
  .message.info :global(.bx--inline-notification__icon) {
    fill: var(--sea);
  }
  .message :global(.bx--inline-notification) {
    margin: 0;
    max-width: none;
    min-width: 0;
    min-height: 0;
  }
  .message :global(.bx--inline-notification__details) {
    flex: 1;
    min-width: 0;
    margin: 0 8px;
  }
  .message :global(.bx--inline-notification__text-wrapper) {
    padding: 8px 0;
  }
  .message :global(.bx--inline-notification__icon) {
    margin: 10px 10px 0 0;
  }
  .message :global(.bx--inline-notification__close-button) {
    position: static;
    flex: none;
    height: 36px;
    width: 36px;
  }
</style>
