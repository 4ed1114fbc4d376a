<script lang="ts">
  import { resolve } from '$app/paths';
  import { goto } from '$app/navigation';
  import { Button, Search, Select, SelectItem, SkeletonPlaceholder, ToastNotification } from 'carbon-components-svelte';
  import Add from 'carbon-icons-svelte/lib/Add.svelte';
  import Asleep from 'carbon-icons-svelte/lib/Asleep.svelte';
  import Light from 'carbon-icons-svelte/lib/Light.svelte';
  import Upload from 'carbon-icons-svelte/lib/Upload.svelte';
  import { onMount } from 'svelte';
  import { acceptedFiles, formatNames } from '@ulvrin/core';
  import BringInDialog from '$lib/panels/BringInDialog.svelte';
  import Mark from '$lib/panels/header/Mark.svelte';
  import RenameDialog from '$lib/panels/RenameDialog.svelte';
  import DemoTile from '$lib/panels/jobs/DemoTile.svelte';
  import JobTile from '$lib/panels/jobs/JobTile.svelte';
  import RecentFiles from '$lib/panels/jobs/RecentFiles.svelte';
  import StartHere from '$lib/panels/jobs/StartHere.svelte';
  import StorageRoom from '$lib/panels/jobs/StorageRoom.svelte';
  import TemplateTiles from '$lib/panels/jobs/TemplateTiles.svelte';
  import TrashTiles from '$lib/panels/jobs/TrashTiles.svelte';
  import { shownJobs, sorts, type SortBy } from '$lib/panels/jobs/wall.ts';
  import { listDemos, openDemo, type DemoEntry } from '$lib/job/demo-files.ts';
  import {
    createJob,
    deleteJob,
    duplicateJob,
    emptyTrash,
    listJobs,
    listTemplates,
    listTrash,
    newJobId,
    renameJob,
    restoreJob,
    type Tile
  } from '$lib/platform/storage/job-store.ts';
  import { tellOpenPages } from '$lib/document/job-lock.ts';
  import { exportStored } from '$lib/document/export-job.svelte.ts';
  import { whenBlocked, type FileRecord } from '$lib/platform/storage/database.ts';
  import { forgetFile, openRecent, recentFiles } from '$lib/platform/storage/recent-files.ts';
  import { askToKeep, describeClosed, roomLeft, type Room } from '$lib/platform/storage/storage-state.ts';
  import { theme } from '$lib/settings/theme.svelte.ts';

  /** nothing until the storage has answered */
  let jobs: Tile[] | undefined = $state();
  let templates: Tile[] = $state([]);
  let trash: Tile[] = $state([]);
  let files: FileRecord[] = $state.raw([]);
  let room: Room | undefined = $state.raw();
  let closed = $state('');
  let demos: DemoEntry[] = $state.raw([]);
  let busy = $state('');
  let problem = $state('');
  let renaming: Tile | undefined = $state();
  let undoable: { text: string; more?: string; undo?: () => Promise<unknown> } | undefined = $state();
  let dropped: File | undefined = $state();
  let dragging = $state(false);
  let chooser: HTMLInputElement;

  onMount(async () => {
    whenBlocked(() => (closed = describeClosed(new Error('another tab holds an older version of it'))));
    try {
      await emptyTrash();
      await refresh();
      closed = '';
    } catch (error) {
      closed = describeClosed(error);
    }
    try {
      demos = await listDemos();
    } catch (error) {
      problem = String(error instanceof Error ? error.message : error);
    }
  });

  async function refresh() {
    [jobs, templates, trash, files] = await Promise.all([listJobs(), listTemplates(), listTrash(), recentFiles()]);
    room = await roomLeft();
  }

  /** Does something to the stored jobs, tells what went wrong, and shows what is there now. */
  async function doing(work: () => Promise<unknown>) {
    problem = '';
    try {
      await work();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
    await refresh().catch((error) => (closed = describeClosed(error)));
  }

  async function startDemo(demo: DemoEntry) {
    busy = `Opening ${demo.name} ...`;
    try {
      const job = await openDemo(demo);
      void askToKeep();
      await goto(resolve('/job/[id]', { id: job.id }));
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    } finally {
      busy = '';
    }
  }

  async function resetDemo(job: Tile) {
    const demo = demos.find((d) => d.id === job.demo);
    if (!demo) return;
    busy = `Resetting ${job.name} ...`;
    await doing(async () => {
      await openDemo(demo, $state.snapshot(job));
      tellOpenPages(job.id, { is: 'restored' });
      undoable = { text: `${job.name} was reset.`, more: 'The earlier version is in the trash.' };
    });
    busy = '';
  }

  const rename = (job: Tile, name: string) =>
    doing(async () => {
      await renameJob(job.id, name);
      tellOpenPages(job.id, { is: 'renamed', name });
    });

  const remove = (job: Tile) =>
    doing(async () => {
      await deleteJob(job.id);
      tellOpenPages(job.id, { is: 'deleted' });
      undoable = { text: `${job.name} was deleted.`, undo: () => restore(job) };
    });

  const restore = (job: Tile) =>
    doing(async () => {
      await restoreJob(job.id);
      tellOpenPages(job.id, { is: 'restored' });
    });

  const startFrom = (template: Tile) =>
    doing(async () => {
      const job = await duplicateJob(template.id, { name: template.name });
      if (job) await goto(resolve('/job/[id]', { id: job.id }));
    });

  let making = false;
  async function emptyJob() {
    if (making) return;
    making = true;
    await doing(async () => {
      const job = await createJob({ id: newJobId(), name: 'New job' }, [], { bench: 1 });
      void askToKeep();
      await goto(resolve('/job/[id]', { id: job.id }));
    });
    making = false;
  }

  let typed = $state('');
  let sortBy: SortBy = $state('changed');
  const shown = $derived(shownJobs(jobs ?? [], typed, sortBy));
  /** of a first visit */
  const first = $derived(jobs?.length === 0 ? demos[0] : undefined);
  const acts = (job: Tile) => [
    { text: 'Rename', run: () => (renaming = job) },
    { text: 'Duplicate', run: () => doing(() => duplicateJob(job.id)) },
    { text: 'Keep as a template', run: () => doing(() => duplicateJob(job.id, { name: job.name, template: true })) },
    { text: 'Export', run: () => doing(() => exportStored(job.id)) },
    ...(job.demo ? [{ text: 'Reset', run: () => resetDemo(job) }] : []),
    { text: 'Delete', danger: true, run: () => remove(job) }
  ];

  function drop(event: DragEvent) {
    event.preventDefault();
    dragging = false;
    dropped = event.dataTransfer?.files[0];
  }
</script>

<svelte:head><title>Ulvrin: jobs</title></svelte:head>
<svelte:window
  ondragover={(e) => {
    e.preventDefault();
    dragging = true;
  }}
  ondragleave={(e) => e.relatedTarget === null && (dragging = false)}
  ondrop={drop}
/>

<div class="page" class:dragging>
  <header>
    <Mark />
    <h1>Ulvrin</h1>
    <p class="quiet about">A workshop for cages: the coarse quads that smooth surfaces are built from</p>
    <div class="search"><Search size="sm" placeholder="Find a job" labelText="Find a job" bind:value={typed} /></div>
    <button
      class="icon"
      aria-label={theme.night ? 'Light theme' : 'Night theme'}
      title={theme.night ? 'Light theme' : 'Night theme'}
      onclick={() => theme.set(!theme.night)}
      >{#if theme.night}<Light />{:else}<Asleep />{/if}</button
    >
    <Button kind="ghost" size="small" href={resolve('/batch')}>Batch</Button>
    <Button kind="tertiary" size="small" icon={Add} on:click={emptyJob}>New job</Button>
    <Button size="small" icon={Upload} on:click={() => chooser.click()}>Bring in a file</Button>
    <input
      bind:this={chooser}
      type="file"
      class="hidden"
      aria-label="File to bring in"
      accept={acceptedFiles}
      onchange={() => {
        dropped = chooser.files?.[0];
        chooser.value = '';
      }}
    />
  </header>

  <main>
    {#if problem}<p class="problem" role="alert">{problem}</p>{/if}
    {#if busy}<p class="quiet" role="status">{busy}</p>{/if}
    {#if closed}<p class="problem" role="alert">{closed}</p>{/if}
    {#if first}<StartHere demo={first} busy={busy !== ''} onopen={() => startDemo(first)} />{/if}

    <div class="heading">
      <h2>Your jobs</h2>
      {#if jobs?.length}
        <span class="quiet">{shown.length === jobs.length ? jobs.length : `${shown.length} of ${jobs.length}`}</span>
        <div class="sort">
          <Select inline size="sm" labelText="Sort by" bind:selected={sortBy}>
            {#each sorts as { id, label } (id)}<SelectItem value={id} text={label} />{/each}
          </Select>
        </div>
      {/if}
    </div>
    {#if jobs?.length === 0}
      <p class="quiet empty">No jobs yet. Open a demo below, or drop a mesh file ({formatNames}) or a job file anywhere on this page.</p>
    {:else if jobs && shown.length === 0}
      <p class="quiet empty">No matches. <button class="plain" onclick={() => (typed = '')}>Show all jobs</button></p>
    {/if}
    <div class="tiles">
      {#each shown as job (job.id)}<JobTile {job} acts={acts(job)} />{/each}
      {#if !jobs && !closed}{#each [1, 2, 3] as n (n)}<SkeletonPlaceholder style="width:100%;height:200px" />{/each}{/if}
      {#if jobs?.length}
        <button class="drop" onclick={() => chooser.click()}><Upload size={20} />Drop a mesh or a job anywhere on this page</button>
      {/if}
    </div>

    <TemplateTiles {templates} onstart={startFrom} onrename={(template) => (renaming = template)} onremove={remove} />

    <RecentFiles
      {files}
      onopen={(name) => doing(async () => (dropped = await openRecent(name)))}
      onforget={(name) => doing(() => forgetFile(name))}
    />

    <div class="heading">
      <h2>Demo jobs</h2>
      <span class="quiet">of the Saltmarsh Fog Signal Station, each opens as your own copy</span>
    </div>
    <div class="tiles">
      {#each demos as demo (demo.id)}<DemoTile {demo} busy={busy !== ''} onopen={() => startDemo(demo)} />{/each}
    </div>

    <TrashTiles {trash} onrestore={restore} onempty={(ids) => doing(() => emptyTrash(ids))} />
  </main>
  <footer>
    {#if jobs}<StorageRoom {jobs} {room} onask={() => doing(askToKeep)} onexport={(id) => doing(() => exportStored(id))} />{/if}
    <span class="quiet">Works offline. Jobs never leave this machine.</span>
  </footer>
</div>

{#if undoable}
  <div class="toast">
    <ToastNotification
      kind="info"
      lowContrast
      title={undoable.text}
      subtitle={undoable.more ?? ''}
      timeout={12000}
      on:close={() => (undoable = undefined)}
    >
      {#if undoable.undo}
        <button
          class="plain"
          onclick={async () => {
            await undoable?.undo?.();
            undoable = undefined;
          }}>Undo</button
        >
      {/if}
    </ToastNotification>
  </div>
{/if}

<RenameDialog name={renaming?.name} onclose={() => (renaming = undefined)} onrename={(name) => rename(renaming!, name)} />

{#if dropped}
  <BringInDialog file={dropped} onclose={() => (dropped = undefined)} />
{/if}

<style>
  .page {
    display: grid;
    grid-template-rows: auto 1fr auto;
    min-height: 100dvh;
    background: var(--panel);
  }
  .dragging {
    outline: 3px dashed var(--cobalt);
    outline-offset: -12px;
  }
  header {
    display: flex;
    align-items: center;
    flex-wrap: wrap;
    gap: 8px 10px;
    padding: 10px 32px;
    border-bottom: 1px solid var(--line);
  }
  h1 {
    font-size: 20px;
    font-weight: 600;
  }
  /* headings of the parts of the wall as well */
  main :global(h2) {
    font-size: 16px;
    font-weight: 600;
  }
  .about {
    flex: 1;
    margin-left: 10px;
  }
  .search {
    width: 220px;
  }
  .hidden {
    display: none;
  }
  main {
    padding: 0 32px 32px;
  }
  main :global(.heading) {
    display: flex;
    align-items: center;
    gap: 12px;
    min-height: 32px;
    margin: 20px 0 8px;
    font-size: 13px;
  }
  .sort {
    margin-left: auto;
  }
  main :global(.tiles) {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
    gap: 16px;
  }
  .drop {
    display: grid;
    place-content: center;
    justify-items: center;
    gap: 10px;
    min-height: 160px;
    padding: 0 24px;
    border: 1px dashed var(--edge);
    border-radius: var(--corner);
    background: none;
    color: var(--soft);
    font: inherit;
    text-align: center;
    cursor: pointer;
  }
  .drop:hover {
    background: var(--hover);
  }
  .problem {
    margin-top: 12px;
  }
  .empty {
    padding-bottom: 8px;
  }
  footer {
    position: sticky;
    bottom: 0;
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 4px 16px;
    padding: 8px 32px;
    border-top: 1px solid var(--line);
    background: var(--rail);
    font-size: 12px;
  }
  .toast {
    position: fixed;
    right: 16px;
    bottom: 48px;
    z-index: 10;
  }
</style>
