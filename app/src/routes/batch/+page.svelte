<script lang="ts">
  import { resolve } from '$app/paths';
  import { onMount } from 'svelte';
  import { listBatches, madeOf, removeBatch } from '$lib/batch/batch-client.ts';
  import { isOver, type BatchState, type QueueState } from '$lib/batch/state.ts';
  import { messageOf } from '$lib/job/refusal-of.ts';
  import BatchCard from '$lib/panels/batch/BatchCard.svelte';
  import BatchForm from '$lib/panels/batch/BatchForm.svelte';
  import Mark from '$lib/panels/header/Mark.svelte';
  import { fileStem, saveFile } from '$lib/platform/save-file.ts';

  /** Milliseconds between two questions to the server, while something is under way and while nothing is. */
  const [BUSY, IDLE] = [700, 5000];

  let queue: QueueState | undefined = $state.raw();
  let problem = $state('');
  let timer: ReturnType<typeof setTimeout> | undefined;
  let isOpen = true;

  onMount(() => {
    void refresh();
    return () => {
      isOpen = false;
      clearTimeout(timer);
    };
  });

  async function refresh() {
    clearTimeout(timer);
    try {
      queue = await listBatches();
      problem = '';
    } catch (error) {
      problem = messageOf(error);
    }
    const isBusy = queue?.batches.some((batch) => !batch.files.every(isOver));
    if (isOpen) timer = setTimeout(refresh, isBusy ? BUSY : IDLE);
  }
  async function doing(work: () => Promise<unknown>) {
    try {
      await work();
      await refresh();
    } catch (error) {
      problem = messageOf(error);
    }
  }
  const save = async ({ id, name }: BatchState) => saveFile(await madeOf(id), `${fileStem(name)}.zip`);
</script>

<svelte:head><title>Ulvrin: batch</title></svelte:head>

<div class="page">
  <header>
    <a href={resolve('/')} aria-label="Jobs"><Mark /></a>
    <h1>Batch</h1>
    <p class="quiet">The same with many files{queue ? `, ${queue.where}` : ''}; this page may be closed meanwhile</p>
    <a class="back" href={resolve('/')}>Jobs</a>
  </header>
  <main>
    <section aria-label="What is to be done">
      <h2>New batch</h2>
      <BatchForm onstarted={refresh} />
    </section>
    <section aria-label="Batches">
      <h2>Batches</h2>
      {#if problem}<p class="problem" role="alert">{problem}</p>{/if}
      {#if queue?.batches.length === 0}
        <p class="quiet">None yet. Choose meshes on the left; what is made of them waits here until you remove it.</p>
      {/if}
      {#each queue?.batches ?? [] as batch (batch.id)}
        <BatchCard {batch} onsave={() => doing(() => save(batch))} onremove={() => doing(() => removeBatch(batch.id))} />
      {/each}
    </section>
  </main>
</div>

<style>
  .page {
    min-height: 100dvh;
    background: var(--panel);
  }
  header {
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 10px 32px;
    border-bottom: 1px solid var(--line);
  }
  h1 {
    font-size: 20px;
    font-weight: 600;
  }
  h2 {
    margin: 20px 0 12px;
    font-size: 16px;
    font-weight: 600;
  }
  header p {
    flex: 1;
    margin-left: 10px;
  }
  .back {
    color: var(--cobalt);
  }
  main {
    display: grid;
    grid-template-columns: minmax(300px, 400px) minmax(0, 1fr);
    gap: 40px;
    max-width: 1280px;
    padding: 0 32px 32px;
  }
  main > section {
    display: grid;
    gap: 16px;
    align-content: start;
  }
  main > section > h2 {
    margin-bottom: -4px;
  }
  @media (max-width: 800px) {
    main {
      grid-template-columns: minmax(0, 1fr);
      gap: 0;
    }
  }
</style>
