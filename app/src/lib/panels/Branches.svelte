<script lang="ts">
  import { FIRST_BRANCH } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';

  /** The ways that a job took: the one it is on, and others to be taken, compared or forgotten. */
  let { job }: { job: OpenJob } = $props();
  const { branches, branch = FIRST_BRANCH } = $derived(job.document);

  function beside(name: string) {
    job.view.compare = { branch: name };
    job.view.wipe = undefined;
    job.view.sides = [];
    job.saveViewSoon();
  }
</script>

<ul aria-label="Ways">
  <li class="now"><span>{branch}</span><span class="quiet">the job is on it</span></li>
  {#each branches as { name, entries } (name)}
    <li>
      <span class="name">{name} <span class="quiet">{entries.length === 1 ? '1 entry' : `${entries.length} entries`}</span></span>
      <button class="plain act" onclick={() => job.rework((logbook) => logbook.takeBranch(name))}>Take</button>
      <button class="plain act" onclick={() => beside(name)}>Compare</button>
      <button class="plain act" aria-label="Forget {name}" onclick={() => job.rework((logbook) => logbook.dropBranch(name))}>Forget</button>
    </li>
  {/each}
</ul>

<style>
  ul {
    margin: 4px 12px;
    border: 1px solid var(--line);
    font-size: 12px;
  }
  li {
    display: flex;
    gap: 8px;
    padding: 3px 8px;
  }
  .now {
    justify-content: space-between;
    box-shadow: inset 3px 0 0 var(--cobalt);
  }
  .name {
    flex: 1;
    overflow-wrap: anywhere;
  }
</style>
