<script lang="ts">
  import { onMount } from 'svelte';
  import { Modal } from 'carbon-components-svelte';
  import {
    applyOperation,
    checkPart,
    exampleIds,
    exampleOf,
    kindHeading,
    operationById,
    waysOut,
    type CageOperation,
    type Part,
    type SurfaceSettings
  } from '@ulvrin/core';
  import { theme } from '$lib/settings/theme.svelte.ts';
  import { Stand } from '$lib/stand/stand.ts';
  import { startOverlays } from '$lib/stand/marks/registry.ts';

  /** What a kind of findings is, on a small part that shows it: cause, what it does when smooth, the ways out and what each costs. */
  let { kind = $bindable(), onclose }: { kind: string; onclose: () => void } = $props();
  const SETTINGS: SurfaceSettings = { scheme: 'catmull-clark', borderCorners: 'sharp' };

  const example = $derived(exampleOf(kind));
  const part = $derived<Part | undefined>(example && { id: kind, name: kindHeading(kind), kind: 'cage', cage: example.cage, ...SETTINGS });
  const checked = $derived(example && { cage: example.cage, settings: SETTINGS, reference: example.reference });
  const finding = $derived(checked && checkPart(checked).find((f) => f.kind === kind));
  const ways = $derived(
    checked && finding
      ? waysOut(checked, finding, (id, cage, pick, params) =>
          applyOperation(operationById(id) as CageOperation, cage, pick, params, { surface: SETTINGS, reference: checked.reference })
        )
      : []
  );

  let host: HTMLDivElement;
  let stand: Stand | undefined = $state.raw();
  let smooth = $state(true);
  onMount(() => {
    const made = new Stand(host);
    stand = made;
    return () => {
      stand = undefined;
      made.end();
    };
  });
  $effect(() => {
    if (!stand || !part) return;
    stand.setTheme(theme.night);
    const shown = { cage: true, smooth, level: 3, cageOpacity: smooth ? 0.35 : 1, xray: false, overlays: startOverlays() };
    stand.show([part], new Set(), part.id, () => shown, undefined, undefined);
    if (finding) stand.mark(finding.where);
  });
  $effect(() => {
    if (part) stand?.frame(undefined, true);
  });
</script>

<Modal open passiveModal modalHeading={kindHeading(kind)} size="sm" on:close={onclose}>
  <div class="page">
    <div class="shown" bind:this={host} data-testid="example"></div>
    <button class="plain" aria-pressed={smooth} onclick={() => (smooth = !smooth)}>{smooth ? 'Show the cage' : 'Show it smooth'}</button>
    {#if example}
      <dl>
        <dt>Where it comes from</dt>
        <dd>{example.cause}</dd>
        <dt>What it does</dt>
        <dd>{example.effect}</dd>
        {#if finding}
          <dt>Here</dt>
          <dd>{finding.why}</dd>
        {/if}
        <dt>Ways out</dt>
        {#each ways as { label, outcome } (label)}
          <dd><strong>{label}</strong>: {outcome}.</dd>
        {:else}
          <dd>None is needed, or only by hand: leave it with a reason, and it is not told again.</dd>
        {/each}
      </dl>
    {/if}
    <label
      >Another kind
      <select bind:value={kind}>
        {#each exampleIds as id (id)}<option value={id}>{kindHeading(id)}</option>{/each}
      </select></label
    >
  </div>
</Modal>

<style>
  .page {
    font-size: 13px;
  }
  .shown {
    position: relative;
    height: 260px;
    overflow: hidden;
    border: 1px solid var(--line);
    touch-action: none;
  }
  .shown :global(canvas) {
    display: block;
  }
  dl {
    margin: 8px 0 12px;
  }
  dt {
    margin-top: 8px;
    font-weight: 600;
  }
  dd {
    line-height: 1.4;
  }
  select {
    height: 26px;
    background: var(--field);
    color: inherit;
    border: 1px solid var(--line);
    border-radius: 3px;
    font: inherit;
  }
</style>
