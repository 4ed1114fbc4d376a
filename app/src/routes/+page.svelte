<script lang="ts">
  import { resolve } from '$app/paths';
  import { goto } from '$app/navigation';
  import { Button, Modal, TextInput, ToastNotification } from 'carbon-components-svelte';
  import { onMount } from 'svelte';
  import { acceptedFiles, formatNames } from '@ulvrin/core';
  import BringInDialog from '$lib/panels/BringInDialog.svelte';
  import StorageRoom from '$lib/panels/StorageRoom.svelte';
  import TrashTiles from '$lib/panels/TrashTiles.svelte';
  import { listDemos, openDemo, type DemoEntry } from '$lib/job/demo-files.ts';
  import {
    createJob,
    deleteJob,
    duplicateJob,
    emptyTrash,
    listJobs,
    listTrash,
    newJobId,
    renameJob,
    restoreJob,
    type Tile
  } from '$lib/platform/storage/job-store.ts';
  import { tellOpenPages } from '$lib/document/job-lock.ts';
  import { exportStored } from '$lib/document/export-job.svelte.ts';
  import { whenBlocked } from '$lib/platform/storage/database.ts';
  import { askToKeep, describeClosed, roomLeft, type Room } from '$lib/platform/storage/storage-state.ts';
  import { theme } from '$lib/settings/theme.svelte.ts';

  /** nothing until the storage has answered */
  let jobs: Tile[] | undefined = $state();
  let trash: Tile[] = $state([]);
  let room: Room | undefined = $state.raw();
  let closed = $state('');
  let demos: DemoEntry[] = $state([]);
  let busy = $state('');
  let problem = $state('');
  let renaming: Tile | undefined = $state();
  let newName = $state('');
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
    [jobs, trash] = await Promise.all([listJobs(), listTrash()]);
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
      undoable = { text: `${job.name} was reset.`, more: 'What it was is in the trash.' };
    });
    busy = '';
  }

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

  const when = (iso: string) => new Date(iso).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
  const countsOf = ({ counts }: Tile) =>
    counts.faces > 0
      ? `${counts.faces.toLocaleString('en')} faces, ${counts.faces ? Math.round((100 * counts.quads) / counts.faces) : 0} % quads`
      : counts.triangles > 0
        ? `${counts.triangles.toLocaleString('en')} triangles`
        : 'empty';

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

