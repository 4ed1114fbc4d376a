<script lang="ts">
  import { Search } from 'carbon-components-svelte';
  import { LOWER_ROW, operationById, operations, rackAt, UPPER_ROW, type Operation } from '@ulvrin/core';
  import Star from 'carbon-icons-svelte/lib/Star.svelte';
  import StarFilled from 'carbon-icons-svelte/lib/StarFilled.svelte';
  import { benchCommand } from '$lib/commands/rack.ts';
  import { searchIn } from '$lib/commands/search.ts';
  import { favourites } from '$lib/settings/favourites.svelte.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { icons } from 'virtual:operation-icons';

  let { job, onstart, oncall }: { job: OpenJob; onstart: (operation: Operation) => void; oncall: (command: string) => void } = $props();
  const rack = $derived(rackAt(job.view.bench));
  const grouped = $derived.by(() => {
    const groups = new Map<string, Operation[]>();
    for (const operation of rack.others) {
      const heading = operation.group ?? 'Edge flow';
      groups.set(heading, [...(groups.get(heading) ?? []), operation]);
    }
    return [...groups];
  });
  const hasOwn = $derived(LOWER_ROW.some((letter, i) => rack.lower[i] ?? benchCommand(job.view.bench, letter)));

  let typed = $state('');
  const search = searchIn(operations.map((operation) => ({ name: operation.name, purpose: operation.purpose, operation })));
  /** operations of all benches that are like what was typed */
  const matches = $derived(typed.trim() === '' ? undefined : search(typed, []).map(({ operation }) => operation));

  function pin(operation: Operation) {
    const why = favourites.toggle(operation.id);
    if (why) job.tell('info', why);
  }

  let list: HTMLElement | undefined = $state();
  /** operations of the list that lie below the fold */
  let below = $state(0);
  function look() {
    if (!list) return;
    const bottom = list.getBoundingClientRect().bottom;
    below = [...list.querySelectorAll('li')].filter((li) => li.getBoundingClientRect().top > bottom - 8).length;
  }
  $effect(() => {
    void [grouped, matches, favourites.ids.length];
    if (!list) return;
    const observer = new ResizeObserver(look);
    observer.observe(list);
    look();
    return () => observer.disconnect();
  });
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
  {/if}
{/snippet}

