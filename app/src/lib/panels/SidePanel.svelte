<script lang="ts">
  import { untrack } from 'svelte';
  import { Tab, TabContent, Tabs } from 'carbon-components-svelte';
  import { Pane, PaneGroup, PaneResizer } from 'paneforge';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import type { Deviations } from '$lib/tasks/task.worker.ts';
  import Card from './card/Card.svelte';
  import FailureNote from './FailureNote.svelte';
  import type { ListProps } from './lists/list.ts';
  import { listsAt } from './lists/registry.ts';
  import LogbookPanel from './LogbookPanel.svelte';
  import PartsPanel from './parts/PartsPanel.svelte';
  import Readings from './Readings.svelte';

  let { job, deviations, onframe }: { job: OpenJob; deviations: Deviations | undefined; onframe: ListProps['onframe'] } = $props();

  const lists = $derived(listsAt(job.view.bench));
  /** the one that is worked through at this bench, and shown first */
  const own = $derived(lists.find(({ first }) => first));
  /** ids of the tabs: those every bench has, and the lists of this one */
  const tabs = $derived(['logbook', 'parts', ...lists.map(({ id }) => id)]);
  // the card is as high as it needs to be, within bounds, and so is a bench's own list, until somebody drags an edge
  const OWN = 'ulvrin-card-height';
  const LOWEST = 24;
  /** percent of the logbook's panel, and where a bench's own list is worked through */
  const [BOOK, LIST] = [23, 38];
  // without faces there is nothing to read
  const highest = $derived(job.active?.cage?.faceCount ? 50 : 64);
  let cardPane: Pane | undefined = $state();
  let card = $state(0);
  let whole = $state(0);
  let isOwn = $state(localStorage.getItem(OWN) !== null);
  $effect(() => {
    const wanted = Math.min(highest, Math.max(LOWEST, (100 * card) / Math.max(1, whole)));
    if (card > 0) resize(cardPane, wanted);
  });
  let bookPane: Pane | undefined = $state();
  $effect(() => {
    resize(bookPane, own ? LIST : BOOK);
  });
  /** Sizes a panel, unless somebody has; what follows from that is no reason to do it again. */
  function resize(pane: Pane | undefined, percent: number) {
    if (!isOwn) untrack(() => pane?.resize(percent));
  }
  function dragged(isDragging: boolean) {
    if (!isDragging) return;
    isOwn = true;
    localStorage.setItem(OWN, 'own');
  }
  // a bench may show a list of its own first
  let at: number | undefined;
  $effect(() => {
    const { bench } = job.view;
    if (at !== undefined && at !== bench) job.view.panel = own?.id ?? 'logbook';
    at = bench;
  });
</script>

<div class="whole" bind:offsetHeight={whole}>
  <PaneGroup direction="vertical" class="side" autoSaveId="ulvrin-side-2">
    <svelte:boundary onerror={(error) => console.error(error)}>
      <Pane bind:this={cardPane} defaultSize={30} minSize={22} class="pane"><Card {job} {onframe} bind:height={card} /></Pane>
      <PaneResizer class="resizer flat" onDraggingChange={dragged} />
      <Pane defaultSize={47} minSize={10} class="pane"><Readings {job} {deviations} /></Pane>
      {#snippet failed(error, again)}<FailureNote what="These panels have failed." {error} {job} {again} />{/snippet}
    </svelte:boundary>
    <PaneResizer class="resizer flat" onDraggingChange={dragged} />
    <Pane bind:this={bookPane} defaultSize={BOOK} minSize={12} class="pane book">
      {#key lists}
        <Tabs
          autoWidth
          selected={Math.max(0, tabs.indexOf(job.view.panel))}
          on:change={({ detail }) => {
            job.view.panel = tabs[detail];
          }}
        >
          <Tab label="Logbook" />
          <Tab label="Parts" />
          {#each lists as { id, name } (id)}<Tab label={name} />{/each}
          <svelte:fragment slot="content">
            <TabContent><LogbookPanel {job} /></TabContent>
            <TabContent><PartsPanel {job} /></TabContent>
            {#each lists as { id, component: Listed } (id)}<TabContent><Listed {job} {onframe} /></TabContent>{/each}
          </svelte:fragment>
        </Tabs>
      {/key}
    </Pane>
  </PaneGroup>
</div>

<style>
  .whole {
    height: 100%;
  }
  :global(.side) {
    background: var(--panel);
  }
  :global(.side .pane) {
    overflow-y: auto !important;
    scrollbar-gutter: stable;
    scrollbar-width: thin;
  }
  :global(.side .book .bx--tabs) {
    position: sticky;
    top: 0;
    min-height: 32px;
    background: var(--panel);
    z-index: 1;
  }
  :global(.side .book .bx--tabs__nav-link) {
    height: 32px;
    padding: 0 9px;
    font-size: 13px;
    line-height: 30px;
  }
  /* four tabs stand side by side in a narrow window too */
  @media (max-width: 1150px) {
    :global(.side .book .bx--tabs__nav-link) {
      padding: 0 4px;
      font-size: 12px;
    }
  }
  /* where the focus is an outline alone tells it: the text stays where it is */
  :global(.side .book a.bx--tabs__nav-link:focus) {
    border-bottom: 2px solid var(--cobalt);
  }
  :global(.side .book .bx--tabs__nav-item-label) {
    color: var(--ink);
  }
  :global(.side .book .bx--tab-content) {
    padding: 4px 0;
  }
</style>
