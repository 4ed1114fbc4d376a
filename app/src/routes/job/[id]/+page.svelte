<script lang="ts">
  import { page } from '$app/state';
  import { onMount } from 'svelte';
  import { Pane, PaneGroup, PaneResizer } from 'paneforge';
  import { acceptedFiles, type DeliveryRecord, type Operation } from '@ulvrin/core';
  import type { Dialog, Workshop } from '$lib/commands/command.ts';
  import { hintFor } from '$lib/commands/hint.ts';
  import { keydown } from '$lib/commands/keyboard.ts';
  import { heldLetters, noteKey } from '$lib/settings/keys.ts';
  import { call, everything } from '$lib/commands/registry.ts';
  import { framePicked, framePickedRound } from '$lib/commands/views.ts';
  import { openStored, type Missing } from '$lib/job/open-stored.ts';
  import { DeviationMeter } from '$lib/job/deviation-meter.svelte.ts';
  import { OpenJob } from '$lib/job/open-job.svelte.ts';
  import BringInDialog from '$lib/panels/BringInDialog.svelte';
  import Deliver from '$lib/panels/Deliver.svelte';
  import { keepVersions } from '$lib/document/auto-versions.ts';
  import DensityDialog from '$lib/panels/DensityDialog.svelte';
  import DoneWhenDialog from '$lib/panels/DoneWhenDialog.svelte';
  import FailureNote from '$lib/panels/FailureNote.svelte';
  import JobHeader from '$lib/panels/header/JobHeader.svelte';
  import JobRail from '$lib/panels/JobRail.svelte';
  import KeySheet from '$lib/panels/KeySheet.svelte';
  import Lookup from '$lib/panels/Lookup.svelte';
  import MissingJob from '$lib/panels/MissingJob.svelte';
  import PlacesDialog from '$lib/panels/PlacesDialog.svelte';
  import Rack from '$lib/panels/Rack.svelte';
  import { goto } from '$app/navigation';
  import { resolve } from '$app/paths';
  import RoutinesDialog from '$lib/panels/RoutinesDialog.svelte';
  import SparesDialog from '$lib/panels/SparesDialog.svelte';
  import SidePanel from '$lib/panels/SidePanel.svelte';
  import StandNotes from '$lib/panels/StandNotes.svelte';
  import SettingsDialog from '$lib/panels/SettingsDialog.svelte';
  import VersionsDialog from '$lib/panels/VersionsDialog.svelte';
  import { favourites } from '$lib/settings/favourites.svelte.ts';
  import { loadKeys, saveKeys, type KeySettings } from '$lib/settings/keys.ts';
  import { places } from '$lib/settings/places.svelte.ts';
  import { preferences } from '$lib/settings/preferences.svelte.ts';
  import CompareView from '$lib/stand/CompareView.svelte';
  import { panesOf } from '$lib/stand/panes.ts';
  import PickStrip from '$lib/stand/PickStrip.svelte';
  import TitleBlock from '$lib/stand/title-block/TitleBlock.svelte';
  import StandView from '$lib/stand/StandView.svelte';
  import type { Stand } from '$lib/stand/stand.ts';

  let job: OpenJob | undefined = $state.raw();
  /** why no job is shown */
  let missing: Missing | undefined = $state.raw();
  /** what is being replayed while a job is opened */
  let opening = $state('');
  let stand: Stand | undefined = $state.raw();
  let hovered = $state('');
  let dialog: Dialog | undefined = $state();
  let dropped: File | undefined = $state.raw();
  let keys = $state.raw(loadKeys());
  let chooser: HTMLInputElement | undefined = $state();
  const meter = new DeviationMeter();
  let width = $state(1280);
  let height = $state(800);
  const isSmall = $derived(width < 1000 || height < 640);

  const workshop = $derived.by((): Workshop | undefined => {
    if (!job) return undefined;
    return { job, stand, start, show: (asked) => (dialog = asked), toBatches: () => void goto(resolve('/batch')) };
  });

  onMount(() => {
    favourites.load();
    void places.load();
    preferences.load();
    return () => meter.end();
  });
  $effect(() => (job ? keepVersions(job) : undefined));
  $effect(() => void meter.measure(job?.reference?.mesh, job?.active));

  // the address says which job is shown, whatever led to it
  $effect(() => {
    const id = page.params.id!;
    let gone = false;
    let opened: OpenJob | undefined;
    job = missing = undefined;
    openStored(id, (what) => (opening = what)).then(
      (made) => {
        if (!(made instanceof OpenJob)) return void (missing = gone ? missing : made);
        opened = made;
        if (gone) made.end();
        else job = made;
      },
      (error: unknown) => (missing = { why: 'failed', error })
    );
    return () => {
      gone = true;
      opened?.end();
    };
  });

  function start(operation: Operation) {
    if (operation.kind === 'file') chooser?.click();
    else job?.start(operation);
  }

  function keepKeys(value: KeySettings) {
    keys = value;
    saveKeys(value);
  }

  function delivered(record: DeliveryRecord) {
    if (!job) return;
    job.view.deliveries = [...job.view.deliveries, record];
    job.saveViewSoon();
  }

  /** Takes what was chosen or dropped, once. */
  function chosen() {
    dropped = chooser?.files?.[0];
    if (chooser) chooser.value = '';
  }
