<script lang="ts">
  import { Button, Modal, RadioButton, RadioButtonGroup, Select, SelectItem } from 'carbon-components-svelte';
  import {
    bake,
    dividedCage,
    formats,
    losses,
    sentBy,
    Subdivision,
    SubdivisionError,
    writeMesh,
    type Part,
    type PolygonMesh,
    type Way
  } from '@ulvrin/core';
  import { exportJob } from '$lib/document/export-job.svelte.ts';
  import { sentPart } from '$lib/job/compared.ts';
  import Arrival from './Arrival.svelte';
  import { saveFile } from '$lib/platform/save-file.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';

  let { job, onclose, ondelivered }: { job: OpenJob; onclose: () => void; ondelivered: (what: string) => void } = $props();

  let formatId = $state((formats.find((f) => f.usual) ?? formats[0]).id);
  let what: 'cage' | 'divided' | 'baked' | 'smooth' | 'limit' = $state('cage');
  let tolerance = $state(0.1);
  let level = $state('2');
  let upAxis: 'Y' | 'Z' = $state('Y');
  let problem = $state('');
  /** what is done to the cage on its way */
  let way: Way | undefined = $state.raw();

  const part = $derived(job.active);
  const format = $derived(formats.find((f) => f.id === formatId)!);
  const mesh = $derived.by((): PolygonMesh | undefined => (part?.cage ? part.cage.toPolygons() : undefined));
  const lost = $derived.by(() => {
    if (!mesh) return [];
    const said = losses(format, mesh);
    if (what === 'cage' && part?.plan)
      said.push('The level plan: no format carries one. "The cage, divided as the level plan begins" and "Baked" keep its surface.');
    if (what === 'divided' && part && !dividedCage(mesh, part).complete)
      said.push('What the level plan does after its first dividing levels: receivers will smooth those levels, and keep creases.');
    if (upAxis === 'Z' && !format.carries.units) said.push(`${format.name} does not say which axis is up: the receiver must be told it is Z.`);
    return said;
  });

  function turned(result: PolygonMesh): PolygonMesh {
    if (upAxis === 'Y') return result;
    const positions = result.positions.slice();
    for (let i = 0; i < positions.length; i += 3) {
      positions[i + 1] = -result.positions[i + 2];
      positions[i + 2] = result.positions[i + 1];
    }
    return { ...result, positions };
  }

  function surfaceOf(cage: PolygonMesh, settings: Part): PolygonMesh {
    if (what === 'cage') return cage;
    if (what === 'divided') return dividedCage(cage, settings).mesh;
    if (what === 'baked') return bake(cage, settings, tolerance).mesh;
    const { scheme, borderCorners, plan } = settings;
    return new Subdivision(cage, { scheme, borderCorners, plan, levels: Number(level), limit: what === 'limit' }).toPolygons(cage);
  }

  function deliver() {
    if (!mesh || !part) return;
    problem = '';
    try {
      const own = way && sentBy(way, sentPart(part));
      const result = turned(own ? own.mesh : surfaceOf(mesh, part));
      const bytes = writeMesh(result, format, {
        name: part.name,
        upAxis,
        scheme: what === 'limit' ? 'none' : part.scheme,
        borderCorners: part.borderCorners
      });
      const fileName = `${part.name.replace(/[^\w-]+/g, '-').toLowerCase()}.${format.extensions[0]}`;
      saveFile(bytes, fileName);
      ondelivered(format.id);
      job.tell('info', `${fileName}: ${(result.faceStart.length - 1).toLocaleString('en')} faces, ${(bytes.length / 1024).toFixed(0)} kB.`);
      onclose();
    } catch (error) {
      if (!(error instanceof SubdivisionError)) throw error;
      problem = error.message;
    }
  }

  function takeWhole() {
    exportJob(job);
    onclose();
  }
</script>

<Modal open passiveModal modalHeading="Deliver" size="sm" on:close={onclose}>
  {#if part}
    <div class="grid">
      <Select labelText="Format" size="sm" bind:selected={formatId}>
        {#each formats as f (f.id)}<SelectItem value={f.id} text={f.name} />{/each}
      </Select>
      <Select labelText="Up" size="sm" bind:selected={upAxis}><SelectItem value="Y" text="Y" /><SelectItem value="Z" text="Z" /></Select>
      <RadioButtonGroup legendText="What of {part.name}" bind:selected={what} orientation="vertical">
        <RadioButton labelText="The cage" value="cage" />
        {#if part.plan}<RadioButton labelText="The cage, divided as the level plan begins" value="divided" />{/if}
        <RadioButton labelText="Baked, for receivers that ignore creases" value="baked" />
        <RadioButton labelText="Subdivided" value="smooth" />
        <RadioButton labelText="Subdivided, on the limit surface" value="limit" />
      </RadioButtonGroup>
      {#if what === 'baked'}
        <label class="tolerance"
          >Tolerance <input class="number" type="number" aria-label="Tolerance" min="0.0001" step="0.05" bind:value={tolerance} /> mm</label
        >
      {/if}
      {#if what === 'smooth' || what === 'limit'}
        <Select labelText="Level" size="sm" bind:selected={level}
          >{#each ['1', '2', '3', '4'] as l (l)}<SelectItem value={l} text={l} />{/each}</Select
        >
      {/if}
    </div>
    {#if lost.length > 0}
      <div class="lost" role="note">
        <strong>This will be lost:</strong>
        <ul>
          {#each lost as sentence, i (i)}<li>{sentence}</li>{/each}
        </ul>
      </div>
    {:else}<p class="quiet">Nothing is lost in this format.</p>{/if}
    {#if problem}<p class="problem" role="alert">{problem}</p>{/if}
    <div class="arrival">
      <Arrival {job} {part} {formatId} bind:way onformat={(id) => (formatId = id)} {onclose} />
    </div>
    <Button size="small" on:click={deliver}>Save {format.extensions[0].toUpperCase()} file</Button>
  {:else}
    <p class="quiet">There is no cage to deliver yet: lay quads, bring one in, or add a start shape.</p>
  {/if}
  <hr />
  <p class="quiet">The whole job, logbook and references included, as one file that "Bring in a file" opens again:</p>
  <Button size="small" kind="tertiary" on:click={takeWhole}>Export the job</Button>
</Modal>

<style>
  .grid {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px;
    margin-bottom: 12px;
  }
  .lost {
    border-left: 3px solid var(--brick);
    padding-left: 8px;
    margin-bottom: 12px;
  }
  .problem {
    color: var(--brick);
  }
  .arrival {
    margin: 12px 0 14px;
  }
  hr {
    border: 0;
    border-top: 1px solid var(--line);
    margin: 14px 0;
  }
</style>
