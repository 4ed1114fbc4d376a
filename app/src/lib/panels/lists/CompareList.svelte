<script lang="ts">
  import { apart, comparedInWords, comparedRows, edgeLengths, histogram, lengthInWords, stateMeasures, type Part } from '@ulvrin/core';
  import { choiceKey, choiceOf, comparedPart, comparedState, entriesToCompare, entryInWords } from '$lib/job/compared.ts';
  import type { Comparison } from '$lib/job/view.ts';
  import Histogram from '../Histogram.svelte';
  import type { ListProps } from './list.ts';

  let { job }: ListProps = $props();
  /** faces up to which it is measured at once how far apart both are */
  const MOST_AT_ONCE = 8000;

  const { view } = $derived(job);
  const references = $derived(job.parts.filter((p) => p.kind === 'reference'));
  const others = $derived(job.parts.filter((p) => p.cage && p.id !== job.active?.id));
  const entries = $derived(entriesToCompare(job.document));
  let choice: Comparison = $state('before');
  const other = $derived(comparedPart(job.document, choice) ?? references.find((p) => choiceKey({ part: p.id }) === choiceKey(choice)));

  // what nobody looks at is not measured
  const isOpen = $derived(view.panel === 'compare');
  const both = $derived.by((): [Part, Part] | undefined => (isOpen && other && job.active?.cage ? [other, job.active] : undefined));
  const measured = $derived(both?.map((part) => stateMeasures(comparedState(part))));
  /** both that are measured though they are large */
  let asked: [Part, Part] | undefined = $state.raw();
  const isLarge = $derived(both !== undefined && Math.max(...measured!.map((m) => m.faces)) > MOST_AT_ONCE);
  const distance = $derived.by((): number | undefined => {
    if (!both || (isLarge && asked !== both)) return undefined;
    return apart(comparedState(both[0]), comparedState(both[1]));
  });
  const line = $derived(measured && job.active ? comparedInWords(job.active.name, measured[0], measured[1], distance) : '');
  const bars = $derived(both?.flatMap(({ cage }) => (cage && cage.faceCount > 0 ? [{ ...histogram(edgeLengths(cage)), unit: 'mm' }] : [])));

  function show(settings: Partial<typeof view>) {
    Object.assign(view, settings);
    job.saveViewSoon();
  }
  async function copy() {
    try {
      await navigator.clipboard.writeText(line);
      job.tell('info', 'The line was copied.');
    } catch {
      job.tell('error', 'The browser does not let the page copy: mark the line and copy it by hand.');
    }
  }
</script>

<div class="list">
  <label
    >Now, and
    <select aria-label="Compared with" value={choiceKey(choice)} onchange={(e) => (choice = choiceOf(e.currentTarget.value))}>
      <option value="before">before the last entry</option>
      {#each entries as entry (entry.id)}<option value={choiceKey({ entry: entry.id })}>{entryInWords(entry, job.entries)}</option>{/each}
      {#each [...references, ...others] as part (part.id)}<option value={choiceKey({ part: part.id })}>{part.name}</option>{/each}
    </select></label
  >
  {#if both && measured}
    <p class="quoted">{line} <button class="plain act" onclick={copy}>Copy</button></p>
    <table aria-label="Both compared">
      <thead><tr><th></th><th>then</th><th>now</th><th></th></tr></thead>
      <tbody>
        {#each comparedRows(measured[0], measured[1]) as { label, before, now, change } (label)}
          <tr><th>{label}</th><td class="number">{before}</td><td class="number">{now}</td><td class="number quiet">{change}</td></tr>
        {/each}
        <tr>
          <th>Apart at most</th>
          <td colspan="3" class="number">
            {#if distance !== undefined}{lengthInWords(distance)}
            {:else if isLarge}<button class="plain act" onclick={() => (asked = both)}>Measure</button>
            {:else}nothing to measure{/if}
          </td>
        </tr>
      </tbody>
    </table>
    {#if other?.cage}
      <div class="row">
        <button class="plain act" onclick={() => show({ compare: choice, wipe: undefined, sides: [] })}>Side by side</button>
        <button class="plain act" onclick={() => show({ compare: choice, wipe: 0.5, sides: [] })}>Wipe</button>
        <button
          class="plain act"
          aria-pressed={view.outlined !== undefined}
          onclick={() => show({ outlined: view.outlined === undefined ? choice : undefined })}>Its outline</button
        >
        {#if view.compare !== undefined}
          <button class="plain act" onclick={() => show({ compare: undefined, wipe: undefined })}>Now alone</button>
        {/if}
      </div>
    {/if}
    {#if bars}
      <p class="quiet">Edge lengths{bars.length > 1 ? ', then and now' : ''}</p>
      {#each bars as own, i (i)}<Histogram bars={own} />{/each}
    {/if}
  {:else}
    <p class="quiet">There is no cage to compare, or nothing was done to it yet.</p>
  {/if}
</div>

<style>
  .list {
    padding: 8px 12px;
    font-size: 12px;
  }
  select {
    max-width: 200px;
    height: 24px;
    background: var(--field);
    color: inherit;
    border: 1px solid var(--line);
    border-radius: 3px;
    font: inherit;
  }
  .quoted {
    margin: 8px 0;
    padding: 6px 8px;
    background: var(--rail);
    line-height: 1.4;
  }
  table {
    width: 100%;
  }
  th {
    font-weight: 400;
    text-align: left;
    white-space: nowrap;
  }
  thead th {
    color: var(--soft);
    text-align: right;
  }
  td {
    text-align: right;
    white-space: nowrap;
    padding-left: 6px;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 14px;
    margin: 6px 0;
  }
  .row [aria-pressed='true'] {
    text-decoration: underline;
  }
</style>