{#snippet act(letter: string)}
  {@const command = benchCommand(job.view.bench, letter)}
  {#if command?.rack}
    {@const why = command.why?.({ job })}
    {@const Icon = command.rack.icon}
    <button
      class="key"
      class:dim={why !== undefined}
      aria-disabled={why !== undefined}
      title={why ? `${command.name}: ${why}` : `${command.name} (${letter}): ${command.purpose}`}
      onclick={() => oncall(command.id)}
    >
      <span class="letter number">{letter}</span><Icon /><span class="label">{command.name}</span>
    </button>
  {/if}
{/snippet}

{#snippet line(operation: Operation)}
  {@const why = job.whyNot(operation)}
  {@const Icon = icons[operation.icon]}
  <li>
    <button
      class="listed"
      class:dim={why !== undefined}
      class:on={job.running?.operation === operation}
      aria-disabled={why !== undefined}
      title={why ?? operation.purpose}
      onclick={() => onstart(operation)}
      >{#if Icon}<Icon />{:else}<span></span>{/if}<span class="label">{operation.name}</span></button
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
{/snippet}

<aside aria-label="Rack">
  <div class="scroll" bind:this={list} onscroll={look}>
    <div class="row">
      {#each UPPER_ROW as letter, i (letter)}{@render key(letter, rack.upper[i])}{/each}
    </div>
    {#if hasOwn}
      <div class="row lower">
        {#each LOWER_ROW as letter, i (letter)}{#if rack.lower[i]}{@render key(letter, rack.lower[i])}{:else}{@render act(letter)}{/if}{/each}
      </div>
    {/if}
    {#if favourites.ids.length > 0}
      <div class="row mine" role="group" aria-label="Personal row">
        {#each favourites.ids as id, i (id)}{@render key(`⇧${i + 1}`, operationById(id))}{/each}
      </div>
    {/if}
    {#if matches}
      <h4>Found at all benches</h4>
      <ul>
        {#each matches as operation (operation.id)}{@render line(operation)}{/each}
      </ul>
      {#if matches.length === 0}<p class="quiet">No matches.</p>{/if}
    {/if}
    {#each matches ? [] : grouped as [group, listed] (group)}
      <h4>{group}</h4>
      <ul>
        {#each listed as operation (operation.id)}
          {@render line(operation)}
        {/each}
      </ul>
    {/each}
    {#if !hasOwn && rack.others.length === 0 && !matches}
      <p class="quiet">No operation of its own at this bench yet.</p>
    {/if}
  </div>
  <div class="find"><Search size="sm" labelText="Find an operation" placeholder="Find" bind:value={typed} /></div>
  <button class="more" class:none={below === 0} onclick={() => list?.scrollBy({ top: list.clientHeight - 60 })}>{below} more below</button>
</aside>

<style>
  aside {
    display: flex;
    flex-direction: column;
    min-height: 0;
    background: var(--panel);
    border-right: 1px solid var(--line);
  }
  .scroll {
    flex: 1;
    min-height: 0;
    overflow-y: auto;
    padding: 8px;
    scrollbar-width: thin;
  }
  .row {
    display: grid;
    gap: 2px;
  }
  .lower,
  .mine {
    margin-top: 7px;
    padding-top: 7px;
    border-top: 1px solid var(--line);
  }
  .key,
  .listed {
    display: grid;
    grid-template-columns: 20px 18px minmax(0, 1fr);
    align-items: center;
    gap: 6px;
    width: 100%;
    min-height: 32px;
    border: 1px solid transparent;
    border-radius: var(--corner);
    background: none;
    color: inherit;
    font: inherit;
    font-size: 13px;
    text-align: left;
    padding: 0 4px;
    cursor: pointer;
  }
  .listed {
    grid-template-columns: 18px minmax(0, 1fr);
    gap: 8px;
    min-height: 27px;
    font-size: 13px;
    padding-block: 3px;
    padding-left: 6px;
  }
  .key:hover,
  .listed:hover {
    background: var(--hover);
  }
  .on {
    border-color: var(--cobalt);
    background: var(--picked);
  }
  .dim {
    color: color-mix(in srgb, var(--ink) 55%, var(--panel));
  }
  .letter {
    display: grid;
    place-items: center;
    width: 20px;
    height: 20px;
    border: 1px solid var(--line);
    border-radius: 3px;
    background: var(--field);
    font-size: 11px;
    color: var(--soft);
  }
  /* a long name takes two lines */
  .label {
    line-height: 1.15;
    overflow-wrap: break-word;
  }
  h4 {
    margin: 10px 6px 2px;
    font-size: 12px;
    font-weight: 400;
    color: var(--soft);
  }
  li {
    position: relative;
  }
  .pin {
    display: grid;
    place-items: center;
    position: absolute;
    right: 2px;
    top: 2px;
    width: 24px;
    height: 24px;
    border: 0;
    border-radius: 3px;
    background: var(--panel);
    color: var(--soft);
    padding: 0;
    cursor: pointer;
    opacity: 0;
  }
  li:hover .pin,
  .pin:focus-visible,
  .pin[aria-pressed='true'] {
    opacity: 1;
  }
  .find {
    border-top: 1px solid var(--line);
  }
  .more {
    min-height: 24px;
    border: 0;
    border-top: 1px solid var(--line);
    background: none;
    color: var(--soft);
    font: inherit;
    font-size: 12px;
    padding: 4px;
    cursor: pointer;
  }
  /* its room stays, so that nothing moves under the pointer */
  .more.none {
    visibility: hidden;
  }
  .more:hover {
    background: var(--hover);
  }
  p {
    margin-top: 8px;
    font-size: 12px;
    padding: 0 6px;
  }
</style>
