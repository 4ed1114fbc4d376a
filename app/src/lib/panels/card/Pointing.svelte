<script lang="ts">
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';

  /** What is pointed at so far, and how more is. */
  let { job, pointing }: { job: OpenJob; pointing: NonNullable<OpenJob['pointing']> } = $props();

  const ASKED = {
    cage: 'Click along edges, vertices and faces',
    corners: 'Click vertices, edges and new points, in order (Alt: a new point wherever it is)',
    surface: 'Drag a point of the smooth surface, or click it and type how far',
    space: 'Click points of the curve'
  } as const;
  const places = $derived(pointing.places);
</script>

<p class="quiet">
  {ASKED[pointing.kind]}: {places.length} point{places.length === 1 ? '' : 's'} so far.
  {#if places.length > 0}<button class="plain" onclick={() => job.setParams({ points: places.slice(0, -1) })}>Remove last</button>{/if}
</p>
