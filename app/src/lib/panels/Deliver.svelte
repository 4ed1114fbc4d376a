<script lang="ts">
  import { Button, Checkbox, Modal, RadioButton, RadioButtonGroup, Select, SelectItem } from 'carbon-components-svelte';
  import { dividedCage, fewerLevels, formats, losses, type DeliveryRecord, type DeliveryReport, type PolygonMesh, type Way } from '@ulvrin/core';
  import { exportJob } from '$lib/document/export-job.svelte.ts';
  import { sentPart } from '$lib/job/sent.ts';
  import { makeParcel, recordOf, sendable, type Sendable } from '$lib/job/delivery.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { problemOf } from '$lib/job/refusal-of.ts';
  import { saveFile } from '$lib/platform/save-file.ts';
  import { places } from '$lib/settings/places.svelte.ts';
  import { OwnTask } from '$lib/tasks/own-task.svelte.ts';
  import Arrival from './Arrival.svelte';
  import FormatTable from './FormatTable.svelte';
  import NumberEntry from './NumberEntry.svelte';
  import PlacesDialog from './PlacesDialog.svelte';
  import TaskProgress from './TaskProgress.svelte';

  let { job, onclose, ondelivered }: { job: OpenJob; onclose: () => void; ondelivered: (what: DeliveryRecord) => void } = $props();

  let formatId = $state((formats.find((f) => f.usual) ?? formats[0]).id);
  /** ids of formats that it is sent in beside the first one */
  let also: string[] = $state([]);
  /** all parts that show are sent, and not just the active one */
  let sendsAll = $state(false);
  let what = $state<Sendable>('cage');
  let tolerance = $state(0.1);
  let level = $state('2');
  let detail = $state({ levels: 2, within: 0.1 });
  let upAxis: 'Y' | 'Z' = $state('Y');
  let problem = $state('');
  /** what is done to the cage on its way */
  let way: Way | undefined = $state.raw();
  let destination = $state('');
  let isDescribing = $state(false);
  let arrived: DeliveryReport | undefined = $state.raw();
  const thinning = new OwnTask<PolygonMesh[]>();

  const part = $derived(job.active);
  const format = $derived(formats.find((f) => f.id === formatId)!);
  const others = $derived(job.parts.filter((p) => p.cage && p.id !== part?.id && !job.hidden.includes(p.id)));
  const sendsOthers = $derived(sendsAll && others.length > 0 && what !== 'levels');
  const as = $derived([format, ...formats.filter((f) => f.id !== formatId && also.includes(f.id))]);
  const isZip = $derived(what === 'levels' || sendsOthers || as.length > 1);
  const mesh = $derived.by((): PolygonMesh | undefined => (part?.cage ? part.cage.toPolygons() : undefined));
  const choices = $derived((Object.keys(sendable) as Sendable[]).filter((key) => key !== 'divided' || part?.plan));
  const lost = $derived.by(() => {
    if (!mesh) return [];
    const said = as.flatMap((f) => losses(f, mesh));
    if (what === 'cage' && part?.plan)
      said.push('The level plan: no format carries one. "The cage, divided as the level plan begins" and "Baked" keep its surface.');
    if (what === 'divided' && part && !dividedCage(mesh, part).complete)
      said.push('What the level plan does after its first dividing levels: receivers will smooth those levels, and keep creases.');
    if (upAxis === 'Z' && !format.carries.units) said.push(`${format.name} does not say which axis is up: the receiver must be told it is Z.`);
    return said;
  });

  async function deliver() {
    if (!part || thinning.running) return;
    const settings = { what, upAxis, tolerance, level: Number(level), way };
    const parts = sendsOthers ? [part, ...others] : [part];
    // of what advice was taken for the forecast is what it lies off
    const taken = arrived?.advice.find((a) => a.way === way);
    const told = {
      destination: places.byId(destination)?.name,
      losses: [...(arrived?.losses ?? lost)],
      difference: taken?.difference ?? arrived?.difference
    };
    problem = '';
    problem = await problemOf(async () => {
      const levels =
        what === 'levels'
          ? await thinning.run('Taking out loops', (tasks, tell) => tasks.detailLevels(sentPart(part), $state.snapshot(detail), tell))
          : [];
      // stopped, or told why not
      if (!levels) return;
      const made = makeParcel(parts, settings, as, levels);
      const fewer = what === 'levels' ? fewerLevels(levels.length - 1, detail) : undefined;
      saveFile(made.bytes, made.name);
      ondelivered(await recordOf(parts, settings, as, made, told));
      const size = `${made.name}: ${made.faces.toLocaleString('en')} faces, ${(made.bytes.length / 1024).toFixed(0)} kB.`;
      job.tell('info', fewer ? `${size} ${fewer}` : size);
      onclose();
    });
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
        {#each choices as key (key)}<RadioButton labelText={sendable[key]} value={key} />{/each}
      </RadioButtonGroup>
      {#if what === 'baked'}
        <label class="typed"
          >Tolerance <input class="number" type="number" aria-label="Tolerance" min="0.0001" step="0.05" bind:value={tolerance} /> mm</label
        >
      {/if}
      {#if what === 'levels'}
        <div class="typed">
          <NumberEntry label="Lower levels" value={detail.levels} min={1} max={8} onchange={(typed) => (detail.levels = Number(typed))} />
          <NumberEntry
            label="First one within"
            unit="mm"
            value={detail.within}
            min={0}
            step={0.05}
            onchange={(typed) => (detail.within = Number(typed))}
          />
          <p class="quiet">Whole loops are taken out; each level may move twice as far as the one before.</p>
        </div>
      {/if}
      {#if what === 'smooth' || what === 'limit'}
        <Select labelText="Level" size="sm" bind:selected={level}
          >{#each ['1', '2', '3', '4'] as l (l)}<SelectItem value={l} text={l} />{/each}</Select
        >
      {/if}
    </div>
    <div class="grid">
      <fieldset>
        <legend>Also as</legend>
        {#each formats.filter((f) => f.id !== formatId) as { id, short } (id)}
          <Checkbox
            labelText={short}
            checked={also.includes(id)}
            on:check={({ detail }) => (also = detail ? [...also, id] : also.filter((own) => own !== id))}
          />
        {/each}
      </fieldset>
      {#if others.length > 0 && what !== 'levels'}
        <Checkbox labelText="With {others.length === 1 ? others[0].name : `the ${others.length} other parts that show`}" bind:checked={sendsAll} />
      {/if}
    </div>
    <details>
      <summary>What each format carries of this part</summary>
      {#if mesh}<FormatTable {mesh} chosen={as} />{/if}
    </details>
    {#if lost.length > 0}
      <div class="lost" role="note">
        <strong>This will be lost:</strong>
        <ul>
          {#each lost as sentence, i (i)}<li>{sentence}</li>{/each}
        </ul>
      </div>
    {:else}<p class="quiet">Nothing is lost in this format.</p>{/if}
    {#if problem || thinning.problem}<p class="problem" role="alert">{problem || thinning.problem}</p>{/if}
    <div class="arrival">
      <Arrival
        {job}
        {part}
        {formatId}
        bind:way
        bind:id={destination}
        bind:report={arrived}
        onformat={(id) => (formatId = id)}
        ondescribe={() => (isDescribing = true)}
        {onclose}
      />
    </div>
    <div class="save">
      {#if thinning.running}
        <TaskProgress task={thinning.running} />
        <Button kind="danger-tertiary" size="small" on:click={() => thinning.stop()}>Stop</Button>
      {:else}
        <Button size="small" on:click={deliver}>Save {isZip ? 'ZIP' : format.extensions[0].toUpperCase()} file</Button>
      {/if}
    </div>
  {:else}
    <p class="quiet">There is no cage to deliver yet: lay quads, bring one in, or add a start shape.</p>
  {/if}
  <hr />
  <p class="quiet">The whole job, logbook and references included, as one file that "Bring in a file" opens again:</p>
  <Button size="small" kind="tertiary" on:click={takeWhole}>Export the job</Button>
</Modal>
{#if isDescribing}<PlacesDialog onclose={() => (isDescribing = false)} />{/if}

<style>
  .grid {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px;
    margin-bottom: 12px;
  }
  fieldset {
    display: flex;
    flex-wrap: wrap;
    gap: 0 12px;
    grid-column: 1 / -1;
    padding: 0;
    border: 0;
  }
  fieldset :global(.bx--form-item) {
    flex: none;
  }
  fieldset :global(.bx--form-item.bx--checkbox-wrapper:nth-of-type(n)) {
    margin: 4px 0;
  }
  legend {
    width: 100%;
    font-size: 12px;
    color: var(--soft);
  }
  details {
    margin-bottom: 12px;
  }
  summary {
    cursor: pointer;
    font-size: 13px;
  }
  .typed {
    display: grid;
    gap: 6px;
    align-content: start;
    font-size: 12px;
  }
  .lost {
    border-left: 3px solid var(--brick);
    padding-left: 8px;
    margin-bottom: 12px;
  }
  .arrival {
    margin: 12px 0 14px;
  }
  /* in view however long what is above it gets */
  .save {
    position: sticky;
    bottom: 0;
    padding: 8px 0;
    background: var(--panel);
    z-index: 1;
  }
  hr {
    border: 0;
    border-top: 1px solid var(--line);
    margin: 14px 0;
  }
</style>
