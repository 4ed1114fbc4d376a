<script lang="ts">
  import { bordersOf, type Hole } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { laysOn } from './gestures/lay.ts';
  import type { Stand } from './stand.ts';

  let { job, stand }: { job: OpenJob; stand: Stand } = $props();
  /** more would hide what they count */
  const MOST_SHOWN = 30;
  /** pixels a count takes */
  const ROOM = 40;

  const rims = $derived.by((): Hole[] => {
    // while quads are laid, of what is laid
    const laying = laysOn(job);
    const cage = (laying && job.preview?.cage) || job.active?.cage;
    if (!cage || !(laying || (job.view.bench === 5 && !job.preview?.cage))) return [];
    const { holes } = bordersOf(cage);
    return holes.length > MOST_SHOWN ? [] : holes;
  });
  let places: { count: number; x: number; y: number; behind: boolean }[] = $state([]);

  /** Each count stands beside the rightmost point of its border, as it is seen. */
  function place() {
    places = rims.map(({ places: points }) => {
      const seen = points.map((p) => ({ p, at: stand.onScreen(p) }));
      const {
        p,
        at: [x, y]
      } = seen.reduce((best, one) => (one.at[0] > best.at[0] ? one : best));
      // where that lies outside, at the side of the view it leaves by
      return { count: points.length, x: Math.min(x, stand.width - ROOM), y, behind: stand.hides(p) };
    });
  }
  $effect(() => {
    place();
    return stand.afterFrames(place);
  });
</script>

<div class="over-stand" role="group" aria-label="Edges of the borders">
  {#each places as { count, x, y, behind }, i (i)}<span class:behind style="left:{x + 6}px;top:{y}px">{count}</span>{/each}
</div>

<style>
  span {
    position: absolute;
    transform: translateY(-50%);
    padding: 0 4px;
    border: 1px solid var(--brick);
    border-radius: 2px;
    background: var(--panel);
    color: var(--brick);
    font:
      600 12px/16px 'IBM Plex Mono',
      monospace;
  }
  /* of a border on the far side: there, but not of what is seen */
  .behind {
    border-style: dashed;
    opacity: 0.45;
  }
</style>
