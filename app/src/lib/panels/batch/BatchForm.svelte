<script lang="ts">
  import { Button, Checkbox, FileUploaderDropContainer, Select, SelectItem, TextInput } from 'carbon-components-svelte';
  import { acceptedFiles, exampleRoutines, formats, twinsAmong, type Routine } from '@ulvrin/core';
  import { onMount } from 'svelte';
  import { settingsOf } from '$lib/batch/asked.ts';
  import { startBatch } from '$lib/batch/batch-client.ts';
  import { problemOf } from '$lib/job/refusal-of.ts';
  import { saveJson } from '$lib/platform/save-file.ts';
  import { ownRoutines } from '$lib/platform/storage/routines.ts';
  import { places } from '$lib/settings/places.svelte.ts';
  import NumberEntry from '../NumberEntry.svelte';

  /** What is to be done with which files; they are sent to the server one by one. */
  let { onstarted }: { onstarted: () => void } = $props();

  let files: readonly File[] = $state.raw([]);
  let name = $state('');
  let asked = $state({
    lays: false,
    count: 4000,
    as: (formats.find((f) => f.usual) ?? formats[0]).id,
    thins: false,
    levels: 2,
    within: 0.1,
    checks: true
  });
  let routineName = $state('');
  let placeId = $state('');
  let own: readonly Routine[] = $state.raw([]);
  let sending = $state('');
  let problem = $state('');

  onMount(() => void Promise.all([places.load(), ownRoutines().then((all) => (own = all))]).catch(() => undefined));

  const routines = $derived([...exampleRoutines, ...own]);
  const settings = $derived(settingsOf({ ...asked, routine: routines.find((r) => r.name === routineName), to: places.byId(placeId) }));

  const twins = $derived(twinsAmong(files.map((f) => f.name)));

  /** Of files of the same name the one that was chosen last stays. */
  const add = (all: readonly File[]) => (files = all.filter((f, i) => all.findLastIndex((other) => other.name === f.name) === i));
  const start = async (event: Event) => {
    event.preventDefault();
    if (files.length === 0 || twins || sending) return;
    problem = await problemOf(async () => {
      const title = name.trim() || `${files.length === 1 ? files[0].name : `${files.length} files`}`;
      await startBatch(title, $state.snapshot(settings), files, (file, sent) => (sending = `Sending ${file}, ${sent + 1} of ${files.length}`));
      files = [];
      name = '';
    });
    sending = '';
    onstarted();
  };
</script>

<!-- what is wrong is said by the server, in a sentence -->
<form novalidate onsubmit={start} aria-label="New batch">
  <FileUploaderDropContainer
    multiple
    labelText="Drop meshes here, or click to choose them"
    accept={acceptedFiles.split(',').filter((extension) => extension !== '.ulvrin')}
    bind:files
    on:add={({ detail }) => add(detail)}
  />
  {#if files.length > 0}
    <ul aria-label="Files">
      {#each files as file (file.name)}
        <li>
          <span class="name" title={file.name}>{file.name}</span>
          <span class="quiet number">{(file.size / 1024).toFixed(0)} kB</span>
          <button type="button" class="plain" aria-label="Leave {file.name} out" onclick={() => (files = files.filter((f) => f !== file))}>×</button>
        </li>
      {/each}
    </ul>
  {/if}
  <TextInput size="sm" labelText="Name" placeholder={files.length > 0 ? `${files.length} files` : 'Fog horns'} maxlength={120} bind:value={name} />
  <fieldset>
    <legend>With each file, in this order</legend>
    <div class="line">
      <Checkbox labelText="Auto quads" bind:checked={asked.lays} />
      {#if asked.lays}
        <NumberEntry label="Count" value={asked.count} min={100} max={200_000} step={100} onchange={(t) => (asked.count = Number(t))} />
      {/if}
    </div>
    <Select size="sm" labelText="Play a routine" bind:selected={routineName}>
      <SelectItem value="" text="(none)" />
      {#each routines as { name: own }, i (i)}<SelectItem value={own} text={own} />{/each}
    </Select>
    <div class="line">
      <Checkbox labelText="Lower levels of detail" bind:checked={asked.thins} />
      {#if asked.thins}
        <NumberEntry label="Levels" value={asked.levels} min={1} max={8} onchange={(t) => (asked.levels = Number(t))} />
        <NumberEntry label="First one within" unit="mm" value={asked.within} min={0} step={0.05} onchange={(t) => (asked.within = Number(t))} />
      {/if}
    </div>
    <div class="two">
      <Select size="sm" labelText="Save as" bind:selected={asked.as}>
        {#each formats as f (f.id)}<SelectItem value={f.id} text={f.short} />{/each}
      </Select>
      <Select size="sm" labelText="Tell what arrives at" bind:selected={placeId}>
        <SelectItem value="" text="(nowhere)" />
        {#each places.all as d (d.id)}<SelectItem value={d.id} text={d.name} />{/each}
      </Select>
    </div>
    <Checkbox labelText="Count what shows on the smooth surface" bind:checked={asked.checks} />
  </fieldset>
  {#if twins || problem}<p class="problem" role="alert">{twins ?? problem}</p>{/if}
  <div class="row">
    <Button size="small" type="submit" disabled={files.length === 0 || twins !== undefined || sending !== ''}>Start</Button>
    <button type="button" class="plain act" onclick={() => saveJson(settings, 'batch-settings.json')}>Save these settings</button>
    {#if sending}<span class="quiet" role="status">{sending}</span>{/if}
  </div>
</form>

<style>
  form {
    display: grid;
    gap: 12px;
    align-content: start;
  }
  form :global(:is(.bx--file__drop-container, .bx--file-browse-btn)) {
    width: 100%;
    max-width: none;
    height: 72px;
  }
  fieldset {
    display: grid;
    gap: 10px;
    padding: 0;
    border: 0;
  }
  legend {
    margin-bottom: 4px;
    font-size: 14px;
    font-weight: 600;
  }
  .line {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 16px;
  }
  .line :global(.bx--form-item) {
    flex: none;
  }
  .two {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px;
  }
  ul {
    max-height: 150px;
    overflow: auto;
    font-size: 13px;
  }
  li {
    display: flex;
    gap: 8px;
    border-bottom: 1px solid var(--line);
  }
  .name {
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .row {
    display: flex;
    align-items: center;
    gap: 12px;
  }
</style>
