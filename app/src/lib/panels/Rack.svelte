<script lang="ts">
  import { LOWER_ROW, rackAt, UPPER_ROW, type Operation } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { icons } from './icons.ts';

  let { job, onstart }: { job: OpenJob; onstart: (operation: Operation) => void } = $props();
  const rack = $derived(rackAt(job.view.bench));
</script>

{#snippet key(letter: string, operation: Operation | undefined)}
  {#if operation}
    {@const why = job.whyNot(operation)}
    {@const Icon = icons[operation.icon]}
    <button
      class="key"
      class:dim={why !== undefined}
      class:on={job.running?.operation === operation}
      aria-disabled={why !== undefined}
      title={why ? `${operation.name}: ${why}` : `${operation.name} (${letter}): ${operation.purpose}`}
      onclick={() => onstart(operation)}
    >
      <span class="letter number">{letter}</span>
      {#if Icon}<Icon />{:else}<span></span>{/if}
      <span class="label">{operation.name}</span>
    </button>
  {:else}
    <div class="key free" title="This key is free."><span class="letter number">{letter}</span></div>
  {/if}
{/snippet}

<aside aria-label="Rack">
  <div class="row">
    {#each UPPER_ROW as letter, i (letter)}{@render key(letter, rack.upper[i])}{/each}
  </div>
  <div class="row lower">
    {#each LOWER_ROW as letter, i (letter)}{@render key(letter, rack.lower[i])}{/each}
  </div>
  {#if rack.others.length > 0}
    <ul>
      {#each rack.others as operation (operation.id)}
        {@const why = job.whyNot(operation)}
        <li>
          <button
            class="plain"
            class:dim={why !== undefined}
            aria-disabled={why !== undefined}
            title={why ?? operation.purpose}
            onclick={() => onstart(operation)}>{operation.name}</button
          >
        </li>
      {/each}
    </ul>
  {/if}
  {#if rack.lower.every((o) => !o) && rack.others.length === 0}
    <p class="quiet">No operation of its own at this bench yet.</p>
  {/if}
</aside>

<style>
  aside {
    background: var(--panel);
    border-right: 1px solid var(--line);
    padding: 6px 4px;
    overflow-y: auto;
  }
  .row {
    display: grid;
    grid-template-columns: 1fr;
    gap: 3px;
  }
  .lower {
    margin-top: 8px;
    padding-top: 8px;
    border-top: 1px solid var(--line);
  }
  .key {
    display: grid;
    grid-template-columns: 16px 18px 1fr;
    align-items: center;
    gap: 4px;
    height: 30px;
    border: 1px solid var(--line);
    background: var(--paper);
    color: inherit;
    font: inherit;
    font-size: 13px;
    text-align: left;
    padding: 0 4px;
    cursor: pointer;
  }
  .key:hover {
    border-color: var(--sea);
  }
  .on {
    border-color: var(--cobalt);
    box-shadow: inset 3px 0 0 var(--cobalt);
  }
  .dim {
    opacity: 0.5;
  }
  .free {
    border-style: dashed;
    background: none;
    cursor: default;
    opacity: 0.45;
    height: 18px;
  }
  .letter {
    font-size: 11px;
    color: var(--soft);
  }
  .label {
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  ul {
    margin-top: 8px;
  }
  p {
    margin-top: 8px;
    font-size: 12px;
    padding: 0 4px;
  }
</style>