<main class:dragging>
  <header>
    <div>
      <h1>Ulvrin</h1>
      <p class="quiet">A workshop for cages: the coarse quads that smooth surfaces are built from.</p>
    </div>
    <div class="actions">
      <Button kind="ghost" size="small" on:click={() => theme.set(!theme.night)}>{theme.night ? 'Light theme' : 'Night theme'}</Button>
      <Button kind="tertiary" size="small" on:click={emptyJob}>New job</Button>
      <Button size="small" on:click={() => chooser.click()}>Bring in a file</Button>
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
    </div>
  </header>

  {#if problem}<p class="problem" role="alert">{problem}</p>{/if}
  {#if busy}<p class="quiet" role="status">{busy}</p>{/if}

  <h2>Your jobs</h2>
  {#if closed}<p class="problem" role="alert">{closed}</p>{/if}
  {#if jobs}<StorageRoom {jobs} {room} onask={() => doing(askToKeep)} onexport={(id) => doing(() => exportStored(id))} />{/if}
  {#if jobs?.length === 0}
    <p class="quiet empty">No jobs yet. Open a demo below, or drop a mesh file ({formatNames}) or a job file anywhere on this page.</p>
  {/if}
  <div class="tiles">
    {#each jobs ?? [] as job (job.id)}
      <article class="tile">
        <a href={resolve('/job/[id]', { id: job.id })} aria-label="Open {job.name}">
          {#if job.picture}<img src={job.picture} alt="" />{:else}<div class="blank">no picture yet</div>{/if}
          <strong>{job.name}</strong>
        </a>
        <span class="quiet number">{countsOf(job)}</span>
        <span class="quiet">changed {when(job.changed)}</span>
        <div class="row">
          <button class="plain" onclick={() => ((renaming = job), (newName = job.name))}>Rename</button>
          <button class="plain" onclick={() => doing(() => duplicateJob(job.id))}>Duplicate</button>
          {#if job.demo}<button class="plain" onclick={() => resetDemo(job)}>Reset</button>{/if}
          <button class="plain danger" onclick={() => remove(job)}>Delete</button>
        </div>
      </article>
    {/each}
  </div>

  <TrashTiles {trash} onrestore={restore} onempty={(ids) => doing(() => emptyTrash(ids))} />

  <h2>Demo jobs of the Saltmarsh Fog Signal Station</h2>
  <p class="quiet">Each opens as a copy of its own.</p>
  <div class="tiles">
    {#each demos as demo (demo.id)}
      <article class="tile demo">
        <button class="plain open" disabled={busy !== ''} onclick={() => startDemo(demo)}><strong>{demo.name}</strong></button>
        <span class="quiet">{demo.kind === 'reference' ? 'dense sculpt' : 'cage'}</span>
        <p>{demo.brief}</p>
      </article>
    {/each}
  </div>
</main>

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

<Modal
  open={renaming !== undefined}
  modalHeading="Rename the job"
  primaryButtonText="Rename"
  secondaryButtonText="Cancel"
  size="xs"
  primaryButtonDisabled={newName.trim() === ''}
  on:click:button--secondary={() => (renaming = undefined)}
  on:close={() => (renaming = undefined)}
  on:submit={async () => {
    const [job, name] = [renaming, newName.trim()];
    renaming = undefined;
    if (job && name)
      await doing(async () => {
        await renameJob(job.id, name);
        tellOpenPages(job.id, { is: 'renamed', name });
      });
  }}
>
  <TextInput labelText="Name" bind:value={newName} maxlength={200} />
</Modal>

{#if dropped}
  <BringInDialog file={dropped} onclose={() => (dropped = undefined)} />
{/if}

<style>
  main {
    min-height: 100%;
    padding: 24px 32px 48px;
    max-width: 1280px;
    margin: 0 auto;
  }
  main.dragging {
    outline: 3px dashed var(--cobalt);
    outline-offset: -12px;
  }
  header {
    display: flex;
    justify-content: space-between;
    align-items: flex-start;
    gap: 16px;
    border-bottom: 1px solid var(--line);
    padding-bottom: 16px;
  }
  h1 {
    font-size: 28px;
    font-weight: 600;
  }
  h2 {
    font-size: 16px;
    font-weight: 600;
    margin: 28px 0 8px;
  }
  .actions {
    display: flex;
    gap: 8px;
  }
  .hidden {
    display: none;
  }
  .tiles {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
    gap: 16px;
  }
  .tile {
    background: var(--panel);
    border: 1px solid var(--line);
    padding: 10px;
    display: flex;
    flex-direction: column;
    gap: 4px;
  }
  .tile a {
    color: inherit;
    text-decoration: none;
    display: flex;
    flex-direction: column;
    gap: 6px;
  }
  .tile a:hover strong {
    color: var(--sea);
  }
  .tile img,
  .blank {
    width: 100%;
    height: 156px;
    object-fit: cover;
    background: linear-gradient(var(--paper), var(--paper-deep));
    display: grid;
    place-items: center;
    color: var(--soft);
  }
  .demo {
    border-left: 4px solid var(--sea);
  }
  .demo p {
    font-size: 13px;
  }
  .open {
    font-size: 16px;
    padding-left: 0;
  }
  .row {
    display: flex;
    gap: 8px;
    margin-left: -4px;
    font-size: 13px;
  }
  .danger {
    color: var(--brick);
  }
  .problem {
    color: var(--brick);
    margin-top: 12px;
  }
  .empty {
    padding: 12px 0;
  }
  .toast {
    position: fixed;
    right: 16px;
    bottom: 16px;
    z-index: 10;
  }
</style>
