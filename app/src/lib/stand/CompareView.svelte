<script lang="ts">
  import { onMount } from 'svelte';
  import { describePlanReport, planReport, reportLevel, type Part } from '@ulvrin/core';
  import { theme } from '$lib/settings/theme.svelte.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { lookOf, type Comparison } from '$lib/job/view.ts';
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
  /** What is shown: it takes the place of the active part. */
  const shown = $derived.by((): Part | undefined => {
    const { active } = job;
    if (!active) return undefined;
    if (choice === 'smooth') return { ...active, plan: undefined };
    if (choice === 'before') return job.document.partsBefore.find((p) => p.id === active.id);
    return job.parts.find((p) => p.id === choice.part);
  });

  $effect(() => {
    if (!other) return;
    const { view } = job;
    other.setTheme(theme.night);
    const settings = lookOf(view, shown?.id ?? '');
    other.show(shown?.cage ? [shown] : [], new Set(), shown?.id ?? '', () => settings, undefined, undefined);
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

  const key = (c: Comparison) => (typeof c === 'string' ? c : c.part);
  function choose(value: string) {
    job.view.compare = value === 'smooth' || value === 'before' ? value : { part: value };
    job.saveViewSoon();
  }
</script>

<div class="other" bind:this={host} data-testid="compare">
  <label class="choice"
    >Compare with <select aria-label="Compare with" value={key(choice)} onchange={(e) => choose(e.currentTarget.value)}>
      <option value="smooth">all levels smooth</option>
      <option value="before">before the last entry</option>
      {#each others as part (part.id)}<option value={part.id}>{part.name}</option>{/each}
    </select></label
  >
  {#if job.view.smooth}
    <p class="reports">
      <strong>Left:</strong>
      {report(job.draft.shownParts.find((p) => p.id === job.active?.id))}<br /><strong>Right:</strong>
      {report(shown)}
    </p>
  {/if}
</div>

<style>
  .other {
    position: relative;
    overflow: hidden;
    touch-action: none;
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
