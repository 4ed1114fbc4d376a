<script lang="ts">
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import type { Stand } from './stand.ts';

  let { job, stand }: { job: OpenJob; stand: Stand } = $props();

  type Place = [number, number];
  interface Seen {
    guides: { line: string; label: string; at: Place; closed: boolean }[];
    dabs: { at: Place; r: number; label: string }[];
    poles: { at: Place; valence: number; hidden: boolean }[];
    moves: { from: Place; to: Place }[];
  }
  let seen: Seen = $state.raw({ guides: [], dabs: [], poles: [], moves: [] });

  function place() {
    const guides = (job.laying.steering?.guides ?? []).map(({ points, closed, count }, i) => {
      const line = points.map((p) => stand.onScreen(p));
      return {
        line: line.map((p) => p.join(',')).join(' '),
        at: line[0],
        closed: closed === true,
        label: count ? `${i + 1}: ${count} quads` : `${i + 1}`
      };
    });
    const [right] = stand.viewAxes;
    const dabs = (job.laying.steering?.sizes ?? []).map(({ at, radius, percent }) => {
      const [middle, side] = [stand.onScreen(at), stand.onScreen([0, 1, 2].map((k) => at[k] + radius * right[k]) as [number, number, number])];
      return { at: middle, r: Math.hypot(side[0] - middle[0], side[1] - middle[1]), label: `${percent} %` };
    });
    const poles = (job.laying.polePlan ?? job.task?.shown.poles ?? []).map(({ at, valence }) => ({
      at: stand.onScreen(at),
      valence,
      hidden: stand.hides(at)
    }));
    const moves = job.laying.polePlan
      ? (job.laying.steering?.poleMoves ?? []).map(({ from, to }) => ({ from: stand.onScreen(from), to: stand.onScreen(to) }))
      : [];
    seen = { guides, dabs, poles, moves };
  }
  $effect(() => {
    place();
    return stand.afterFrames(place);
  });

  /** A shape with as many corners as a pole has edges. */
  const corners = ([x, y]: Place, valence: number): string =>
    Array.from({ length: valence }, (_, i) => {
      const a = -Math.PI / 2 + (2 * Math.PI * i) / valence;
      return `${x + 6 * Math.cos(a)},${y + 6 * Math.sin(a)}`;
    }).join(' ');
</script>

<svg class="strokes over-stand" aria-hidden="true" data-guides={seen.guides.length} data-dabs={seen.dabs.length} data-poles={seen.poles.length}>
  {#each seen.dabs as { at, r, label }, i (i)}
    <circle cx={at[0]} cy={at[1]} {r} class="dab" /><text x={at[0]} y={at[1] + 4} text-anchor="middle">{label}</text>
  {/each}
  {#each seen.guides as { line, label, at, closed }, i (i)}
    <svelte:element this={closed ? 'polygon' : 'polyline'} points={line} class="halo" xmlns="http://www.w3.org/2000/svg" />
    <svelte:element this={closed ? 'polygon' : 'polyline'} points={line} class="guide" xmlns="http://www.w3.org/2000/svg" />
    <text x={at[0] + 8} y={at[1] - 6}>{label}</text>
  {/each}
  {#each seen.moves as { from, to }, i (i)}<line x1={from[0]} y1={from[1]} x2={to[0]} y2={to[1]} class="dab" />{/each}
  {#each seen.poles as { at, valence, hidden }, i (i)}
    <polygon points={corners(at, valence)} class="pole" class:hidden />
  {/each}
</svg>

<style>
  .strokes {
    font:
      600 12px/1 'IBM Plex Mono',
      monospace;
  }
  .halo,
  .guide {
    fill: none;
    stroke: var(--panel);
    stroke-width: 5;
    stroke-linejoin: round;
  }
  .guide {
    stroke: var(--brick);
    stroke-width: 2.5;
  }
  text {
    fill: var(--brick);
    paint-order: stroke;
    stroke: var(--panel);
    stroke-width: 3px;
  }
  .dab {
    fill: none;
    stroke: var(--brick);
    stroke-dasharray: 4 3;
  }
  .pole {
    fill: var(--violet);
    stroke: var(--panel);
  }
  .hidden {
    opacity: 0.2;
  }
</style>
