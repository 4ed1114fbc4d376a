<script lang="ts">
  import { LOWER_ROW, operationById, rackAt, UPPER_ROW, type Operation } from '@ulvrin/core';
  import Star from 'carbon-icons-svelte/lib/Star.svelte';
  import StarFilled from 'carbon-icons-svelte/lib/StarFilled.svelte';
  import { favourites } from '$lib/settings/favourites.svelte.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { icons } from 'virtual:operation-icons';

  let { job, onstart }: { job: OpenJob; onstart: (operation: Operation) => void } = $props();
  const rack = $derived(rackAt(job.view.bench));
  const grouped = $derived.by(() => {
    const groups = new Map<string, Operation[]>();
    for (const operation of rack.others) {
      const heading = operation.group ?? 'Edge flow';
      groups.set(heading, [...(groups.get(heading) ?? []), operation]);
    }
    return [...groups];
  });

  function pin(operation: Operation) {
    const why = favourites.toggle(operation.id);
    if (why) job.tell('info', why);
  }
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
  {#if favourites.ids.length > 0}
    <div class="row mine" role="group" aria-label="Personal row">
      {#each favourites.ids as id, i (id)}{@render key(`⇧${i + 1}`, operationById(id))}{/each}
    </div>
  {/if}
  {#if rack.others.length > 0}
    {#each grouped as [group, listed] (group)}
      {#if grouped.length > 1}<h4>{group}</h4>{/if}
      <ul>
        {#each listed as operation (operation.id)}
          {@const why = job.whyNot(operation)}
          <li>
            <button
              class="plain"
              class:dim={why !== undefined}
              aria-disabled={why !== undefined}
              title={why ?? operation.purpose}
              onclick={() => onstart(operation)}>{operation.name}</button
            >
            <button
              class="pin"
              aria-label="Pin {operation.name}"
              aria-pressed={favourites.ids.includes(operation.id)}
              title="Pin to the personal row, or take it off"
              onclick={() => pin(operation)}
              >{#if favourites.ids.includes(operation.id)}<StarFilled size={16} />{:else}<Star size={16} />{/if}</button
            >
          </li>
        {/each}
      </ul>
    {/each}
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
  .lower,
  .mine {
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
    margin-top: 2px;
  }
  h4 {
    margin: 8px 4px 0;
    font-size: 11px;
    font-weight: 400;
    color: var(--soft);
  }
  li {
    position: relative;
  }
  li .plain {
    text-align: left;
    width: 100%;
    font-size: 13px;
    line-height: 1.2;
  }
  .pin {
    border: 0;
    background: none;
    color: var(--soft);
    padding: 0;
    cursor: pointer;
    position: absolute;
    right: 0;
    top: 1px;
    background: var(--panel);
    opacity: 0;
  }
  li:hover .pin,
  .pin:focus-visible,
  .pin[aria-pressed='true'] {
    opacity: 1;
  }
  p {
    margin-top: 8px;
    font-size: 12px;
    padding: 0 4px;
  }
</style>
