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
    onframe(true);
  }
  function fill(gap: Gap) {
    job.pickMany(edgesOf(gap), 'instead');
    onframe(true);
    job.start(quadGrid);
  }
</script>

{#if gaps.length > 0}
  <ul class="things" aria-label="Borders">
    {#each gaps.slice(0, MOST_LISTED) as gap, i (i)}
      {@const text = describeHole(gap.hole) + (gap.island ? `, round an island of ${gap.island.vertices.length} edges` : '')}
      <li>
        <button class="plain" title="Pick and frame it (Shift adds)" onclick={(e) => show(gap, e.shiftKey)}>{text}</button>
        <button class="plain act" aria-label="Fill: {text}" title="Propose the best fill" onclick={() => fill(gap)}>Fill</button>
      </li>
    {/each}
  </ul>
  {#if gaps.length > MOST_LISTED}<p class="quiet">and {gaps.length - MOST_LISTED} more</p>{/if}
{:else}
  <p class="quiet nothing">No open border.</p>
{/if}
