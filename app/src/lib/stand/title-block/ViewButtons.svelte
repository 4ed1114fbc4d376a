<script lang="ts">
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { pickGesture, pickGestures } from '../gestures/registry.ts';
  import { SIDES, type Side } from '../sides.ts';
  import type { Stand } from '../stand.ts';

  /** Sides to look from, the kind of projection, and how dragging picks. */
  let { job, stand }: { job: OpenJob; stand: Stand | undefined } = $props();

  const order: Side[] = ['front', 'right', 'top', 'back', 'left', 'bottom'];
  const orthographic = $derived(job.view.camera?.orthographic ?? false);
  const chosen = $derived(pickGesture(job.view.gesture));

  function changeGesture(id: string) {
    job.view.gesture = id;
    job.saveViewSoon();
  }
  function toggleThrough() {
    job.view.through = !job.view.through;
    job.saveViewSoon();
  }
</script>

<div class="views" role="group" aria-label="Views">
  {#each order.filter((side) => side in SIDES) as side (side)}<button title="Look from the {side}" onclick={() => stand?.lookFrom(side)}
      >{side}</button
    >{/each}
  <button class="wide" title="Perspective or orthographic" aria-pressed={orthographic} onclick={() => stand?.setOrthographic(!orthographic)}
    >{orthographic ? 'orthographic' : 'perspective'}</button
  >
  <button class="wide" title="Everything in view (Shift+F with nothing picked)" onclick={() => stand?.frame()}>frame all</button>
  <div class="gestures wide" role="group" aria-label="Dragging picks by">
    {#each pickGestures as { id, label, help } (id)}
      <button title={help} aria-pressed={chosen.id === id} onclick={() => changeGesture(id)}>{label}</button>
    {/each}
  </div>
  <button class="wide" title="Dragging picks what the cage hides as well" aria-pressed={job.view.through} onclick={toggleThrough}
    >{job.view.through ? 'through the model' : 'visible only'}</button
  >
  {#if chosen.round}
    <input
      class="wide"
      type="range"
      min="4"
      max="120"
      aria-label="Brush radius"
      title="Radius of the brush (Alt and the wheel)"
      bind:value={job.view.brush}
    />
  {/if}
</div>

<style>
  .views {
    position: absolute;
    right: 8px;
    top: 8px;
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 2px;
    width: 150px;
  }
  .views button {
    font-size: 11px;
    border: 1px solid var(--line);
    background: var(--panel);
    color: inherit;
    padding: 2px 0;
    cursor: pointer;
  }
  .views button:hover {
    border-color: var(--sea);
  }
  .views .wide {
    grid-column: span 3;
  }
  .views [aria-pressed='true'] {
    background: var(--cobalt);
    color: var(--paper);
  }
  .gestures {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 2px;
    margin-top: 6px;
  }
</style>
