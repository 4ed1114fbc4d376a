<script lang="ts">
  import { add, cross, dot, scaled, subtract, unit, type Triple } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { brushAt, brushes } from './gestures/brush.ts';
  import type { Pixel } from './gestures/gesture.ts';
  import type { Stand } from './stand.ts';

  let { job, stand, at }: { job: OpenJob; stand: Stand; at: Pixel } = $props();

  const SIDES = 48;
  /** Share of the radius where a touch has half its strength. */
  const HALF = 0.5;
  const inHand = $derived(brushes({ job }));
  let seen: { rim: string; half: string; middle: Pixel } | undefined = $state.raw();

  /** A circle that lies on the surface, or on its tangent plane where the surface goes away from it; as it is seen. */
  function circle(middle: Triple, normal: Triple, radius: number): string {
    const side = unit(cross(normal, Math.abs(normal[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0]));
    const other = cross(normal, side);
    const flat = Array.from({ length: SIDES }, (_, i) => {
      const a = (2 * Math.PI * i) / SIDES;
      return add(middle, add(scaled(side, radius * Math.cos(a)), scaled(other, radius * Math.sin(a))));
    });
    const heights = flat.map((p) => {
      const below = stand.surfaceBeside(p, normal, HALF * radius);
      return below ? dot(subtract(below, p), normal) : 0;
    });
    // the middle one of five: where it crosses an edge of the part, single points do not stand out
    const steady = heights.map((_, i) => [-2, -1, 0, 1, 2].map((by) => heights[(i + by + SIDES) % SIDES]).sort((a, b) => a - b)[2]);
    return flat.map((p, i) => stand.onScreen(add(p, scaled(normal, steady[i]))).join(',')).join(' ');
  }

  function place() {
    const hit = inHand && brushAt({ job, stand }, at);
    const radius = Number(job.running?.params.radius);
    seen =
      hit && radius > 0
        ? { rim: circle(hit.at, hit.normal, radius), half: circle(hit.at, hit.normal, HALF * radius), middle: stand.onScreen(hit.at) }
        : undefined;
  }
  $effect(() => {
    if (!inHand) return void (seen = undefined);
    place();
    return stand.afterFrames(place);
  });
</script>

{#if seen}
  <svg class="ring over-stand" aria-hidden="true" data-testid="brush-ring">
    <polygon points={seen.rim} class="halo" />
    <polygon points={seen.rim} />
    <polygon points={seen.half} class="half" />
    <circle cx={seen.middle[0]} cy={seen.middle[1]} r="2" />
  </svg>
{/if}

<style>
  polygon {
    fill: none;
    stroke: var(--cobalt);
    stroke-width: 1.5;
  }
  .halo {
    stroke: var(--panel);
    stroke-width: 4;
    opacity: 0.7;
  }
  .half {
    stroke-dasharray: 3 3;
    stroke-width: 1;
  }
  circle {
    fill: var(--cobalt);
  }
</style>
