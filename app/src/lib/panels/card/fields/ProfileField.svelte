<script lang="ts">
  import { Button } from 'carbon-components-svelte';
  import type { FieldProps } from './field.ts';

  let { field, value, onchange }: FieldProps = $props();
  const heights = $derived(value as number[]);
  const { label } = $derived(field);
  /** heights at both ends, and the lowest: an outline round a level, or a ramp from one height to the other */
  const ends = $derived(field.ends ?? [0, 0]);
  const lowest = $derived(field.ends ? Math.min(...field.ends) : -100);

  const WIDE = 180;
  const HIGH = 64;
  let dragged: number | undefined = $state();
  let svg: SVGSVGElement;
  const x = (i: number) => ((i + 1) / (heights.length + 1)) * WIDE;
  const y = (height: number) => HIGH - 4 - ((height - lowest) / (100 - lowest)) * (HIGH - 8);
  const heightAt = (at: number) => lowest + ((HIGH - 4 - at) / (HIGH - 8)) * (100 - lowest);
  const line = $derived([`0,${y(ends[0])}`, ...heights.map((h, i) => `${x(i)},${y(h)}`), `${WIDE},${y(ends[1])}`].join(' '));

  function put(i: number, height: number) {
    const limited = Math.round(Math.max(lowest, Math.min(100, height)));
    onchange(heights.map((h, k) => (k === i ? limited : h)));
  }

  function drag(event: PointerEvent) {
    if (dragged === undefined) return;
    const r = svg.getBoundingClientRect();
    put(dragged, heightAt(((event.clientY - r.top) * HIGH) / r.height));
  }

  /** The same outline with one point more or fewer. */
  function withPoints(count: number) {
    const all = [ends[0], ...heights, ends[1]];
    const at = (t: number) => {
      const k = Math.min(all.length - 2, Math.floor(t * (all.length - 1)));
      return Math.round(all[k] + (t * (all.length - 1) - k) * (all[k + 1] - all[k]));
    };
    onchange(Array.from({ length: count }, (_, i) => at((i + 1) / (count + 1))));
  }
</script>

<div class="profile" role="group" aria-label={label}>
  <svg
    bind:this={svg}
    viewBox="0 0 {WIDE} {HIGH}"
    role="presentation"
    onpointermove={drag}
    onpointerup={() => (dragged = undefined)}
    onpointerleave={() => (dragged = undefined)}
  >
    <line x1="0" y1={y(ends[1])} x2={WIDE} y2={y(ends[1])} class="base" />
    <polyline points={line} />
    {#each heights as height, i (i)}
      <circle
        cx={x(i)}
        cy={y(height)}
        r="5"
        role="slider"
        tabindex="0"
        aria-label="Point {i + 1}"
        aria-valuenow={height}
        aria-valuemin={lowest}
        aria-valuemax="100"
        onpointerdown={() => (dragged = i)}
        onkeydown={(e) => {
          if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return;
          e.preventDefault();
          e.stopPropagation();
          put(i, height + (e.key === 'ArrowUp' ? 5 : -5));
        }}
      />
    {/each}
  </svg>
  <div class="points">
    <Button size="small" kind="ghost" disabled={heights.length <= 1} on:click={() => withPoints(heights.length - 1)}>Fewer points</Button>
    <Button size="small" kind="ghost" disabled={heights.length >= 15} on:click={() => withPoints(heights.length + 1)}>More points</Button>
  </div>
</div>

<style>
  .profile {
    font-size: 12px;
  }
  .points {
    display: flex;
  }
  svg {
    display: block;
    width: 100%;
    height: 64px;
    background: var(--paper);
    touch-action: none;
  }
  polyline {
    fill: none;
    stroke: var(--cobalt);
    stroke-width: 2;
  }
  .base {
    stroke: var(--line);
  }
  circle {
    fill: var(--cobalt);
    cursor: ns-resize;
  }
  circle:focus-visible {
    outline: none;
    fill: var(--sea);
  }
</style>