</script>

<svelte:head><title>{job ? `${job.name}: Ulvrin` : 'Ulvrin'}</title></svelte:head>
<svelte:window
  bind:innerWidth={width}
  bind:innerHeight={height}
  onkeydown={(e) => workshop && !dialog && !dropped && keydown(e, workshop, keys)}
  onkeyup={noteKey}
  onblur={() => heldLetters.clear()}
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
{:else if job && workshop}
  {@const open = job}
  {@const panes = panesOf(open.view)}
  {@const hint = hintFor(open, hovered)}
  <div class="workshop">
    <JobHeader {workshop} />
    <div class="body">
      <div class="rail"><JobRail job={open} /></div>
      <div class="rack"><Rack job={open} onstart={start} oncall={(id) => call(id, workshop)} /></div>
      <PaneGroup direction="horizontal" class="panes" autoSaveId="ulvrin-panes">
        <Pane defaultSize={70} minSize={30}>
          <div class="stand">
            <div
              class="panes-of-stand"
              class:two={(panes.compares && open.view.wipe === undefined) || panes.sides.length === 1}
              class:four={panes.sides.length > 1}
            >
              <svelte:boundary onerror={(error) => console.error(error)}>
                <StandView job={open} {meter} bind:stand onhover={(what) => (hovered = what)} />
                {#each panes.sides as side (side)}
                  <StandView job={open} {meter} {side} onhover={(what) => (hovered = what)} />
                {/each}
                {#if panes.compares && stand}<CompareView job={open} {stand} />{/if}
                {#snippet failed(error, again)}<FailureNote what="The stand has failed." {error} job={open} {again} />{/snippet}
              </svelte:boundary>
            </div>
            <PickStrip job={open} />
            <StandNotes job={open} {meter} />
            <TitleBlock {workshop} {meter} />
          </div>
        </Pane>
        <PaneResizer class="resizer" />
        <Pane defaultSize={30} minSize={22} class="side-pane">
          <SidePanel job={open} deviations={meter.found} onframe={(round) => (round ? framePickedRound : framePicked)({ job: open, stand })} />
        </Pane>
      </PaneGroup>
    </div>
    <footer>
      <span class="hint" data-testid="hint" title={hint}>{hint}</span>
      <span class="gap"></span>
      {#if isSmall}<span class="quiet">This window is small: 1024 x 700 or more shows everything.</span>{/if}
      {#if open.measures}<span class="number"
          >{open.measures.vertices.toLocaleString('en')} v, {open.measures.edges.toLocaleString('en')} e, {open.measures.faces.toLocaleString('en')} f</span
        >{/if}
      <span class="number" data-testid="saved">{open.keeper.word}</span>
    </footer>
    <input bind:this={chooser} type="file" class="hidden" aria-label="File to bring in" accept={acceptedFiles} onchange={chosen} />
  </div>
  {#if dialog === 'lookup'}<Lookup items={everything(workshop, keys)} onclose={() => (dialog = undefined)} />{/if}
  {#if dialog === 'keys'}<KeySheet bind:settings={() => keys, keepKeys} onclose={() => (dialog = undefined)} />{/if}
  {#if dialog === 'settings'}
    <SettingsDialog bind:keys={() => keys, keepKeys} onkeys={() => (dialog = 'keys')} onclose={() => (dialog = undefined)} />
  {/if}
  {#if dialog === 'done-when'}<DoneWhenDialog job={open} onclose={() => (dialog = undefined)} />{/if}
  {#if dialog === 'spares'}<SparesDialog job={open} onclose={() => (dialog = undefined)} />{/if}
  {#if dialog === 'routines'}<RoutinesDialog job={open} onclose={() => (dialog = undefined)} />{/if}
  {#if dialog === 'versions'}<VersionsDialog job={open} onclose={() => (dialog = undefined)} />{/if}
  {#if dialog === 'destinations'}<PlacesDialog onclose={() => (dialog = undefined)} />{/if}
  {#if dialog === 'density'}<DensityDialog job={open} onclose={() => (dialog = undefined)} />{/if}
  {#if dialog === 'deliver'}<Deliver job={open} onclose={() => (dialog = undefined)} ondelivered={delivered} />{/if}
  {#if dropped}<BringInDialog file={dropped} job={open} onclose={() => (dropped = undefined)} />{/if}
{:else}
  <p class="missing quiet" role="status">Opening the job{opening ? `, ${opening}` : ''} ...</p>
{/if}

<style>
  .workshop {
    user-select: none;
    display: grid;
    grid-template-rows: 40px minmax(0, 1fr) 26px;
    height: 100dvh;
    overflow: hidden;
  }
  .workshop > :global(*) {
    min-width: 0;
  }
  .gap {
    flex: 1;
  }
  .body {
    display: grid;
    grid-template-columns: 132px 162px minmax(0, 1fr);
    min-height: 0;
  }
  .rail,
  .rack {
    display: grid;
    min-height: 0;
  }
  .body :global(.resizer) {
    flex: none;
    width: 5px;
    background: var(--panel);
    border-inline: solid var(--line);
    border-width: 0 1px;
    cursor: col-resize;
  }
  .body :global(.resizer.flat) {
    width: auto;
    height: 5px;
    border-inline: 0;
    border-bottom: 1px solid var(--line);
    cursor: row-resize;
  }
  .body :global(.resizer:hover),
  .body :global(.resizer[data-active]) {
    background: var(--picked);
  }
  /* narrow windows and large letters: the rail shrinks to its numbers */
  @media (max-width: 1100px) {
    .body {
      grid-template-columns: 118px 134px minmax(0, 1fr);
    }
  }
  @media (max-width: 860px) {
    .body {
      grid-template-columns: 46px 64px minmax(0, 1fr);
    }
    .rack :global(.label),
    .rack :global(h4),
    .rack :global(.pin) {
      display: none;
    }
    .rack :global(.key) {
      grid-template-columns: 20px 18px;
    }
    .rail :global(.name),
    .rail :global(.state) {
      display: none;
    }
  }
  .body :global(.side-pane) {
    min-width: 226px;
  }
  .stand {
    position: relative;
    height: 100%;
    container-type: inline-size;
  }
  .panes-of-stand {
    position: relative;
    display: grid;
    height: 100%;
  }
  .panes-of-stand.two,
  .panes-of-stand.four {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    gap: 3px;
    background: var(--line);
  }
  .panes-of-stand.four {
    grid-template-rows: minmax(0, 1fr) minmax(0, 1fr);
  }
  footer {
    display: flex;
    gap: 14px;
    align-items: center;
    padding: 0 16px;
    font-size: 12px;
    color: var(--soft);
    background: var(--rail);
    border-top: 1px solid var(--line);
    white-space: nowrap;
    overflow: hidden;
  }
  .hint {
    overflow: hidden;
    text-overflow: ellipsis;
    min-width: 0;
  }
  .hidden {
    display: none;
  }
  .missing {
    padding: 40px;
  }
</style>
