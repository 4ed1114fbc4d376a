<script lang="ts">
  import { millimetres } from '@ulvrin/core';
  import { Button } from 'carbon-components-svelte';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import NumberEntry from '$lib/panels/NumberEntry.svelte';
  import type { Paint, PaintValues } from '../marks/overlay.ts';
  import { shareRange } from '../marks/ranges.ts';
  import { rampGradient } from '../marks/ramps.ts';
  import Raised from './Raised.svelte';

  /** The ramp of a paint with its ends; they can be typed, or leave out some share of what was measured. */
  let { job, paint, found }: { job: OpenJob; paint: Paint; found: PaintValues } = $props();
  const SHARES = [100, 98, 90];
  const range = $derived(job.view.ranges[paint.id] ?? found);

  function put(ends: { low: number; high: number } | undefined) {
    const { [paint.id]: _before, ...others } = job.view.ranges;
    job.view.ranges = ends ? { ...others, [paint.id]: ends } : others;
    job.saveViewSoon();
  }
  function type(end: 'low' | 'high', typed: string) {
    if (typed === '') return;
    const ends = { low: range.low, high: range.high, [end]: Number(typed) };
    if (ends.low < ends.high) put(ends);
  }
</script>

<Raised title="Change the ends of the ramp" sheet="Range of the paint">
  {#snippet head()}
    <span class="number">{millimetres(range.low, range.high)}</span>
    <span class="ramp" style="background:{rampGradient(paint.ramp)}"></span>
    <span class="number">{millimetres(range.high)} {paint.unit}</span>
  {/snippet}
  <div class="fields">
    <NumberEntry label="From, {paint.unit}" value={range.low} step={0.1} onchange={(typed) => type('low', typed)} />
    <NumberEntry label="To, {paint.unit}" value={range.high} step={0.1} onchange={(typed) => type('high', typed)} />
    <p class="quiet">Or from what was measured:</p>
    {#each SHARES as share (share)}
      <Button size="small" kind="tertiary" on:click={() => put(shareRange(found.values, share / 100, paint.ramp))}
        >{share === 100 ? 'all values' : `${share} % of them`}</Button
      >
    {/each}
    <Button size="small" kind="ghost" disabled={!job.view.ranges[paint.id]} on:click={() => put(undefined)}>Reset</Button>
  </div>
</Raised>

<style>
  .ramp {
    flex: 1;
    height: 8px;
  }
  .fields {
    display: grid;
    gap: 8px;
    padding: 6px;
    white-space: normal;
  }
  .fields :global(.bx--btn) {
    width: 100%;
    max-width: none;
    min-height: 28px;
  }
</style>
