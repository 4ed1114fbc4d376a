<script lang="ts">
  import type { Proposal } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';

  /** Ways the running operation can go, each with what it costs. */
  let { job }: { job: OpenJob } = $props();

  const proposals = $derived.by((): Proposal[] => {
    const { running, active } = job;
    return running?.operation.kind === 'cage' && active?.cage ? (running.operation.proposals?.(active.cage, job.selection) ?? []) : [];
  });
  const isChosen = ({ params }: Proposal) =>
    params !== undefined && Object.entries(params).every(([name, value]) => job.running?.params[name] === value);
</script>

{#if proposals.length > 0}
  <ul aria-label="Ways">
    {#each proposals as p (p.label)}
      <li>
        <button class="plain" disabled={!p.params} aria-pressed={isChosen(p)} onclick={() => p.params && job.setParams(p.params)}>{p.label}</button
        ><span class="quiet">{p.cost || 'costs nothing'}</span>
      </li>
    {/each}
  </ul>
{/if}

<style>
  ul {
    font-size: 12px;
    margin-bottom: 6px;
  }
  li {
    display: grid;
    gap: 0 8px;
    grid-template-columns: auto 1fr;
    align-items: baseline;
  }
  [aria-pressed='true'] {
    font-weight: 600;
    color: var(--cobalt);
  }
</style>
