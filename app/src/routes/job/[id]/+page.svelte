<script lang="ts">
  import { resolve } from '$app/paths';
  import { page } from '$app/state';
  import { onMount } from 'svelte';
  import { InlineNotification } from 'carbon-components-svelte';
  import { Pane, PaneGroup, PaneResizer } from 'paneforge';
  import {
    allOf,
    borderOf,
    findAll,
    converted,
    inverted,
    pathBetween,
    united,
    type Cage,
    type Selection,
    edgeLoop,
    edgeRing,
    emptySelection,
    grown,
    isEmpty,
    kindOf,
    LOWER_ROW,
    onlyShown,
    operationById,
    operations,
    rackAt,
    selectEdges,
    shrunk,
    UPPER_ROW,
    type Bench,
    type Operation
  } from '@ulvrin/core';
  import BringInDialog from '$lib/panels/BringInDialog.svelte';
  import Card from '$lib/panels/Card.svelte';
  import Deliver from '$lib/panels/Deliver.svelte';
  import JobRail from '$lib/panels/JobRail.svelte';
  import KeySheet from '$lib/panels/KeySheet.svelte';
  import LogbookPanel from '$lib/panels/LogbookPanel.svelte';
  import Lookup, { type Found } from '$lib/panels/Lookup.svelte';
  import PartsPanel from '$lib/panels/PartsPanel.svelte';
  import Rack from '$lib/panels/Rack.svelte';
  import Readings from '$lib/panels/Readings.svelte';
  import CompareView from '$lib/stand/CompareView.svelte';
  import StandView from '$lib/stand/StandView.svelte';
  import type { PickKind } from '$lib/stand/picking.ts';
  import type { Stand } from '$lib/stand/stand.ts';
  import { DeviationMeter } from '$lib/job/deviation-meter.svelte.ts';
  import { openedLogbook } from '$lib/document/opened-logbook.ts';
  import { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { codeOf, defaultBindings, isTyping, loadKeys, pressed, readable, saveKeys } from '$lib/keys.ts';
  import FailureNote from '$lib/panels/FailureNote.svelte';
  import KeeperNote from '$lib/panels/KeeperNote.svelte';
  import MissingJob, { type Missing } from '$lib/panels/MissingJob.svelte';
  import { loadJob, type StoredJob } from '$lib/storage/job-store.ts';
  import { favourites } from '$lib/favourites.svelte.ts';
  import { readySolids } from '$lib/solids.ts';
  import { theme } from '$lib/theme.svelte.ts';

  let job: OpenJob | undefined = $state.raw();
  /** why no job is shown */
  let missing: Missing | undefined = $state.raw();
  /** what is being replayed while a job is opened */
  let opening = $state('');
  let stand: Stand | undefined = $state.raw();
  let hovered = $state('');
  let dialog: 'lookup' | 'keys' | 'deliver' | undefined = $state();
  let dropped: File | undefined = $state.raw();
  let delivered = $state('');
  let keys = $state.raw(loadKeys());
  let chooser: HTMLInputElement | undefined = $state();
  let briefOpen = $state(true);

  onMount(() => favourites.load());

  // the address says which job is shown, whatever led to it
  $effect(() => {
    const id = page.params.id!;
    let gone = false;
    let opened: OpenJob | undefined;
    job = undefined;
    missing = undefined;
    open(id).then(
      (made) => {
        opened = made;
        if (gone) made?.end();
        else job = made;
      },
      (error: unknown) => (missing = { why: 'failed', error })
    );
    return () => {
      gone = true;
      opened?.end();
    };
  });

  /** Opens a stored job; the library for solids must be there before entries that need it are replayed. */
  async function open(id: string): Promise<OpenJob | undefined> {
    let stored: StoredJob | undefined;
    try {
      stored = await loadJob(id);
    } catch (error) {
      missing = { why: 'closed', error };
      return undefined;
    }
    if (!stored || stored.job.deleted) {
      missing = { why: stored ? 'deleted' : 'unknown' };
      return undefined;
    }
    const ready = readySolids().catch(() => undefined);
    if (stored.entries.some((e) => operationById(e.operation)?.kind === 'parts')) await ready;
    const made = new OpenJob(stored, await openedLogbook(stored, (what) => (opening = what)));
    await made.keeper.begin();
    return made;
  }

  const meter = new DeviationMeter();
  onMount(() => () => meter.end());
  $effect(() => void meter.measure(job?.reference?.mesh, job?.active));

  function start(operation: Operation) {
    if (!job) return;
    if (operation.id === 'bring-in') return chooser?.click();
    job.start(operation);
  }

  const kinds: { id: PickKind; label: string }[] = [
    { id: 'vertex', label: 'vertices' },
    { id: 'edge', label: 'edges' },
    { id: 'face', label: 'faces' },
    { id: 'nearest', label: 'nearest' }
  ];

  function changePick(kind: PickKind) {
    if (!job) return;
    job.view.pick = kind;
    job.saveViewSoon();
  }

  function fromEdges(take: (e: number) => number[]) {
    const cage = job?.active?.cage;
    if (!job || !cage) return;
    if (job.selection.edges.length === 0) return job.tell('info', 'Pick an edge first.');
    job.selection = selectEdges(job.selection.edges.flatMap(take));
  }

  /** Brings what is picked into view, or everything where nothing is. */
  function framePicked() {
    const cage = job?.active?.cage;
    stand?.frame(cage && !isEmpty(job!.selection) ? stand.selectionPoints(cage, job!.selection) : undefined);
  }

  /** Adds the shortest way from the last pick to what is under the pointer. */
  function takePath() {
    const cage = job?.active?.cage;
    if (!job || !cage) return;
    if (!job.hovered || isEmpty(job.selection)) return job.tell('info', 'Shortest path: pick where it begins, then point at where it ends.');
    const path = pathBetween(cage, job.selection, job.hovered);
    if (path) job.selection = united(job.selection, path);
    else job.tell('error', 'Shortest path: no way leads from the last pick to the pointer; they are on different islands.');
  }

  /** Selections that have no key of their own, for the lookup. */
  const pickings: [string, string, (cage: Cage, s: Selection) => Selection][] = [
    ['Invert the selection', 'Pick everything of the same kind that is not picked now', inverted],
    ['Selection to vertices', 'Turn the selection into its vertices', (cage, s) => converted(cage, s, 'vertex')],
    ['Selection to edges', 'Turn the selection into the edges inside it', (cage, s) => converted(cage, s, 'edge')],
    ['Selection to faces', 'Turn the selection into the faces inside it', (cage, s) => converted(cage, s, 'face')],
    ...(['triangles', 'quads', 'n-gons', 'poles', 'borders'] as const).map(
      (what) =>
        [`Pick all ${what}`, `Select every one of the ${what}`, (cage: Cage) => findAll(cage, what)] as [string, string, (cage: Cage) => Selection]
    )
  ];

  /** Every action a key or the lookup can call, by binding id. */
  function act(id: string) {
    if (!job) return;
    const { view } = job;
    const cage = job.active?.cage;
    const rack = rackAt(view.bench);
    if (id.startsWith('bench-')) view.bench = Number(id.slice(6)) as Bench;
    else if (id.startsWith('pick-')) changePick(id.slice(5) as PickKind);
    else if (id.startsWith('upper-')) {
      const operation = rack.upper[(UPPER_ROW as readonly string[]).indexOf(id.slice(6))];
      if (operation) start(operation);
    } else if (id.startsWith('lower-')) {
      const operation = rack.lower[(LOWER_ROW as readonly string[]).indexOf(id.slice(6))];
      if (operation) start(operation);
    } else if (id.startsWith('mine-')) {
      const operation = operationById(favourites.ids[Number(id.slice(5)) - 1] ?? '');
      if (operation) start(operation);
      else job.tell('info', 'This place of the personal row is free: pin an operation there with the star in the rack.');
    } else {
      const actions: Record<string, () => unknown> = {
        smooth: () => (view.smooth = !view.smooth),
        cage: () => (view.cage = !view.cage),
        all: pickAll,
        shrink: () => cage && (job!.selection = shrunk(cage, job!.selection)),
        grow: () => cage && (job!.selection = grown(cage, job!.selection)),
        loop: () => fromEdges((e) => edgeLoop(cage!, e, view.mostTurn).edges),
        ring: () => fromEdges((e) => edgeRing(cage!, e).edges),
        border: () => fromEdges((e) => borderOf(cage!, e)),
        isolate: () => job!.isolate(),
        section: toggleSection,
        frame: framePicked,
        path: takePath,
        repeat: () => job!.repeat(),
        apply: () => job!.apply(true),
        escape: () => job!.escape(),
        delete: () => start(operationById('delete')!),
        undo: () => job!.undo(),
        redo: () => job!.redo(),
        lookup: () => (dialog = 'lookup'),
        keys: () => (dialog = 'keys')
      };
      actions[id]?.();
    }
    job.saveViewSoon();
  }

  /** Picks everything of the kind that is picked now, shown faces alone; a second time nothing. */
  function pickAll() {
    const cage = job?.active?.cage;
    if (!job || !cage) return;
    const kind = job.view.pick === 'nearest' ? kindOf(job.selection) : job.view.pick;
    const everything = onlyShown(cage, allOf(cage, kind), job.isolated);
    const picked = { vertices: everything.vertices.length, edges: everything.edges.length, faces: everything.faces.length };
    const { vertices, edges, faces } = job.selection;
    const isAll = vertices.length === picked.vertices && edges.length === picked.edges && faces.length === picked.faces;
    job.selection = isAll ? emptySelection() : everything;
  }

  function toggleSection() {
    if (!job || !stand) return;
    const cage = job.active?.cage;
    if (job.section) return void (job.section = undefined);
    const points = cage && !isEmpty(job.selection) ? stand.selectionPoints(cage, job.selection) : undefined;
    const centre: [number, number, number] = [0, 0, 0];
    if (points) for (let i = 0; i < points.length; i++) centre[i % 3] += points[i] / (points.length / 3);
    job.section = { point: points ? centre : stand.cameraState.target, offset: 0 };
  }

  function keydown(event: KeyboardEvent) {
    if (!job || dialog === 'keys' || dropped) return;
    const code = pressed(event);
    if (dialog) return;
    const typing = isTyping(event);
    if (typing) {
      if (event.code === 'Escape') (event.target as HTMLElement).blur();
      if (event.code === 'Enter') {
        (event.target as HTMLElement).blur();
        job.apply(true);
      }
      if (!/^Control\+(KeyZ|Shift\+KeyZ|KeyK)$/.test(code)) return;
    }
    // while an operation runs, digits, point and minus go to its first field
    if (job.running && !typing && /^[0-9.,-]$/.test(event.key)) {
      const field = document.querySelector<HTMLInputElement>('section[aria-label="Card"] input[type="number"]');
      if (field) {
        // the page itself never scrolls
        field.focus({ preventScroll: true });
        field.value = '';
        return;
      }
    }
    const binding = defaultBindings.find((b) => codeOf(b, keys) === code);
    if (!binding || (!keys.letters && /^(Shift\+)?(Key|Digit|Backquote)/.test(code))) return;
    if (document.activeElement instanceof HTMLButtonElement && event.code === 'Enter' && !job.running) return;
    event.preventDefault();
    act(binding.id);
  }

  const found = $derived.by((): Found[] => {
    if (!job) return [];
    const open = job;
    const named = operations.map((o) => ({ name: o.name, purpose: o.purpose, key: o.key, why: open.whyNot(o), run: () => start(o) }));
    const rest = defaultBindings
      .filter((b) => !/^(upper|lower|mine)-/.test(b.id) && b.id !== 'delete')
      .map((b) => ({ name: b.label, purpose: 'View, picking or setting', key: readable(codeOf(b, keys)), run: () => act(b.id) }));
    const picks = pickings.map(([name, purpose, take]) => ({
      name,
      purpose,
      run: () => {
        if (open.active?.cage) open.selection = take(open.active.cage, open.selection);
      }
    }));
    const more = [
      {
        name: 'Take away',
        purpose: 'Save the cage or the smooth surface as OBJ, PLY, STL, OFF or usda; export the job',
        run: () => (dialog = 'deliver')
      },
      { name: 'Night theme or light', purpose: 'Change the colours', run: () => theme.set(!theme.night) }
    ];
    return [...named, ...picks, ...rest, ...more] as Found[];
  });

  const hint = $derived(
    !job
      ? ''
      : job.task
        ? 'A task runs in the background: the view stays free; Stop is on the card.'
        : job.pointing
          ? job.pointing.kind === 'surface'
            ? 'Drag a point of the smooth surface across the view, or click it and type how far. Enter applies, Esc discards.'
            : 'Click places (edges are drawn to their middle and thirds). Enter applies, Esc discards.'
          : job.running?.operation.id === 'auto-quads'
            ? 'Type numbers, or choose what dragging over the surface draws, under Steer. Enter lays quads, Esc discards.'
            : job.running
              ? 'Drag the handles or type numbers; Alt-drag a handle draws faces out first. Enter applies, Esc discards.'
              : hovered
                ? `${hovered}. Click picks, Shift-click adds, double-click takes the loop, right click: more.`
                : 'Right-drag orbits, middle-drag pans, the wheel zooms. Ctrl+K looks anything up, ? shows the keys.'
  );
  const overlays = [
    ['triangles', 'triangles'],
    ['ngons', 'n-gons'],
    ['poles', 'poles'],
    ['borders', 'borders'],
    ['creases', 'creases'],
    ['density', 'density'],
    ['deviation', 'deviation']
  ] as const;

  /** What the contour lines of the deviation mean. @param most mm */
  function deviationLine(most: number): string {
    if (most === 0) return 'smooth surface lies on the reference';
    const lines = [0.25, 0.5, 0.75].map((share) => (share * most).toFixed(3)).join(', ');
    return `smooth surface off the reference, lines at ${lines} mm; most ${most.toFixed(3)} mm`;
  }
</script>

<svelte:head><title>{job ? `${job.name}: Ulvrin` : 'Ulvrin'}</title></svelte:head>
<svelte:window
  onkeydown={keydown}
  onbeforeunload={(e) => job?.keeper.unsaved && e.preventDefault()}
  onpagehide={() => void job?.save()}
  ondragover={(e) => e.preventDefault()}
  ondrop={(e) => {
    e.preventDefault();
    dropped = e.dataTransfer?.files[0];
  }}
/>

{#if missing}
  <MissingJob {...missing} id={page.params.id!} />
{:else if job}
  {@const open = job}
  <div class="workshop">
    <header>
      <a href={resolve('/')} class="home" title="To the jobs">Ulvrin</a>
      <strong>{open.name}</strong>
      <span class="gap"></span>
      <div class="group" role="group" aria-label="Pick">
        {#each kinds as kind (kind.id)}<button aria-pressed={open.view.pick === kind.id} onclick={() => changePick(kind.id)}>{kind.label}</button
          >{/each}
      </div>
      <div class="group" role="group" aria-label="Shown">
        <button aria-pressed={open.view.cage} title="Cage (Y)" onclick={() => act('cage')}>cage</button>
        <input
          type="range"
          min="0.1"
          max="1"
          step="0.05"
          title="Cage opacity"
          aria-label="Cage opacity"
          bind:value={open.view.cageOpacity}
          onchange={() => open.saveViewSoon()}
        />
        <button aria-pressed={open.view.smooth} title="Smooth surface (T)" onclick={() => act('smooth')}>smooth</button>
        <label
          >level <select bind:value={open.view.level} onchange={() => open.saveViewSoon()}
            >{#each [0, 1, 2, 3, 4] as level (level)}<option value={level}>{level}</option>{/each}</select
          ></label
        >
        {#if open.view.smooth && open.shownLevel !== undefined && open.shownLevel < open.view.level}
          <span class="quiet" title="Level {open.view.level} of this cage has more faces than can be drawn; level {open.shownLevel} is shown"
            >shown: {open.shownLevel}</span
          >
        {/if}
        <button
          aria-pressed={open.view.compare !== undefined}
          title="Two panes with one eye: against all levels smooth, the state before the last entry, or another part"
          onclick={() => ((open.view.compare = open.view.compare === undefined ? 'smooth' : undefined), open.saveViewSoon())}>compare</button
        >
      </div>
      <div class="group" role="group" aria-label="Overlays">
        {#each overlays as [id, label] (id)}<button
            aria-pressed={open.view.overlays[id]}
            onclick={() => ((open.view.overlays[id] = !open.view.overlays[id]), open.saveViewSoon())}>{label}</button
          >{/each}
      </div>
      <button class="take" onclick={() => (dialog = 'deliver')}>Take away</button>
      <button class="plain" title="Light or night" onclick={() => theme.set(!theme.night)}>{theme.night ? 'light' : 'night'}</button>
    </header>
    <div class="body">
      <div class="rail"><JobRail job={open} {delivered} /></div>
      <div class="rack"><Rack job={open} onstart={start} /></div>
      <PaneGroup direction="horizontal" class="panes" autoSaveId="ulvrin-panes">
        <Pane defaultSize={70} minSize={40}>
          <div class="stand">
            <div class="panes-of-stand" class:two={open.view.compare !== undefined}>
              <svelte:boundary onerror={(error) => console.error(error)}>
                <StandView job={open} deviations={meter.found} bind:stand onhover={(what) => (hovered = what)} />
                {#if open.view.compare !== undefined && stand}<CompareView job={open} {stand} />{/if}
                {#snippet failed(error, again)}<FailureNote what="The stand has failed." {error} job={open} {again} />{/snippet}
              </svelte:boundary>
            </div>
            <div class="corner" class:beside={open.view.compare !== undefined}>
              <KeeperNote job={open} />
              {#if open.record.brief && briefOpen}
                <div class="brief">
                  <strong>Brief</strong>
                  {open.record.brief}<button class="plain" onclick={() => (briefOpen = false)}>Close</button>
                </div>
              {/if}
              {#if open.view.overlays.deviation && !open.running}
                <div class="legend" role="note" aria-label="Deviation">
                  {#if meter.found}
                    {deviationLine(meter.found.smooth.most)}
                  {:else if meter.problem}{meter.problem}
                  {:else}{open.reference
                      ? 'measuring how far the smooth surface is off'
                      : 'no reference to measure the deviation from: bring one in'}{/if}
                </div>
              {/if}
            </div>
            {#if open.section}
              <label class="section"
                >Section <input
                  type="range"
                  min="-100"
                  max="100"
                  step="0.5"
                  value={open.section.offset}
                  oninput={(e) => (open.section = { ...open.section!, offset: Number(e.currentTarget.value) })}
                /> <span class="number">{open.section.offset.toFixed(1)} mm</span></label
              >
            {/if}
            {#if open.isolated}<div class="badge">isolated: {open.isolated.length.toLocaleString('en')} faces (` shows all)</div>{/if}
            {#if open.message}
              <div class="message">
                <InlineNotification
                  kind={open.message.kind}
                  lowContrast
                  title=""
                  subtitle={open.message.text}
                  on:close={() => (open.message = undefined)}
                />
              </div>
            {/if}
          </div>
        </Pane>
        <PaneResizer class="resizer" />
        <Pane defaultSize={30} minSize={22}>
          <div class="right" class:working={open.running !== undefined}>
            <svelte:boundary onerror={(error) => console.error(error)}>
              <div class="card"><Card job={open} onframe={framePicked} /></div>
              <div class="readings"><Readings job={open} deviations={meter.found} /></div>
              {#snippet failed(error, again)}<FailureNote what="These panels have failed." {error} job={open} {again} />{/snippet}
            </svelte:boundary>
            <div class="book">
              <div class="tabs" role="tablist">
                <button role="tab" aria-selected={open.view.panel === 'logbook'} onclick={() => (open.view.panel = 'logbook')}>Logbook</button>
                <button role="tab" aria-selected={open.view.panel === 'parts'} onclick={() => (open.view.panel = 'parts')}>Parts</button>
              </div>
              {#if open.view.panel === 'logbook'}<LogbookPanel job={open} />{:else}<PartsPanel job={open} />{/if}
            </div>
          </div>
        </Pane>
      </PaneGroup>
    </div>
    <footer>
      <span data-testid="hint">{hint}</span>
      <span class="gap"></span>
      {#if open.measures}<span class="number"
          >{open.measures.vertices.toLocaleString('en')} v, {open.measures.edges.toLocaleString('en')} e, {open.measures.faces.toLocaleString('en')} f</span
        >{/if}
      <span class="number" data-testid="saved">{open.keeper.word}</span>
    </footer>
    <input
      bind:this={chooser}
      type="file"
      class="hidden"
      aria-label="File to bring in"
      accept=".obj,.ply,.stl,.off,.usda,.gz,.ulvrin"
      onchange={() => {
        dropped = chooser?.files?.[0];
        if (chooser) chooser.value = '';
      }}
    />
  </div>
  {#if dialog === 'lookup'}<Lookup items={found} onclose={() => (dialog = undefined)} />{/if}
  {#if dialog === 'keys'}
    <KeySheet
      bind:settings={
        () => keys,
        (value) => {
          keys = value;
          saveKeys(value);
        }
      }
      onclose={() => (dialog = undefined)}
    />
  {/if}
  {#if dialog === 'deliver'}<Deliver job={open} onclose={() => (dialog = undefined)} ondelivered={(what) => (delivered = `${what} saved`)} />{/if}
  {#if dropped}<BringInDialog file={dropped} job={open} onclose={() => (dropped = undefined)} />{/if}
{:else}
  <p class="missing quiet" role="status">Opening the job{opening ? `, ${opening}` : ''} ...</p>
{/if}

<style>
  .workshop {
    user-select: none;
    display: grid;
    grid-template-rows: 40px 1fr 24px;
    height: 100vh;
    overflow: hidden;
  }
  header {
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 0 10px;
    background: var(--panel);
    border-bottom: 1px solid var(--line);
    white-space: nowrap;
    font-size: 13px;
  }
  header strong {
    overflow: hidden;
    text-overflow: ellipsis;
    min-width: 60px;
  }
  .home {
    color: var(--sea);
    font-weight: 600;
    text-decoration: none;
  }
  .gap {
    flex: 1;
  }
  .group {
    display: flex;
    align-items: center;
  }
  .group button,
  .take {
    border: 1px solid var(--line);
    background: var(--paper);
    color: inherit;
    font: inherit;
    font-size: 12px;
    padding: 3px 7px;
    cursor: pointer;
    margin-left: -1px;
  }
  .group button[aria-pressed='true'] {
    background: var(--cobalt);
    color: #fff;
    border-color: var(--cobalt);
  }
  :global(html[theme='g100']) .group button[aria-pressed='true'] {
    color: #14181b;
  }
  .group input[type='range'] {
    width: 54px;
    margin: 0 4px;
  }
  .group label {
    margin-left: 6px;
    font-size: 12px;
  }
  .group select {
    background: var(--paper);
    color: inherit;
    border: 1px solid var(--line);
  }
  .take {
    border-color: var(--sea);
  }
  .body {
    display: grid;
    grid-template-columns: 118px 136px 1fr;
    min-height: 0;
  }
  .rail,
  .rack {
    display: grid;
    min-height: 0;
  }
  .body :global(.resizer) {
    width: 5px;
    background: var(--line);
    cursor: col-resize;
  }
  .stand {
    position: relative;
    height: 100%;
  }
  .panes-of-stand {
    display: grid;
    height: 100%;
  }
  .panes-of-stand.two {
    grid-template-columns: 1fr 1fr;
    gap: 3px;
    background: var(--line);
  }
  .right {
    display: grid;
    grid-template-rows: minmax(150px, 41%) minmax(140px, 1fr) 21%;
    height: 100%;
    background: var(--panel);
  }
  /** a running operation has its fields, its ways and its forecast on the card */
  .working {
    grid-template-rows: minmax(150px, 56%) minmax(120px, 1fr) 15%;
  }
  .right > div {
    border-bottom: 1px solid var(--line);
    min-height: 0;
    overflow-y: auto;
  }
  .tabs {
    display: flex;
    position: sticky;
    top: 0;
    background: var(--panel);
  }
  .tabs button {
    flex: 1;
    border: 0;
    border-bottom: 2px solid transparent;
    background: none;
    color: inherit;
    font: inherit;
    font-size: 13px;
    padding: 4px;
    cursor: pointer;
  }
  .tabs [aria-selected='true'] {
    border-bottom-color: var(--cobalt);
    font-weight: 600;
  }
  footer {
    display: flex;
    gap: 14px;
    align-items: center;
    padding: 0 10px;
    font-size: 12px;
    background: var(--panel);
    border-top: 1px solid var(--line);
    white-space: nowrap;
    overflow: hidden;
  }
  .hidden {
    display: none;
  }
  .corner,
  .section,
  .badge {
    position: absolute;
    left: 10px;
  }
  .brief,
  .section,
  .legend,
  .badge {
    background: var(--panel);
    border: 1px solid var(--line);
    padding: 6px 10px;
    font-size: 12px;
  }
  .corner {
    top: 8px;
    max-width: min(380px, calc(100% - 190px));
    display: flex;
    flex-direction: column;
    gap: 6px;
    /* lets the pointer through beside them */
    pointer-events: none;
  }
  .brief {
    pointer-events: auto;
    border-left: 4px solid var(--sea);
  }
  .corner.beside {
    max-width: calc(50% - 190px);
    max-height: 60%;
  }
  .beside .brief {
    overflow-y: auto;
  }
  .section {
    bottom: 10px;
    display: flex;
    gap: 8px;
    align-items: center;
  }
  .badge {
    bottom: 48px;
  }
  .legend {
    border-left: 4px solid var(--deviation);
  }
  .message {
    position: absolute;
    left: 10px;
    right: 10px;
    bottom: 8px;
  }
  .message :global(.bx--inline-notification) {
    margin: 0;
    max-width: none;
    min-height: 0;
  }
  .missing {
    padding: 40px;
  }
</style>
