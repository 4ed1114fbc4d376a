<script lang="ts">
  import { entryTitle, isStored, operationById, REMOVE_PART, type Entry } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';

  let { job }: { job: OpenJob } = $props();

  function detail(entry: Entry): string {
    if (entry.operation === REMOVE_PART) return 'a part was removed';
    if (entry.makes) return entry.makes.name;
    const { vertices, edges, faces } = entry.selection;
    const counted = (n: number, one: string, more: string) => (n === 0 ? '' : `${n.toLocaleString('en')} ${n === 1 ? one : more}`);
    const what = [
      counted(vertices.length, 'vertex', 'vertices'),
      counted(edges.length, 'edge', 'edges'),
      counted(faces.length, 'face', 'faces')
    ].filter(Boolean);
    return what.join(', ');
  }
  /** Whether its operation does it again when what comes before is changed. */
  function isReplayed(entry: Entry): boolean {
    const operation = operationById(entry.operation);
    return operation !== undefined && !isStored(operation);
  }
  /** Stored results are laid again from their card, not replayed. */
  const editable = (entry: Entry, i: number) => i < job.cursor && !entry.cast && isReplayed(entry);
</script>

<ol aria-label="Logbook">
  {#each job.entries as entry, i (entry.id)}
    <li class:undone={i >= job.cursor} class:last={i === job.cursor - 1} class:problem={entry.problem}>
      <button class="plain" title={i === job.cursor - 1 ? 'The job is here' : 'Go to the state after this entry'} onclick={() => job.goTo(i + 1)}>
        <span class="digit number">{i + 1}</span>
        <span>{entryTitle(entry)}</span>
        <span class="quiet">{detail(entry)}{entry.cast ? ' (stored)' : ''}</span>
        {#if entry.problem}<span class="why">{entry.problem}</span>{/if}
      </button>
      {#if editable(entry, i)}
        <button
          class="plain edit"
          title="Open its card again; later entries are replayed"
          aria-label="Edit entry {i + 1}"
          onclick={() => job.reopen(entry.id)}>Edit</button
        >
      {/if}
    </li>
  {:else}
    <li class="quiet">Nothing done yet.</li>
  {/each}
</ol>

<style>
  ol {
    padding: 0 8px;
    font-size: 12px;
  }
  li {
    display: flex;
  }
  li button:first-child {
    flex: 1;
    padding: 4px 6px;
    min-width: 0;
    overflow-wrap: anywhere;
  }
  li .plain:hover {
    background: none;
  }
  .edit {
    color: var(--soft);
  }
  li:hover {
    background: var(--hover);
  }
  .digit {
    display: inline-block;
    min-width: 24px;
    color: var(--soft);
  }
  .undone {
    opacity: 0.45;
  }
  .last {
    background: var(--picked);
    box-shadow: inset 3px 0 0 var(--cobalt);
  }
  .problem .why {
    display: block;
    color: var(--brick);
  }
</style>
