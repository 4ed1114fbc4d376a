<script lang="ts">
  import { pendingOf } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import type { Pixel } from './gestures/gesture.ts';
  import { bandPointsOf, clicksOf, strokesOf } from './gestures/draw-on.ts';
  import { actsOf, lays, laysOn, meantAt } from './gestures/lay.ts';
  import type { Stand } from './stand.ts';

  /** What a click would lay where the pointer is. */
  let { job, stand, at }: { job: OpenJob; stand: Stand; at: Pixel } = $props();

  const inHand = $derived(laysOn(job));
  interface Seen {
    shape: string;
    /** what is there already, and what is new */
    kept: Pixel[];
    fresh: Pixel[];
    what: string;
  }
  let seen: Seen | undefined = $state.raw();
  let pending: Pixel[] = $state.raw([]);
  /** points of a band; those that bend are squares */
  let points: { at: Pixel; kink: boolean }[] = $state.raw([]);

  /** strokes of a skin, as lines */
  let lines: string[] = $state.raw([]);

  function place() {
    lines = strokesOf(job).map((stroke) => stroke.map((p) => stand.onScreen(p).join(',')).join(' '));
    pending = [...pendingOf(actsOf({ job })), ...clicksOf(job)].map(([x, y, z]) => stand.onScreen([x, y, z]));
    points = bandPointsOf(job).map(({ at: p, kink }) => ({ at: stand.onScreen(p), kink }));
    const meant = lays(job) && meantAt({ job, stand }, at);
    if (!meant) return void (seen = undefined);
    const { intent, pointer } = meant;
    const cage = job.preview?.cage ?? job.active!.cage!;
    const corners = intent.over === 'beside' ? intent.corners : [];
    const ends = intent.over === 'edge' ? [cage.origin[intent.half], cage.target(intent.half)].map((v) => cage.position(v)) : [];
    const own = intent.over === 'vertex' ? [cage.position(intent.vertex)] : [];
    const onScreen = (p: readonly number[]) => stand.onScreen([p[0], p[1], p[2]]);
    seen = {
      what: intent.over,
      shape: [...corners, ...ends].map((p) => onScreen(p).join(',')).join(' '),
      kept: [...corners.filter((p) => p[3] === 1).slice(2), ...own].map(onScreen),
      fresh: [...corners.filter((p) => p[3] !== 1), ...(intent.over === 'surface' ? [pointer.at] : [])].map(onScreen)
    };
  }
  $effect(() => {
    if (!inHand) return void (seen = undefined);
    place();
    return stand.afterFrames(place);
  });

  /** Backspace takes the last step back. */
  function back(event: KeyboardEvent) {
    if (event.key !== 'Backspace' || (event.target as HTMLElement).matches('input, select, textarea')) return;
    if (job.draft.stepBack()) event.preventDefault();
  }
</script>

<svelte:window onkeydown={back} />

{#if inHand}
  <svg class="lay over-stand" aria-hidden="true" data-testid="lay-marks" data-over={seen?.what ?? 'nothing'}>
    {#if pending.length > 1 && lays(job)}<polyline points={pending.map((p) => p.join(',')).join(' ')} class="pending" />{/if}
    {#each pending as [x, y], i (i)}<circle cx={x} cy={y} r="4" class="kept" />{/each}
    {#each lines as line, i (i)}<polyline points={line} class="pending" />{/each}
    {#each points as { at: [x, y], kink }, i (i)}
      {#if kink}<rect x={x - 5} y={y - 5} width="10" height="10" class="kept" />{:else}<circle cx={x} cy={y} r="5" class="kept" />{/if}
    {/each}
    {#if seen}
      {#if seen.shape}<polygon points={seen.shape} class="halo" /><polygon points={seen.shape} class:held={seen.what === 'edge'} />{/if}
      {#each seen.fresh as [x, y], i (i)}<circle cx={x} cy={y} r="4" />{/each}
      {#each seen.kept as [x, y], i (i)}<circle cx={x} cy={y} r="6" class="kept" />{/each}
    {/if}
  </svg>
{/if}

<style>
  polygon,
  .pending {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.5;
    stroke-dasharray: 5 3;
  }
  polygon.held {
    stroke: var(--sea);
    stroke-width: 3;
    stroke-dasharray: none;
  }
  .halo {
    stroke: var(--panel);
    stroke-width: 4;
    stroke-dasharray: none;
    opacity: 0.7;
  }
  circle,
  rect {
    fill: var(--panel);
    stroke: var(--ink);
    stroke-width: 1.5;
  }
  .kept {
    fill: var(--sea);
    stroke: var(--panel);
  }
</style>
