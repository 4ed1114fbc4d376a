<script lang="ts">
  import { onMount } from 'svelte';
  import { describePlanReport, planReport, reportLevel, type Part } from '@ulvrin/core';
  import { theme } from '$lib/settings/theme.svelte.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { choiceKey, choiceOf, entriesToCompare, entryInWords } from '$lib/job/compared.ts';
  import { clayOf } from '$lib/job/layers.ts';
  import { lookOf } from '$lib/job/view.ts';
  import { Stand } from './stand.ts';

  /** The second pane: the same part in another version, or another part, seen with the first pane's eye. */
  let { job, stand }: { job: OpenJob; stand: Stand } = $props();
  let host: HTMLDivElement;
  let other: Stand | undefined = $state.raw();
  let following = false;

  onMount(() => {
    const made = new Stand(host);
    other = made;
    made.onCamera = () => {
      if (!following) stand.cameraState = made.cameraState;
    };
    return () => {
      other = undefined;
      made.end();
    };
  });

  const choice = $derived(job.view.compare ?? 'smooth');
  const others = $derived(job.parts.filter((p) => p.cage && p.id !== job.active?.id));
  const entries = $derived(entriesToCompare(job.document));
  /** What is shown: it takes the place of the active part. */
  const shown = $derived(job.compared);
  const isTriangles = $derived(job.measures !== undefined && job.measures.faces > 0 && job.measures.triangles === job.measures.faces);
  /** it lies over the first pane, from a share of it on */
  const wipe = $derived(job.view.wipe);

  $effect(() => {
    if (!other) return;
    const { view } = job;
    other.setTheme(theme.night);
    const id = shown?.id ?? '';
    const settings = { ...lookOf(view, id), clay: clayOf(job.document, id) };
    other.show(shown?.cage ? [shown] : [], new Set(), id, () => settings, undefined, undefined);
  });
  $effect(() => {
    const camera = job.view.camera;
    if (!other || !camera) return;
    following = true;
    other.cameraState = $state.snapshot(camera) as never;
    following = false;
  });

  /** One line a pane: faces, spacing and facets of both at the same level. */
  const report = (part: Part | undefined) => {
    if (!part?.cage || part.cage.faceCount === 0) return 'nothing to compare with';
    const mesh = part.cage.toPolygons();
    return describePlanReport(planReport(mesh, part, reportLevel(mesh, Math.max(1, job.view.level))));
  };

  function choose(value: string) {
    job.view.compare = choiceOf(value);
    job.saveViewSoon();
  }

  /** drags the border between both versions */
  function drag(event: PointerEvent) {
    if (event.buttons !== 1) return;
    const { left, width } = host.getBoundingClientRect();
    job.view.wipe = Math.min(0.98, Math.max(0.02, (event.clientX - left) / width));
  }
  function step(event: KeyboardEvent) {
    const by = { ArrowLeft: -0.05, ArrowRight: 0.05 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    job.view.wipe = Math.min(0.98, Math.max(0.02, (wipe ?? 0.5) + by));
  }
</script>

<div
  class="other"
  class:over={wipe !== undefined}
  bind:this={host}
  data-testid="compare"
  style:clip-path={wipe === undefined ? undefined : `inset(0 0 0 ${100 * wipe}%)`}
>
  <label class="choice"
    >Compare with <select aria-label="Compare with" value={choiceKey(choice)} onchange={(e) => choose(e.currentTarget.value)}>
      <option value="smooth">all levels smooth</option>
      <option value="before">before the last entry</option>
      {#if isTriangles}<option value="scheme">{job.active?.scheme === 'loop' ? 'Catmull-Clark’s scheme' : 'Loop’s scheme, for triangles'}</option
        >{/if}
      {#if job.active?.cage?.layers.has('region')}<option value="regions">a cage of its regions</option>{/if}
      {#each entries as entry (entry.id)}<option value={choiceKey({ entry: entry.id })}>{entryInWords(entry, job.entries)}</option>{/each}
      {#each job.document.branches as { name } (name)}<option value={choiceKey({ branch: name })}>the way {name}</option>{/each}
      {#if typeof choice === 'object' && 'destination' in choice}<option value={choiceKey(choice)}>what {shown?.name ?? 'it'} got</option>{/if}
      {#each others as part (part.id)}<option value={choiceKey({ part: part.id })}>{part.name}</option>{/each}
    </select></label
  >
  {#if job.view.smooth && wipe === undefined}
    <p class="reports">
      <strong>Left:</strong>
      {report(job.draft.shownParts.find((p) => p.id === job.active?.id))}<br /><strong>Right:</strong>
      {report(shown)}
    </p>
  {/if}
</div>
{#if wipe !== undefined}
  <div
    class="border"
    style:left="{100 * wipe}%"
    role="slider"
    tabindex="0"
    aria-label="Wipe"
    aria-valuemin="0"
    aria-valuemax="100"
    aria-valuenow={Math.round(100 * wipe)}
    onpointerdown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
    onpointermove={drag}
    onpointerup={() => job.saveViewSoon()}
    onkeydown={step}
  ></div>
{/if}

<style>
  .border {
    position: absolute;
    inset: 0 auto 0 0;
    width: 9px;
    margin-left: -4px;
    cursor: ew-resize;
    touch-action: none;
    background: linear-gradient(to right, transparent 4px, var(--cobalt) 4px 6px, transparent 6px);
  }
  .other {
    position: relative;
    overflow: hidden;
    touch-action: none;
  }
  .over {
    position: absolute;
    inset: 0;
    pointer-events: none;
  }
  .over .choice {
    pointer-events: auto;
  }
  .other :global(canvas) {
    display: block;
  }
  .choice,
  .reports {
    position: absolute;
    right: 8px;
    background: var(--panel);
    border: 1px solid var(--line);
    padding: 4px 8px;
    font-size: 12px;
  }
  .choice {
    top: 8px;
  }
  .reports {
    top: 42px;
    left: 40px;
    font-size: 11px;
  }
  select {
    background: var(--paper);
    color: inherit;
    border: 1px solid var(--line);
  }
</style>
