<script lang="ts">
  import { Button, Checkbox, ProgressBar } from 'carbon-components-svelte';
  import { describeSelection, fieldsOf, isEmpty, operationById, type Field, type Operation, type Params } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import BordersPanel from './BordersPanel.svelte';
  import PickPanel from './PickPanel.svelte';
  import ProfileField from './ProfileField.svelte';
  import SteeringPanel from './SteeringPanel.svelte';

  let { job, onframe }: { job: OpenJob; onframe: () => void } = $props();

  const live = $derived(job.liveEntry === undefined ? undefined : job.entries.find((e) => e.id === job.liveEntry));
  const operation: Operation | undefined = $derived(job.running?.operation ?? (live && operationById(live.operation)));
  const params: Params = $derived(job.running?.params ?? live?.params ?? {});
  const fields: Field[] = $derived(operation && operation.id !== 'bring-in' ? fieldsOf(operation) : []);
  const possible = $derived(
    fields.filter(
      (f) => !f.when || f.when.is.split('|').includes(String(params[f.when.field] ?? fields.find((x) => x.name === f.when!.field)?.initial))
    )
  );
  let more = $state(false);
  /** seldom needed fields come on demand, and where one of them is set */
  const isSet = (f: Field) => f.more && params[f.name] !== undefined && params[f.name] !== f.initial;
  // the other part of an applied entry may be gone with it
  const shown = $derived(possible.filter((f) => (more || !f.more || isSet(f)) && (f.type !== 'part' || job.running)));
  const hidden = $derived(possible.filter((f) => f.more && !isSet(f)).length);
  const others = $derived(job.parts.filter((p) => p.cage && p.id !== job.active?.id));
  const proposals = $derived.by(() => {
    const { running, active } = job;
    return running?.operation.kind === 'cage' && active?.cage ? (running.operation.proposals?.(active.cage, job.selection) ?? []) : [];
  });
  const castLive = $derived(!job.running && operation?.kind === 'source');
  /** settings of a cast result are tried out here and used only by "Lay again" */
  let draft: Params = $state({});
  $effect(() => {
    if (live) draft = { ...live.params };
  });
  // what was refused is forgotten with its operation, and with its field
  $effect(() => {
    void [operation, job.liveEntry];
    job.refused = {};
  });
  $effect(() => {
    for (const name of Object.keys(job.refused)) if (!shown.some((f) => f.name === name)) delete job.refused[name];
  });
  /** counts up where a switch or choice has to go back to what it was */
  let shownAnew = $state(0);
  const value = (f: Field) => (castLive ? draft[f.name] : params[f.name]) ?? f.initial;

  function set(field: Field, raw: unknown) {
    let next = raw;
    if (field.type === 'number') {
      next = Number(raw);
      const n = next as number;
      if (raw === '' || !Number.isFinite(n)) return refuse(field, raw, `${field.label}: a number is needed.`);
      if (field.above && n === field.min) return refuse(field, raw, `${field.label} must be more than ${field.min}.`);
      if (field.whole && !Number.isInteger(n))
        return refuse(field, raw, `${field.label}: a whole number is needed; it is ${n.toLocaleString('en')}.`);
      if ((field.min !== undefined && n < field.min) || (field.max !== undefined && n > field.max))
        return refuse(
          field,
          raw,
          `${field.label} must lie between ${field.min ?? '-∞'} and ${field.max?.toLocaleString('en') ?? '∞'}; it is ${n.toLocaleString('en')}.`
        );
    }
    delete job.refused[field.name];
    job.message = undefined;
    if (castLive) draft = { ...draft, [field.name]: next };
    else job.setParams({ [field.name]: next });
    // what an applied entry refused is not shown as if it had been taken
    if (value(field) !== next) shownAnew++;
  }

  function refuse(field: Field, raw: unknown, why: string) {
    job.refused[field.name] = { typed: String(raw), why };
    job.tell('error', why);
  }

  const duration = (seconds: number) => (seconds < 90 ? `${Math.ceil(seconds)} s` : `${Math.ceil(seconds / 60)} minutes`);
  $effect(() => {
    // a preview that takes long is begun once the pointer rests
    void [job.running, job.selection, job.version, job.takesLong, job.preview];
    const timer = setTimeout(() => {
      job.previewSlowly();
      job.measureMove();
    }, 250);
    return () => clearTimeout(timer);
  });
</script>

