<script lang="ts">
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import type { Stand } from './stand.ts';

  /** Numbers on the stand where the check found what shows, the gravest first. */
  let { job, stand }: { job: OpenJob; stand: Stand } = $props();
  /** more would hide what they mark */
  const MOST = 20;
  const shown = $derived(job.view.bench === 7 && !job.running ? (job.findings.listed ?? []).filter((f) => f.visible).slice(0, MOST) : []);
  let places: { x: number; y: number; behind: boolean }[] = $state.raw([]);

  function place() {
    places = shown.map(({ place: p }) => {
      const [x, y] = stand.onScreen(p);
      return { x, y, behind: stand.hides(p) };
    });
  }
  $effect(() => {
    place();
    return stand.afterFrames(place);
  });
  function look(i: number) {
    job.findings.now = shown[i];
    job.pickMany(shown[i].where, 'instead');
  }
</script>

<div class="over-stand" role="group" aria-label="Findings on the part">
  {#each places.slice(0, shown.length) as { x, y, behind }, i (i)}
    <button
      class:behind
      class:now={shown[i] === job.findings.now}
      style="left:{x}px;top:{y}px"
      title={shown[i].why}
      aria-label="Finding {i + 1}: {shown[i].why}"
      onclick={() => look(i)}>{i + 1}</button
    >
  {/each}
</div>

<style>
  button {
    position: absolute;
    transform: translate(-50%, -50%);
    min-width: 20px;
    height: 20px;
    padding: 0 4px;
    border: 1px solid var(--panel);
    border-radius: 10px;
    background: var(--brick);
    color: var(--panel);
    font:
      600 12px/18px 'IBM Plex Mono',
      monospace;
    cursor: pointer;
    pointer-events: auto;
  }
  button:hover,
  button:focus-visible {
    outline: 2px solid var(--sea);
  }
  .behind {
    opacity: 0.45;
  }
  .now {
    background: var(--cobalt);
    opacity: 1;
  }
</style>
