<script lang="ts">
  import { Modal, OverflowMenu, OverflowMenuItem, TextArea, TextInput } from 'carbon-components-svelte';
  import { entryTitle, isStored, operationById, REMOVE_PART, RENAME_PART, storeRefusal, bytesOf, type Entry } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import Branches from './Branches.svelte';

  let { job }: { job: OpenJob } = $props();

  function detail(entry: Entry): string {
    if (entry.operation === REMOVE_PART) return 'a part was removed';
    if (entry.operation === RENAME_PART) return String(entry.params.name);
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

  const flagged = $derived(job.entries.flatMap((entry, i) => (entry.problem && i < job.cursor ? [i] : [])));
  /** the entry that is picked again: what is picked now, in the state before it, is what it is to work on */
  let picking: { id: number; back: number } | undefined = $state.raw();
  const pickingAt = $derived(picking ? job.entries.findIndex(({ id }) => id === picking!.id) : -1);

  function pickAgain(entry: Entry, i: number) {
    picking = { id: entry.id, back: job.cursor };
    job.goTo(i);
  }
  function use() {
    const { back } = picking!;
    const selection = $state.snapshot(job.selection);
    if (!job.rework((logbook) => logbook.repick(pickingAt, selection))) return;
    picking = undefined;
    job.goTo(back);
  }
  function leave() {
    const { back } = picking!;
    picking = undefined;
    job.goTo(back);
  }

  function storedSize({ cast, result }: Entry): string {
    if (!result) return cast ? ' (stored)' : '';
    return ` (stored, ${(bytesOf(result) / 2 ** 20).toFixed(1)} MB)`;
  }

  /** entries from which on there is a search over them */
  const SEARCHED = 8;
  let sought = $state('');
  const isFound = (entry: Entry, i: number): boolean =>
    sought.trim() === '' ||
    `${i + 1} ${entryTitle(entry)} ${detail(entry)} ${entry.note ?? ''} ${entry.problem ?? ''}`.toLowerCase().includes(sought.trim().toLowerCase());

  /** the entry that is being named */
  let naming: Entry | undefined = $state.raw();
  let [name, note, group] = $state(['', '', '']);
  /** groups whose entries are not listed */
  let closed: readonly string[] = $state([]);
  const startsGroup = (i: number) => job.entries[i].group !== undefined && job.entries[i - 1]?.group !== job.entries[i].group;
  /** how many entries a group has from one on */
  function groupSize(from: number): number {
    const end = job.entries.findIndex((e, i) => i > from && e.group !== job.entries[from].group);
    return (end < 0 ? job.entries.length : end) - from;
  }
  const toggleGroup = (own: string) => (closed = closed.includes(own) ? closed.filter((other) => other !== own) : [...closed, own]);
  /** it is not an entry that is named, but the way that goes on from it */
  let branching = $state(false);
  function startNaming(entry: Entry, asBranch = false) {
    naming = entry;
    branching = asBranch;
    [name, note] = asBranch ? [`Way ${job.document.branches.length + 2}`, '', ''] : [entry.name ?? '', entry.note ?? '', entry.group ?? ''];
  }
  function keepName() {
    const i = job.entries.findIndex(({ id }) => id === naming!.id);
    job.rework((logbook) => (branching ? logbook.branchOff(i + 1, name.trim() || 'Another way') : logbook.describe(i, { name, note, group })));
    naming = undefined;
  }
</script>

{#if picking && pickingAt >= 0}
  <div class="banner" role="status">
    Pick what "{entryTitle(job.entries[pickingAt])}" is to work on: the part is shown as it was then.
    <button class="plain act" onclick={use}>Use what is picked</button>
    <button class="plain act quiet" onclick={leave}>Cancel</button>
  </div>
{:else if flagged.length > 0}
  <div class="banner" role="status">
    {flagged.length === 1 ? 'One entry does not' : `${flagged.length} entries do not`} fit any more: pick again, disable or remove.
    <button class="plain act" onclick={() => pickAgain(job.entries[flagged[0]], flagged[0])}>Pick again for number {flagged[0] + 1}</button>
  </div>
{/if}

{#if job.document.branches.length > 0}<Branches {job} />{/if}
{#if job.entries.length >= SEARCHED}
  <input class="search" type="search" placeholder="Find entries" aria-label="Find entries" bind:value={sought} />
{/if}
<ol aria-label="Logbook">
  {#each job.entries as entry, i (entry.id)}
    {#if entry.group !== undefined && startsGroup(i)}
      {@const isClosed = closed.includes(entry.group)}
      <li class="group">
        <button class="plain" aria-expanded={!isClosed} onclick={() => toggleGroup(entry.group!)}>
          {isClosed ? '▸' : '▾'}
          {entry.group} <span class="quiet">{groupSize(i) === 1 ? '1 entry' : `${groupSize(i)} entries`}</span>
        </button>
      </li>
    {/if}
    {#if isFound(entry, i) && !(entry.group && closed.includes(entry.group) && sought.trim() === '')}
      <li
        class:undone={i >= job.cursor}
        class:last={i === job.cursor - 1}
        class:problem={entry.problem}
        class:disabled={entry.disabled}
        class:grouped={entry.group}
      >
        <button class="plain" title={i === job.cursor - 1 ? 'The job is here' : 'Go to the state after this entry'} onclick={() => job.goTo(i + 1)}>
          <span class="digit number">{i + 1}</span>
          <span>{entryTitle(entry)}</span>
          <span class="quiet">{detail(entry)}{storedSize(entry)}{entry.disabled ? ' (disabled)' : ''}</span>
          {#if entry.note}<span class="note">{entry.note}</span>{/if}
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
        {#if i < job.cursor}
          <OverflowMenu size="sm" flipped direction="top" iconDescription="Menu of entry {i + 1}" aria-label="Menu of entry {i + 1}">
            <OverflowMenuItem
              text={entry.disabled ? 'Enable' : 'Disable'}
              on:click={() => job.rework((logbook) => logbook.disable(i, !entry.disabled))}
            />
            {#if isReplayed(entry) && !entry.makes}<OverflowMenuItem text="Pick again" on:click={() => pickAgain(entry, i)} />{/if}
            {#if entry.result}
              <OverflowMenuItem text="Release its result" on:click={() => job.rework((logbook) => logbook.release(i))} />
            {:else if !storeRefusal(entry)}
              <OverflowMenuItem text="Store its result" on:click={() => job.rework((logbook) => logbook.store(i))} />
            {/if}
            {#if i < job.entries.length - 1}<OverflowMenuItem text="Try another way from here" on:click={() => startNaming(entry, true)} />{/if}
            <OverflowMenuItem text="Move up" disabled={i === 0} on:click={() => job.rework((logbook) => logbook.move(i, i - 1))} />
            <OverflowMenuItem text="Move down" disabled={i === job.cursor - 1} on:click={() => job.rework((logbook) => logbook.move(i, i + 1))} />
            <OverflowMenuItem text="Name, note, group" on:click={() => startNaming(entry)} />
            <OverflowMenuItem danger text="Remove" on:click={() => job.rework((logbook) => logbook.remove(i))} />
          </OverflowMenu>
        {/if}
      </li>
    {/if}
  {:else}
    <li class="quiet">Nothing done yet.</li>
  {/each}
</ol>

<Modal
  open={naming !== undefined}
  modalHeading={branching ? 'Try another way from here' : 'Name, note, group'}
  primaryButtonText="Keep"
  secondaryButtonText="Cancel"
  size="xs"
  on:click:button--secondary={() => (naming = undefined)}
  on:close={() => (naming = undefined)}
  on:submit={keepName}
>
  <TextInput labelText="Name" placeholder={naming ? entryTitle({ operation: naming.operation }) : ''} bind:value={name} maxlength={200} />
  {#if branching}<p class="quiet">The entries behind stay as a way of their own; take it again above the logbook.</p>
  {:else}<TextArea labelText="Note" bind:value={note} rows={3} maxlength={4000} />
    <TextInput labelText="Group, with entries beside it" placeholder="(none)" bind:value={group} maxlength={200} />{/if}
</Modal>

<style>
  .search {
    width: calc(100% - 24px);
    height: 26px;
    margin: 4px 12px;
    padding: 0 8px;
    border: 1px solid var(--line);
    background: var(--field);
    color: inherit;
    font: inherit;
    font-size: 12px;
  }
  .banner {
    margin: 4px 12px;
    padding: 6px 8px;
    font-size: 12px;
    line-height: 1.4;
    background: var(--rail);
    border-left: 3px solid var(--brick);
  }
  .note {
    display: block;
    color: var(--soft);
    font-style: italic;
  }
  .disabled span:nth-child(2) {
    text-decoration: line-through;
  }
  li :global(.bx--overflow-menu) {
    width: 26px;
    height: 26px;
    flex: none;
  }
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
  .grouped {
    margin-left: 12px;
  }
  .group button {
    font-weight: 600;
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
