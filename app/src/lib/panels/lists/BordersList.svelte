<script lang="ts">
  import { bordersOf, describeHole, quadGrid, selectEdges, type Gap } from '@ulvrin/core';
  import type { ListProps } from './list.ts';

  let { job, onframe }: ListProps = $props();
  /** longer lists are no help */
  const MOST_LISTED = 40;
  const gaps = $derived(job.active?.cage ? bordersOf(job.active.cage).gaps : []);

  const edgesOf = ({ hole, island }: Gap) => selectEdges([...hole.halves, ...(island?.halves ?? [])].map((h) => h >> 1));

  function show(gap: Gap, more: boolean) {
    job.pickMany(edgesOf(gap), more ? 'add' : 'instead');
    onframe();
  }
  function fill(gap: Gap) {
    job.pickMany(edgesOf(gap), 'instead');
    job.start(quadGrid);
  }
</script>

{#if gaps.length > 0}
  <ul aria-label="Borders">
    {#each gaps.slice(0, MOST_LISTED) as gap, i (i)}
      {@const text = describeHole(gap.hole) + (gap.island ? `, round an island of ${gap.island.vertices.length} edges` : '')}
      <li>
        <button class="plain" title="Pick and frame it (Shift adds)" onclick={(e) => show(gap, e.shiftKey)}>{text}</button>
        <button class="plain fill" aria-label="Fill: {text}" title="Propose the best fill" onclick={() => fill(gap)}>Fill</button>
      </li>
    {/each}
  </ul>
  {#if gaps.length > MOST_LISTED}<p class="quiet">and {gaps.length - MOST_LISTED} more</p>{/if}
{:else}
  <p class="quiet none">No open border.</p>
{/if}

<style>
  ul {
    padding: 0 12px;
    font-size: 12px;
  }
  .none {
    padding: 4px 12px;
  }
  li {
    display: flex;
    justify-content: space-between;
    gap: 8px;
  }
  li button {
    min-height: 24px;
    text-align: left;
    padding: 2px 0;
  }
  .fill {
    color: var(--cobalt);
  }
</style>
