<script lang="ts">
  import { OverflowMenu, OverflowMenuItem } from 'carbon-components-svelte';
  import { resolve } from '$app/paths';
  import type { Tile } from '$lib/platform/storage/job-store.ts';
  import { changedWhen, countsLine } from './wall.ts';

  /** One of the jobs stored here: its picture opens it, its menu does the rest. */
  interface Props {
    job: Tile;
    acts: { text: string; danger?: boolean; run: (job: Tile) => void }[];
    /** what its picture does in place of opening it */
    onstart?: () => void;
  }
  let { job, acts, onstart }: Props = $props();
</script>

<article class="tile">
  {#snippet seen()}
    {#if job.picture}<img src={job.picture} alt="" />{:else}<div class="blank">no picture yet</div>{/if}
    <strong title={job.name}>{job.name}</strong>
    <span class="quiet">{countsLine(job)}</span>
    <span class="quiet number when">{changedWhen(job.changed)}</span>
  {/snippet}
  {#if onstart}<button class="plain open" aria-label="Start a job from {job.name}" onclick={onstart}>{@render seen()}</button>
  {:else}<a class="open" href={resolve('/job/[id]', { id: job.id })} aria-label="Open {job.name}">{@render seen()}</a>{/if}
  <div class="menu">
    <OverflowMenu flipped size="sm" iconDescription="Menu of {job.name}" aria-label="Menu of {job.name}">
      {#each acts as { text, danger, run } (text)}<OverflowMenuItem {text} {danger} hasDivider={danger} on:click={() => run(job)} />{/each}
    </OverflowMenu>
  </div>
</article>

<style>
  .tile {
    position: relative;
    background: var(--panel);
    border: 1px solid var(--line);
    border-radius: var(--corner);
    overflow: visible;
  }
  .open {
    display: grid;
    gap: 2px;
    width: 100%;
    padding: 0 0 10px;
    text-align: left;
    color: inherit;
    text-decoration: none;
    font-size: 12px;
  }
  .open > :not(img, .blank) {
    padding: 0 12px;
  }
  .open:hover {
    box-shadow: var(--shadow);
  }
  .open:hover strong {
    color: var(--cobalt);
  }
  img,
  .blank {
    width: 100%;
    aspect-ratio: 16 / 9.4;
    object-fit: cover;
    background: linear-gradient(var(--paper), var(--paper-deep));
    border-bottom: 1px solid var(--line);
    display: grid;
    place-items: center;
    color: var(--soft);
  }
  strong {
    margin-top: 8px;
    font-size: 14px;
    font-weight: 600;
    line-height: 1.35;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .when {
    margin-top: 6px;
  }
  .menu {
    position: absolute;
    top: 6px;
    right: 6px;
    background: var(--panel);
    border-radius: var(--corner);
  }
</style>
