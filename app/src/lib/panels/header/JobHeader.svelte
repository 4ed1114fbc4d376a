<script lang="ts">
  import { describeSelection, isEmpty } from '@ulvrin/core';
  import Asleep from 'carbon-icons-svelte/lib/Asleep.svelte';
  import Export from 'carbon-icons-svelte/lib/Export.svelte';
  import Light from 'carbon-icons-svelte/lib/Light.svelte';
  import Redo from 'carbon-icons-svelte/lib/Redo.svelte';
  import Search from 'carbon-icons-svelte/lib/Search.svelte';
  import Undo from 'carbon-icons-svelte/lib/Undo.svelte';
  import { resolve } from '$app/paths';
  import { call } from '$lib/commands/registry.ts';
  import type { Workshop } from '$lib/commands/command.ts';
  import { theme } from '$lib/settings/theme.svelte.ts';
  import JobName from './JobName.svelte';
  import Mark from './Mark.svelte';

  let { workshop }: { workshop: Workshop } = $props();
  const job = $derived(workshop.job);
  const picked = $derived(job.active?.cage && !isEmpty(job.selection) ? describeSelection(job.active.cage, job.selection) : undefined);
  const watched = $derived(job.lookingOn !== undefined);
</script>

<header>
  <a href={resolve('/')} class="home" title="All jobs"><Mark /><span>Ulvrin</span></a>
  <JobName {workshop} />
  <div class="steps">
    <button
      class="icon"
      aria-label="Undo"
      disabled={!job.undoes || watched}
      title={job.undoes ? `Undo: ${job.undoes} (Ctrl+Z)` : 'Nothing to undo'}
      onclick={() => call('undo', workshop)}><Undo /></button
    >
    <button
      class="icon"
      aria-label="Redo"
      disabled={!job.redoes || watched}
      title={job.redoes ? `Redo: ${job.redoes} (Ctrl+Shift+Z)` : 'Nothing to redo'}
      onclick={() => call('redo', workshop)}><Redo /></button
    >
  </div>
  <p class="picked number" aria-live="polite" data-testid="picked">
    {#if picked}<span class="quiet">picked:</span> {picked}{/if}
  </p>
  <button class="find" onclick={() => call('lookup', workshop)}><Search /><span>Find anything</span><kbd>Ctrl K</kbd></button>
  <button
    class="icon"
    aria-label={theme.night ? 'Light theme' : 'Night theme'}
    title={theme.night ? 'Light theme' : 'Night theme'}
    onclick={() => call('theme', workshop)}
    >{#if theme.night}<Light />{:else}<Asleep />{/if}</button
  >
  <button class="deliver" onclick={() => call('deliver', workshop)}>Deliver <Export /></button>
</header>

<style>
  header {
    display: flex;
    align-items: stretch;
    gap: 8px;
    padding-left: 14px;
    background: var(--panel);
    border-bottom: 1px solid var(--line);
    white-space: nowrap;
    min-width: 0;
  }
  header > :global(*) {
    align-self: center;
  }
  .home {
    display: flex;
    align-items: center;
    gap: 8px;
    flex: 0 0 118px;
    color: inherit;
    font-size: 16px;
    font-weight: 600;
    text-decoration: none;
  }
  .steps {
    display: flex;
    border-left: 1px solid var(--line);
    padding-left: 6px;
  }
  .picked {
    flex: 1;
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    text-align: center;
    font-size: 13px;
    color: var(--cobalt);
  }
  .find {
    display: flex;
    align-items: center;
    gap: 8px;
    height: 28px;
    min-width: 32px;
    flex: 0 1 188px;
    padding: 0 6px 0 8px;
    overflow: hidden;
    border: 1px solid var(--line);
    border-radius: var(--corner);
    background: var(--field);
    color: var(--soft);
    font: inherit;
    font-size: 13px;
    cursor: pointer;
  }
  .find span {
    flex: 1;
    text-align: left;
  }
  .find :global(svg) {
    flex: none;
  }
  .find:hover {
    border-color: var(--edge);
  }
  kbd {
    font:
      11px 'IBM Plex Mono',
      monospace;
    border: 1px solid var(--line);
    border-radius: 3px;
    padding: 1px 4px;
  }
  header .deliver {
    align-self: stretch;
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 0 14px;
    border: 0;
    background: var(--cobalt);
    color: var(--on-cobalt);
    font: inherit;
    font-weight: 600;
    cursor: pointer;
  }
  .deliver:hover {
    filter: brightness(0.92);
  }
  .deliver:focus-visible {
    outline-offset: -4px;
    outline-color: var(--on-cobalt);
  }
  @media (max-width: 900px) {
    kbd,
    .find span {
      display: none;
    }
    .find {
      flex-basis: 32px;
    }
    .home {
      flex-basis: auto;
    }
    .home span {
      display: none;
    }
  }
</style>
