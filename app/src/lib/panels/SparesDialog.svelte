<script lang="ts">
  import { Button, Checkbox, FileUploaderButton, Modal, Search, TextInput } from 'carbon-components-svelte';
  import { isEmpty, plainSpare } from '@ulvrin/core';
  import Fuse from 'fuse.js';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { problemOf } from '$lib/job/refusal-of.ts';
  import { placeSpare, spareOfPicked } from '$lib/job/spares.svelte.ts';
  import { fileStem, saveJson } from '$lib/platform/save-file.ts';
  import type { SpareRecord } from '$lib/platform/storage/database.ts';
  import { forgetSpare, keepSpare, ownSpares, spareIn } from '$lib/platform/storage/spares.ts';
  import NumberEntry from './NumberEntry.svelte';

  /** The shelf: pieces that are kept for use in any job, to be placed on what is picked. */
  let { job, onclose }: { job: OpenJob; onclose: () => void } = $props();

  let all: readonly SpareRecord[] = $state.raw([]);
  let chosenId = $state('');
  let sought = $state('');
  let problem = $state('');
  let kept = $state({ name: '', tags: '' });
  let how = $state({ scale: 1, turn: 0, mirrored: false, along: 4, joins: false });

  const load = async () => (all = await ownSpares());
  void load();
  const attempt = async (work: () => unknown) => (problem = await problemOf(work));

  const index = $derived(new Fuse(all, { keys: ['name', 'spare.tags'], threshold: 0.4 }));
  const shown = $derived(sought.trim() === '' ? all : index.search(sought).map(({ item }) => item));
  const chosen = $derived(all.find(({ id }) => id === chosenId) ?? shown[0]);
  const onEdges = $derived(job.selection.edges.length > 0 && job.selection.faces.length === 0 && job.selection.vertices.length === 0);
  const where = $derived.by(() => {
    const { vertices, edges, faces } = job.selection;
    if (!job.active?.cage || isEmpty(job.selection)) return 'at 0, as nothing is picked';
    if (faces.length > 0) return faces.length === 1 ? 'on the picked face' : `on the middle of the ${faces.length} picked faces`;
    if (vertices.length > 0) return vertices.length === 1 ? 'on the picked vertex' : `on each of the ${vertices.length} picked vertices`;
    return `along the ${edges.length} picked edges`;
  });

  const keep = (event: Event) => {
    event.preventDefault();
    void attempt(async () => {
      const tags = kept.tags.split(',').flatMap((tag) => (tag.trim() ? [tag.trim()] : []));
      const spare = spareOfPicked(job, kept.name.trim() || job.active?.name || 'Spare', tags);
      await keepSpare(spare, await job.document.takePicture?.());
      await load();
      chosenId = all.findLast((own) => own.name === spare.name)!.id;
      kept = { name: '', tags: '' };
    });
  };
  const take = (file: File | undefined) => file && attempt(async () => (await keepSpare(spareIn(await file.text())), await load()));
  function place() {
    if (!chosen) return;
    if (placeSpare(job, chosen.spare, $state.snapshot(how))) return onclose();
    problem = job.message?.text ?? 'It could not be placed.';
  }
</script>

<Modal open passiveModal modalHeading="Spares" size="sm" on:close={onclose}>
  <div class="both">
    <div>
      <Search size="sm" placeholder="Find a spare" labelText="Find a spare" bind:value={sought} />
      <ul aria-label="Spares">
        {#each shown as { id, name, spare, picture } (id)}
          <li class:now={id === chosen?.id}>
            <button class="plain" onclick={() => (chosenId = id)}>
              {#if picture}<img src={picture} alt="" />{/if}
              <span>{name}<span class="quiet">{spare.tags.join(', ')}</span></span>
            </button>
          </li>
        {:else}<li class="quiet">{all.length === 0 ? 'The shelf is empty. Keep a piece below.' : 'No matches.'}</li>{/each}
      </ul>
    </div>
    {#if chosen}
      <section aria-label="Place it">
        <h3>{chosen.name}</h3>
        <p class="quiet">{(chosen.spare.mesh.faceStart.length - 1).toLocaleString('en')} faces. It is placed {where}.</p>
        <NumberEntry label="Scale" value={how.scale} min={0} step={0.1} onchange={(typed) => (how.scale = Number(typed) || 1)} />
        <NumberEntry label="Turn" unit="°" value={how.turn} step={15} onchange={(typed) => (how.turn = Number(typed))} />
        {#if onEdges}
          <NumberEntry label="Copies along them" value={how.along} min={1} max={500} onchange={(typed) => (how.along = Math.max(1, Number(typed)))} />
        {/if}
        <Checkbox labelText="Also mirrored at X = 0" bind:checked={how.mirrored} />
        {#if job.selection.faces.length > 0}
          <Checkbox labelText="Join it: picked faces go, both rims are bridged" bind:checked={how.joins} />
        {/if}
        <div class="row">
          <Button size="small" on:click={place}>Place it</Button>
          <button class="plain act" onclick={() => saveJson(plainSpare(chosen.spare), `${fileStem(chosen.name)}-spare.json`)}>Export</button>
          <button class="plain act" onclick={() => attempt(async () => (await forgetSpare(chosen.id), await load()))}>Remove</button>
        </div>
      </section>
    {/if}
  </div>
  {#if problem}<p class="problem" role="alert">{problem}</p>{/if}
  <form novalidate onsubmit={keep} aria-label="Keep a spare">
    <TextInput
      size="sm"
      labelText={isEmpty(job.selection) ? 'Keep the whole part, under the name' : 'Keep what is picked, under the name'}
      maxlength={120}
      placeholder={job.active?.name ?? 'Spare'}
      bind:value={kept.name}
    />
    <TextInput size="sm" labelText="Tags" placeholder="with commas between" maxlength={200} bind:value={kept.tags} />
    <div class="row">
      <Button kind="tertiary" size="small" type="submit" disabled={!job.active?.cage}>Keep it</Button>
      <FileUploaderButton labelText="Import" kind="ghost" size="small" accept={['.json']} on:change={({ detail }) => take(detail[0])} />
    </div>
  </form>
</Modal>

<style>
  .both {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 16px;
    min-height: 180px;
  }
  ul {
    max-height: 240px;
    margin-top: 8px;
    overflow: auto;
  }
  li button {
    display: flex;
    gap: 8px;
    align-items: center;
    width: 100%;
    padding: 4px 8px;
    text-align: left;
  }
  li span span {
    display: block;
    font-size: 12px;
  }
  img {
    width: 56px;
    height: 34px;
    object-fit: cover;
    border: 1px solid var(--line);
  }
  .now {
    background: var(--picked);
    box-shadow: inset 3px 0 0 var(--cobalt);
  }
  section {
    display: grid;
    gap: 8px;
    align-content: start;
  }
  h3 {
    font-size: 14px;
    font-weight: 600;
  }
  form {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 8px 12px;
    margin-top: 16px;
    padding-top: 12px;
    border-top: 1px solid var(--line);
  }
  .row {
    display: flex;
    align-items: center;
    gap: 12px;
  }
</style>
