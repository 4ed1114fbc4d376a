<script lang="ts">
  import { Button, FileUploaderButton, Modal, TextInput } from 'carbon-components-svelte';
  import { type Destination, destinationSchema, destinations } from '@ulvrin/core';
  import { problemOf } from '$lib/job/refusal-of.ts';
  import { readPlace } from '$lib/platform/storage/places.ts';
  import { saveJson } from '$lib/platform/save-file.ts';
  import { places } from '$lib/settings/places.svelte.ts';
  import Choice from './Choice.svelte';
  import NumberEntry from './NumberEntry.svelte';

  /** Destinations of the user: described, changed, exported and imported. */
  let { onclose }: { onclose: () => void } = $props();

  const START: Destination = { ...destinations[0], id: '', name: '', about: '' };
  let edited: Destination = $state({ ...START });
  let problem = $state('');
  const choices = (values: readonly string[]) => values.map((value) => ({ value, label: value }));
  const numbers: { name: 'levels' | 'dividesFirst' | 'mostFaces' | 'millimetresPerUnit'; label: string; title: string }[] = [
    { name: 'levels', label: 'Levels it smooths', title: '0: it shows the faces as they come' },
    { name: 'dividesFirst', label: 'Levels divided first', title: 'Without smoothing' },
    { name: 'mostFaces', label: 'Most faces', title: '0: as many as come' },
    { name: 'millimetresPerUnit', label: 'mm a unit', title: 'What it takes a number for where the file does not say' }
  ];

  async function keep(event: Event) {
    event.preventDefault();
    const id = edited.id || places.freeId(edited.name);
    const { value, error } = destinationSchema.validate({ ...$state.snapshot(edited), id });
    if (error) return void (problem = `${error.message}.`);
    await places.keep(value as Destination);
    edited = { ...START };
    problem = '';
  }

  async function take(file: File | undefined) {
    if (!file) return;
    problem = await problemOf(async () => {
      const place = readPlace(await file.text());
      const isTaken = destinations.some(({ id }) => id === place.id);
      await places.keep(isTaken ? { ...place, id: places.freeId(place.name) } : place);
    });
  }
</script>

<Modal open passiveModal modalHeading="Own destinations" size="sm" on:close={onclose}>
  <ul aria-label="Own destinations">
    {#each places.own as place (place.id)}
      <li>
        <span>{place.name} <span class="quiet">{place.about}</span></span>
        <button class="plain act" onclick={() => (edited = { ...place })}>Change</button>
        <button class="plain act" onclick={() => saveJson(place, `${place.id}.json`)}>Export</button>
        <button class="plain act" onclick={() => places.forget(place.id)}>Remove</button>
      </li>
    {:else}<li class="quiet">None yet. Describe how a program that you send to treats a part.</li>{/each}
  </ul>
  <form novalidate onsubmit={keep} aria-label="A destination">
    <TextInput labelText="Name" size="sm" maxlength={60} bind:value={edited.name} />
    <TextInput labelText="What kind of place it is" size="sm" maxlength={300} bind:value={edited.about} />
    <div class="grid">
      <Choice
        label="Creases"
        value={edited.creases}
        choices={choices(['keeps', 'ignores', 'sharp or smooth'])}
        onchange={(v) => (edited.creases = v as Destination['creases'])}
      />
      <Choice
        label="Faces"
        value={edited.faces}
        choices={choices(['keeps', 'fans n-gons', 'triangles'])}
        onchange={(v) => (edited.faces = v as Destination['faces'])}
      />
      <Choice
        label="Border corners"
        value={edited.borders}
        choices={choices(['sharp', 'rounded'])}
        onchange={(v) => (edited.borders = v as Destination['borders'])}
      />
      <Choice label="Up" value={edited.upAxis} choices={choices(['Y', 'Z'])} onchange={(v) => (edited.upAxis = v as Destination['upAxis'])} />
      {#each numbers as { name, label, title } (name)}
        <NumberEntry {label} {title} value={edited[name]} min={0} onchange={(typed) => (edited[name] = Number(typed))} />
      {/each}
    </div>
    {#if problem}<p class="problem" role="alert">{problem}</p>{/if}
    <div class="row">
      <Button size="small" type="submit">{edited.id ? 'Keep changes' : 'Add'}</Button>
      <FileUploaderButton labelText="Import" kind="tertiary" size="small" accept={['.json']} on:change={({ detail }) => take(detail[0])} />
    </div>
  </form>
</Modal>

<style>
  li {
    display: flex;
    gap: 10px;
    padding: 4px 0;
    border-bottom: 1px solid var(--line);
  }
  li span:first-child {
    flex: 1;
  }
  form {
    display: grid;
    gap: 12px;
    margin-top: 16px;
  }
  .grid {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 8px 16px;
  }
  .row {
    display: flex;
    gap: 8px;
  }
</style>