<section aria-label="Card">
  {#if job.task}
    <h3>{job.task.name}</h3>
    <ProgressBar value={job.task.fraction * 100} labelText="{job.task.phase} ..." helperText="{job.task.seconds.toFixed(1)} s" />
    <Button kind="danger-tertiary" size="small" on:click={() => job.task?.stop()}>Stop</Button>
  {:else if operation && (job.running || live)}
    <h3>
      {operation.name}{#if !job.running}<span class="quiet"> applied, still open</span>{/if}
    </h3>
    {#if operation.id === 'auto-quads' && job.running}<p class="quiet">over {job.underQuads?.name}</p>{/if}
    {#if job.pointing}
      {@const { kind, places } = job.pointing}
      <p class="quiet">
        {kind === 'cage'
          ? 'Click along edges, vertices and faces'
          : kind === 'corners'
            ? 'Click vertices, edges and new points, in order (Alt: a new point wherever it is)'
            : kind === 'surface'
              ? 'Drag a point of the smooth surface, or click it and type how far'
              : 'Click points of the curve'}: {places.length} point{places.length === 1 ? '' : 's'} so far.
        {#if places.length > 0}<button class="plain" onclick={() => job.setParams({ points: places.slice(0, -1) })}>Take the last back</button>{/if}
      </p>
    {/if}
    <div class="fields">
      {#each shown as field (`${field.name} ${field.type === 'number' ? '' : shownAnew}`)}
        {#if field.type === 'switch'}
          <Checkbox
            labelText={field.label}
            checked={Boolean(value(field))}
            on:check={(e) => e.detail !== Boolean(value(field)) && set(field, e.detail)}
          />
        {:else if field.type === 'profile'}
          <ProfileField label={field.label} heights={value(field) as number[]} onchange={(heights) => set(field, heights)} />
        {:else if field.type === 'part'}
          <label>
            <span>{field.label}</span>
            <select aria-label={field.label} value={String(value(field) || others[0]?.id || '')} onchange={(e) => set(field, e.currentTarget.value)}>
              {#each others as part (part.id)}<option value={part.id}>{part.name}</option>{/each}
            </select>
          </label>
        {:else}
          <label>
            <span>{field.label}</span>
            {#if field.choices}
              <select aria-label={field.label} value={String(value(field))} onchange={(e) => set(field, e.currentTarget.value)}>
                {#each field.choices as c (c.value)}<option value={c.value}>{c.label}</option>{/each}
              </select>
            {:else}
              {#if field.slider}<input
                  class="slider"
                  type="range"
                  aria-label="{field.label}, dragged"
                  value={Number(value(field))}
                  step={field.step}
                  min={field.min}
                  max={field.max}
                  oninput={(e) => set(field, e.currentTarget.value)}
                />{/if}
              <input
                class="number"
                type="number"
                aria-label={field.label}
                aria-invalid={job.refused[field.name] !== undefined}
                value={job.refused[field.name]?.typed ?? Number(Number(value(field)).toFixed(4))}
                step={field.step ?? 'any'}
                min={field.min}
                max={field.max}
                onchange={(e) => set(field, e.currentTarget.value)}
              />
            {/if}
            <span class="unit quiet">{field.unit ?? ''}</span>
          </label>
        {/if}
      {/each}
    </div>
    {#if proposals.length > 0}
      <ul class="proposals" aria-label="Ways">
        {#each proposals as p (p.label)}
          <li>
            <button
              class="plain"
              disabled={!p.params}
              aria-pressed={p.params !== undefined && Object.entries(p.params).every(([name, v]) => params[name] === v)}
              onclick={() => p.params && job.setParams(p.params)}>{p.label}</button
            ><span class="quiet">{p.cost || 'costs nothing'}</span>
          </li>
        {/each}
      </ul>
    {/if}
    {#if job.running && fields.some((f) => f.name === 'pivot')}
      <button class="plain" aria-pressed={job.movingPivot} onclick={() => (job.movingPivot = !job.movingPivot)}
        >{job.movingPivot ? 'The pivot is placed' : 'Drag the pivot'}</button
      >
    {/if}
    {#if hidden > 0 || more}
      <button class="plain" aria-expanded={more} onclick={() => (more = !more)}>{more ? 'Fewer settings' : `${hidden} more settings`}</button>
    {/if}
    {#if operation.id === 'auto-quads'}
      <SteeringPanel {job} params={castLive ? draft : params} onchange={(p) => (castLive ? (draft = { ...draft, ...p }) : job.setParams(p))} />
    {/if}
    {#if job.forecast}<p class="forecast" data-testid="forecast">{job.forecast}</p>{/if}
    {#if !job.running && job.laterFound}<p class="forecast" data-testid="later">{job.laterFound}</p>{/if}
    {#if job.takesLong && !job.preview}<p class="forecast" data-testid="long">
        The preview may take {duration(job.takesLong)}. Apply runs it in the background, where it can be stopped.
      </p>{/if}
    {#if job.preview?.refusal}<p class="refusal" role="alert">{job.preview.refusal.found} {job.preview.refusal.instead ?? ''}</p>{/if}
    {#if job.running}
      <div class="row">
        <Button size="small" disabled={job.preview?.refusal !== undefined} on:click={() => job.apply()}
          >{operation.id === 'auto-quads' ? 'Lay quads' : 'Apply'}</Button
        >
        <Button size="small" kind="ghost" on:click={() => job.discard()}>Discard</Button>
      </div>
    {:else if operation.id === 'auto-quads'}
      <div class="row"><Button size="small" kind="tertiary" on:click={() => job.layAgain($state.snapshot(draft))}>Lay again</Button></div>
    {/if}
    {#if !job.running && job.active?.cage}
      <p class="number picked" data-testid="selection">{describeSelection(job.active.cage, job.selection)}</p>
    {/if}
    {#if live && !job.running}<ul class="notes">
        {#each live.notes as note, i (i)}<li>{note}</li>{/each}
      </ul>{/if}
    {#if !job.running && job.active?.cage}
      {#if job.view.bench === 5}<BordersPanel {job} {onframe} />{/if}
      <PickPanel {job} />
    {/if}
  {:else if job.active?.cage}
    <h3>{isEmpty(job.selection) ? job.active.name : 'Picked'}</h3>
    <p class="number" data-testid="selection">{describeSelection(job.active.cage, job.selection)}</p>
    {#if isEmpty(job.selection)}<p class="quiet">
        Click on the cage to pick; Shift-click adds; double-click an edge for its loop; drag for a box, a lasso or a brush.
      </p>{/if}
    {#if job.view.bench === 5}<BordersPanel {job} {onframe} />{/if}
    <PickPanel {job} />
  {:else if job.reference}
    <h3>{job.reference.name}</h3>
    <p class="number">{(job.reference.mesh!.faceStart.length - 1).toLocaleString('en')} faces, a reference</p>
    <p class="quiet">Lay quads over it: bench 2, Auto quads (Z).</p>
  {:else}
    <h3>An empty job</h3>
    <p class="quiet">Bring in a file (Z), or begin with a start shape (X).</p>
  {/if}
</section>

<style>
  section {
    padding: 10px 12px;
    overflow-y: auto;
    height: 100%;
  }
  h3 {
    font-size: 14px;
    font-weight: 600;
    margin-bottom: 6px;
  }
  h3 .quiet {
    margin-left: 6px;
    font-weight: 400;
    font-size: 12px;
  }
  .fields {
    display: flex;
    flex-direction: column;
    gap: 4px;
    margin-bottom: 8px;
  }
  label {
    display: grid;
    grid-template-columns: 1fr 104px 38px;
    gap: 6px;
    align-items: center;
  }
  input,
  select {
    height: 26px;
    width: 100%;
    border: 0;
    border-bottom: 1px solid var(--soft);
    background: var(--paper);
    color: inherit;
    font-size: 13px;
    padding: 0 6px;
  }
  input[aria-invalid='true'] {
    outline: 2px solid var(--brick);
  }
  select {
    grid-column: 2 / 4;
  }
  input.slider {
    grid-column: 1 / 4;
    grid-row: 2;
    height: 16px;
    padding: 0;
    border: 0;
  }
  .unit {
    font-size: 12px;
  }
  .row {
    display: flex;
    gap: 6px;
    position: sticky;
    bottom: -10px;
    background: var(--panel);
    padding: 4px 0;
  }
  .proposals {
    font-size: 12px;
    margin-bottom: 6px;
  }
  .proposals li {
    display: grid;
    gap: 0 8px;
    grid-template-columns: auto 1fr;
    align-items: baseline;
  }
  .proposals [aria-pressed='true'] {
    font-weight: 600;
    color: var(--cobalt);
  }
  .forecast {
    font-size: 12px;
    color: var(--soft);
    margin-bottom: 6px;
  }
  .refusal {
    color: var(--brick);
    margin-bottom: 6px;
  }
  .picked {
    border-top: 1px solid var(--line);
    margin-top: 8px;
    padding-top: 6px;
  }
  .notes {
    margin-top: 8px;
    font-size: 12px;
    color: var(--soft);
  }
</style>
