<script lang="ts">
  import type { Grip } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { withinReach } from './grip-room.ts';
  import type { Stand } from './stand.ts';

  /** A point that is dragged from stop to stop. */
  let { job, stand, grip }: { job: OpenJob; stand: Stand; grip: Grip } = $props();

  type Place = [number, number];
  let seen: { from: Place; at: Place; stops: Place[] } | undefined = $state.raw();
  let dragging = $state(false);
  let layer: HTMLDivElement;

  function place() {
    const from = stand.onScreen(grip.from);
    const [at, ...stops] = withinReach(
      from,
      [grip.at, ...grip.stops.map((s) => s.at)].map((p) => stand.onScreen(p)),
      [layer.clientWidth, layer.clientHeight]
    );
    seen = { from, at, stops };
  }
  $effect(() => {
    place();
    return stand.afterFrames(place);
  });
  const current = $derived(grip.stops.findIndex((s) => s.at.every((x, k) => x === grip.at[k])));

  /** Goes to the stop that is nearest to the pointer. */
  function drag(event: PointerEvent) {
    if (!dragging || !seen) return;
    const r = layer.getBoundingClientRect();
    const far = seen.stops.map(([x, y]) => Math.hypot(x - event.clientX + r.left, y - event.clientY + r.top));
    go(far.indexOf(Math.min(...far)));
  }

  function go(i: number) {
    if (i !== current && grip.stops[i]) job.setParams(grip.stops[i].params);
  }

  function key(event: KeyboardEvent) {
    const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (!step) return;
    event.preventDefault();
    go((current + step + grip.stops.length) % grip.stops.length);
  }
</script>

<div class="over-stand" bind:this={layer}>
  {#if seen}
    <svg class="over-stand" aria-hidden="true">
      <line x1={seen.from[0]} y1={seen.from[1]} x2={seen.at[0]} y2={seen.at[1]} />
      {#each dragging || seen.stops.length < 12 ? seen.stops : [] as [x, y], i (i)}<circle cx={x} cy={y} r="2.5" />{/each}
      <circle class="from" cx={seen.from[0]} cy={seen.from[1]} r="4" />
    </svg>
    <div
      class="grip"
      role="slider"
      tabindex="0"
      aria-label={grip.label}
      aria-valuenow={current + 1}
      aria-valuemin="1"
      aria-valuemax={grip.stops.length}
      aria-valuetext={grip.shows}
      title="{grip.label}: drag it, or use the arrow keys"
      style="left:{seen.at[0]}px;top:{seen.at[1]}px"
      onpointerdown={(e) => {
        dragging = true;
        e.currentTarget.setPointerCapture(e.pointerId);
        e.stopPropagation();
      }}
      onpointermove={drag}
      onpointerup={() => (dragging = false)}
      onpointercancel={() => (dragging = false)}
      onkeydown={key}
    ></div>
    {#if grip.shows}<output class="shows number" style="left:{seen.at[0] + 14}px;top:{seen.at[1]}px">{grip.shows}</output>{/if}
  {/if}
</div>

<style>
  line {
    stroke: var(--brick);
    stroke-width: 2;
  }
  circle {
    fill: var(--panel);
    stroke: var(--brick);
  }
  circle.from {
    fill: var(--brick);
  }
  .grip {
    position: absolute;
    width: 18px;
    height: 18px;
    transform: translate(-50%, -50%);
    border: 2px solid var(--brick);
    border-radius: 50%;
    background: var(--panel);
    cursor: grab;
    pointer-events: auto;
    touch-action: none;
  }
  .shows {
    position: absolute;
    transform: translateY(-50%);
    padding: 1px 5px;
    font-size: 12px;
    background: var(--panel);
    border: 1px solid var(--line);
  }
  .grip:focus-visible {
    outline: 2px solid var(--cobalt);
    outline-offset: 1px;
  }
</style>
