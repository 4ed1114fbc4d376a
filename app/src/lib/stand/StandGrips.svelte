<script lang="ts">
  import type { Grip, StandNumber } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import type { Stand } from './stand.ts';
  import StandGrip from './StandGrip.svelte';

  /** What the running operation lets be dragged on the stand, and the numbers it writes there. */
  let { job, stand }: { job: OpenJob; stand: Stand } = $props();

  const shown = $derived.by((): { grips: Grip[]; numbers: StandNumber[] } => {
    const { running, active } = job;
    if (running?.operation.kind !== 'cage' || !active?.cage) return { grips: [], numbers: [] };
    const { grips, numbers } = running.operation;
    const around = [active.cage, job.selection, running.params] as const;
    return { grips: grips?.(...around) ?? [], numbers: numbers?.(...around) ?? [] };
  });
  let places: [number, number][] = $state.raw([]);
  const place = () => (places = shown.numbers.map(({ at }) => stand.onScreen(at)));
  $effect(() => {
    place();
    return stand.afterFrames(place);
  });

  function type({ value, min, max, params }: StandNumber, field: HTMLInputElement) {
    const typed = Math.round(field.valueAsNumber);
    if (typed >= min && typed <= max) job.setParams(params(typed));
    else {
      job.tell('error', `A whole number from ${min} to ${max.toLocaleString('en')} is needed here.`);
      field.value = String(value);
    }
  }
</script>

{#each shown.grips as grip (grip.label)}<StandGrip {job} {stand} {grip} />{/each}
{#if shown.numbers.length > 0}
  <div class="over-stand">
    {#each shown.numbers as number, i (number.label)}
      {#if places[i]}
        <input
          type="number"
          class="number"
          aria-label={number.label}
          title={number.label}
          min={number.min}
          max={number.max}
          value={number.value}
          style="left:{places[i][0]}px;top:{places[i][1]}px"
          onpointerdown={(e) => e.stopPropagation()}
          onchange={(e) => type(number, e.currentTarget)}
        />
      {/if}
    {/each}
  </div>
{/if}

<style>
  input {
    position: absolute;
    transform: translate(-50%, -50%);
    width: 44px;
    height: 24px;
    padding: 0 2px;
    text-align: center;
    font-size: 12px;
    color: inherit;
    background: var(--panel);
    border: 1px solid var(--brick);
    border-radius: var(--corner);
    pointer-events: auto;
    appearance: textfield;
  }
  input::-webkit-inner-spin-button {
    display: none;
  }
</style>
